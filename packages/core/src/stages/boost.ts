import type { BoostStage } from '../model/kinds/boost.ts';
import { converterSolver } from './converter.ts';
import { LossLaw } from './lossLaw.ts';
import { modeIndex, type StageSolver } from './point.ts';

/**
 * Boost: regulates while its input, less rectifier and resistance, stays below the set output; above that
 * the input passes through. Ceiling Vin/(1 − Dmax) − Vrectifier, switch current limited at the input.
 * Source: volt-second balance; Erickson and Maksimović, Fundamentals of Power Electronics (from memory).
 */
export function boostSolver(stage: BoostStage): StageSolver {
  const { outputVolts: set, maxDuty, passResistance, rectifierVolts, loss } = stage;
  return converterSolver({
    set,
    law: new LossLaw(loss, set),
    quiescent: loss.quiescentCurrent,
    outputLimit: stage.outputLimit ?? Infinity,
    inputLimit: stage.inputLimit,
    ceiling: { gain: 1 / (1 - maxDuty), ohms: 0, volts: rectifierVolts },
    pass: { volts: rectifierVolts, resistance: passResistance },
    resistance: passResistance,
    mode: modeIndex('boost'),
  });
}

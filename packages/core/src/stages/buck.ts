import type { BuckStage } from '../model/kinds/buck.ts';
import { converterSolver } from './converter.ts';
import { LossLaw } from './lossLaw.ts';
import { modeIndex, type StageSolver } from './point.ts';

/**
 * Buck: regulates while Dmax·Vin − R·Iout ≥ Vset; below that it drops out and the output follows the input.
 * Source: volt-second balance at D = Dmax; Erickson and Maksimović, Fundamentals of Power Electronics (from memory).
 */
export function buckSolver(stage: BuckStage): StageSolver {
  const { outputVolts: set, maxDuty, dropoutResistance: resistance, loss } = stage;
  return converterSolver({
    set,
    law: new LossLaw(loss, set),
    quiescent: loss.quiescentCurrent,
    outputLimit: stage.outputLimit ?? Infinity,
    inputLimit: Infinity,
    ceiling: { gain: maxDuty, ohms: resistance, volts: 0 },
    resistance,
    mode: modeIndex('buck'),
  });
}

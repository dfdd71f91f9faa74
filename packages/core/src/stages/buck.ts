import type { BuckStage } from '../model/kinds/buck.ts';
import { converterSolver } from './converter.ts';
import { lossLaw } from './lossLaw.ts';
import { modeIndex, type StageSolver } from './point.ts';

/**
 * Buck: regulates while Dmax·Vin − R·Iout ≥ Vset; below that it drops out and the output follows the input.
 * Source: volt-second balance at D = Dmax; Erickson and Maksimović, Fundamentals of Power Electronics (from memory).
 */
export function buckSolver(stage: BuckStage): StageSolver {
  const { outputVolts: set, maxDuty, dropoutResistance: resistance, loss } = stage;
  const buck = modeIndex('buck');
  return converterSolver({
    set,
    law: lossLaw(loss, set),
    quiescent: loss.quiescentCurrent,
    outputLimit: stage.outputLimit ?? Infinity,
    inputLimit: Infinity,
    ceiling: (vin, iout) => maxDuty * vin - resistance * iout,
    resistance,
    mode: () => buck,
  });
}

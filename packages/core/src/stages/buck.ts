import type { BuckStage } from '../model/kinds/buck.ts';
import { modeIndex, type StageSolver } from './point.ts';
import { switchingSolver } from './switching.ts';

/**
 * Buck: regulates while Dmax·Vin − R·Iout ≥ Vset; below that it drops out and the output follows the input.
 * Source: volt-second balance at D = Dmax; Erickson and Maksimović, Fundamentals of Power Electronics (from memory).
 */
export function buckSolver(stage: BuckStage, air: number): StageSolver {
  const { maxDuty: gain, dropoutResistance: ohms } = stage;
  const stated = { gain, ohms, volts: 0, resistance: ohms, drop: 0, mode: modeIndex('buck') };
  return switchingSolver(stage, stated, undefined, air);
}

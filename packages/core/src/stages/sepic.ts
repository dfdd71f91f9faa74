import type { SepicStage } from '../model/kinds/sepic.ts';
import { modeIndex, type StageSolver } from './point.ts';
import { switchingSolver } from './switching.ts';

/**
 * SEPIC: steps up and down; ceiling Vin·Dmax/(1 − Dmax) less rectifier and path.
 * Source: volt-second balance; Erickson and Maksimović, Fundamentals of Power Electronics (from memory).
 */
export function sepicSolver(stage: SepicStage, air: number): StageSolver {
  const { maxDuty, pathResistance: ohms, rectifierVolts: volts } = stage;
  const gain = maxDuty / (1 - maxDuty);
  const stated = { gain, ohms, volts, resistance: ohms, drop: volts, mode: modeIndex('regulating') };
  return switchingSolver(stage, stated, undefined, air);
}

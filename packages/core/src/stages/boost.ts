import type { BoostStage } from '../model/kinds/boost.ts';
import { modeIndex, type StageSolver } from './point.ts';
import { switchingSolver } from './switching.ts';

/**
 * Boost: regulates while its input, less rectifier and resistance, stays below the set output; above that
 * the input passes through. Ceiling Vin/(1 − Dmax) − Vrectifier, switch current limited at the input.
 * Source: volt-second balance; Erickson and Maksimović, Fundamentals of Power Electronics (from memory).
 */
export function boostSolver(stage: BoostStage, air: number): StageSolver {
  const { maxDuty, passResistance: resistance, rectifierVolts: volts } = stage;
  const mode = modeIndex('boost');
  const stated = { gain: 1 / (1 - maxDuty), ohms: 0, volts, resistance, drop: volts, mode };
  return switchingSolver(stage, stated, { volts, resistance }, air);
}

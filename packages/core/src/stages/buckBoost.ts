import type { BuckBoostStage } from '../model/kinds/buckBoost.ts';
import type { Window } from './claimedLaw.ts';
import { modeIndex, type StageSolver } from './point.ts';
import { switchingSolver } from './switching.ts';

/**
 * Input volts between which all four switches of a buck-boost work, as volts + ohms·Iout.
 *
 * buck while Vin ≥ (Vout + I·R)/Dmax,buck; boost while Vin ≤ (1 − Dmin,boost)·Vout + I·R/(1 − Dmin,boost).
 * The edges may cross where the drop is large: then nothing lies between.
 * Source: volt-second balance at the duty limits (own derivation).
 */
export function bothWindow(stage: BuckBoostStage): Window {
  const least = 1 - stage.minBoostDuty;
  const { outputVolts: set, pathResistance: ohms, maxBuckDuty } = stage;
  return {
    low: { volts: least * set, ohms: ohms / least },
    high: { volts: set / maxBuckDuty, ohms: ohms / maxBuckDuty },
    modeBelow: modeIndex('boost'),
    modeInside: modeIndex('both'),
    loss: stage.bothLoss,
  };
}

/** Four-switch buck-boost. */
export function buckBoostSolver(stage: BuckBoostStage, air: number): StageSolver {
  const { maxBoostDuty, pathResistance: resistance } = stage;
  const stated = {
    gain: 1 / (1 - maxBoostDuty),
    ohms: 0,
    volts: 0,
    resistance,
    drop: 0,
    mode: modeIndex('buck'),
    window: bothWindow(stage),
  };
  return switchingSolver(stage, stated, undefined, air);
}

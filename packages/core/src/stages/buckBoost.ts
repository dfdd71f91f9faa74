import type { BuckBoostStage } from '../model/kinds/buckBoost.ts';
import { converterSolver } from './converter.ts';
import { lossLaw } from './lossLaw.ts';
import { modeIndex, type StageSolver } from './point.ts';

/**
 * Input volts between which all four switches of a buck-boost work.
 *
 * buck while Vin ≥ (Vout + I·R)/Dmax,buck; boost while Vin ≤ (1 − Dmin,boost)·Vout + I·R/(1 − Dmin,boost).
 * @param amps [A] output current
 * @returns [V] `boostBelow` ≤ `buckAbove`, or crossing where the drop is large: then nothing lies between
 * Source: volt-second balance at the duty limits (own derivation).
 */
export function bothWindow(stage: BuckBoostStage, amps: number): { boostBelow: number; buckAbove: number } {
  const least = 1 - stage.minBoostDuty;
  const drop = amps * stage.pathResistance;
  return {
    boostBelow: least * stage.outputVolts + drop / least,
    buckAbove: (stage.outputVolts + drop) / stage.maxBuckDuty,
  };
}

/** Four-switch buck-boost. */
export function buckBoostSolver(stage: BuckBoostStage): StageSolver {
  const { outputVolts: set, maxBoostDuty, pathResistance, bothLoss, loss } = stage;
  const [buck, boost, both] = [modeIndex('buck'), modeIndex('boost'), modeIndex('both')];
  const least = 1 - stage.minBoostDuty;
  const boostBelow = (iout: number) => least * set + (iout * pathResistance) / least;
  const buckAbove = (iout: number) => (set + iout * pathResistance) / stage.maxBuckDuty;
  return converterSolver({
    set,
    law: lossLaw(loss, set),
    quiescent: loss.quiescentCurrent,
    outputLimit: stage.outputLimit ?? Infinity,
    inputLimit: stage.inputLimit,
    ceiling: (vin) => vin / (1 - maxBoostDuty),
    resistance: pathResistance,
    mode: (vin, iout) => (vin <= boostBelow(iout) ? boost : vin >= buckAbove(iout) ? buck : both),
    extra(vin, iout) {
      // Rises and falls over a fifth of the window at either edge: a step would leave pack voltages at
      // which no operating point exists, and real parts blend the modes too.
      const low = boostBelow(iout);
      const t = (vin - low) / (buckAbove(iout) - low);
      return t > 0 && t < 1 ? bothLoss * Math.min(1, 5 * t, 5 * (1 - t)) : 0;
    },
  });
}

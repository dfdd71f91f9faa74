import { defaultLinear, LinearStage } from '../../model/kinds/linear.ts';
import { mostHeat } from '../laws/converter.ts';
import { SeriesLaw } from '../laws/series.ts';
import { highestAllowed, highestVoltage } from '../highestVoltage.ts';
import { limitsOf } from '../limits.ts';
import { MODE } from '../modes.ts';
import { HEADROOM, QUIESCENT, type Rail, type StageSolver } from '../point.ts';
import type { Kind } from './kind.ts';

/** Regimes: as it regulates, drops out, folds by current, by heat. */
const REGIME = { regulating: 0, dropout: 1, limited: 2, hot: 3 } as const;

/**
 * Linear regulator: Iin = Iout + Iq. Regulates while Vin − Vdrop − Rdrop·Iout ≥ Vset, else the output
 * follows the input less the dropout. Above its limit it holds the current and lets the volts fall; when its
 * junction would pass its limit it lets them fall until (Vin − Vout)·Iout + Vin·Iq no longer does.
 */
export function linearSolver(stage: LinearStage, air: number): StageSolver {
  const { outputVolts: set, dropoutVolts, dropoutResistance, quiescentCurrent } = stage;
  const limit = limitsOf(stage).output;
  const most = mostHeat(air, stage.thermalResistance, stage.maxJunction);
  let vin = 0;
  let rail: Rail = () => 0;
  const heat = (vout: number, iout: number) => (vin - vout) * iout + vin * quiescentCurrent;
  const dropped = (v: number) => vin - dropoutVolts - dropoutResistance * rail(v);
  const currentSlack = (v: number) => limit - rail(v);
  const heatSlack = (v: number) => most - heat(v, rail(v));
  return (volts, load, out) => {
    vin = volts;
    rail = load;
    let vout = set;
    let mode = MODE.regulating;
    let regime: number = REGIME.regulating;
    let iout = rail(set);
    const open = volts - dropoutVolts;
    if (open - dropoutResistance * iout < set) {
      mode = MODE.dropout;
      regime = REGIME.dropout;
      vout = highestVoltage(dropped, Math.min(open, set));
      iout = vout > 0 ? rail(vout) : 0;
    }
    if (iout > limit) {
      mode = MODE.currentLimit;
      regime = REGIME.limited;
      vout = highestAllowed(currentSlack, vout);
      iout = vout > 0 ? rail(vout) : 0;
    }
    if (vout > 0 && heat(vout, iout) > most) {
      mode = MODE.thermalLimit;
      regime = REGIME.hot;
      vout = highestAllowed(heatSlack, vout);
      iout = vout > 0 ? rail(vout) : 0;
    }
    if (!(vout > 0)) return out.collapse(volts, quiescentCurrent);
    out.set(volts, iout + quiescentCurrent, vout, iout, mode, regime);
    out.loss[HEADROOM] = (volts - vout) * iout;
    out.loss[QUIESCENT] = volts * quiescentCurrent;
  };
}

/** [V] headroom included, what it needs at its input to hold its set volts. @param iout [A] */
export function linearInput(stage: LinearStage, iout: number): number {
  return stage.outputVolts + stage.dropoutVolts + stage.dropoutResistance * iout;
}

export const linear: Kind<LinearStage> = {
  kind: 'linear',
  model: LinearStage,
  create: defaultLinear,
  label: 'Linear',
  compile: (stage, air) => ({
    solve: linearSolver(stage, air),
    filter: 0,
    law: new SeriesLaw(
      stage.dropoutVolts,
      stage.dropoutResistance,
      stage.quiescentCurrent,
      MODE.regulating,
      true,
    ),
    mostHeat: mostHeat(air, stage.thermalResistance, stage.maxJunction),
    bends: (iout) => [linearInput(stage, iout)],
  }),
  ownDraw: (stage) => stage.quiescentCurrent,
  neededInput: linearInput,
  sizable: true,
  picture: { shape: 'pass' },
  usualOutput: (rail) => 0.6 * rail,
};

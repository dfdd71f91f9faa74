import { MODE } from '../modes.ts';
import {
  CONDUCTION,
  COPPER,
  QUIESCENT,
  RECTIFIER,
  type Rail,
  type StagePoint,
  type StageSolver,
} from '../point.ts';
import { highestAllowed, highestVoltage, voltageBetween } from '../highestVoltage.ts';
import type { Law } from './law.ts';

/** What makes one switching stage different from another. */
export interface Topology {
  /** [V] set output */
  set: number;
  law: Law;
  /** [A] own draw */
  quiescent: number;
  /** [A] */
  outputLimit: number;
  /** [W] in the junction that heats it to its limit; Infinity where it does not fold back */
  mostHeat: number;
  /** Present where the input always reaches the output. */
  pass?: Pass;
}

/** What lies on the way through: drop of the rectifier [V], all resistance, and the winding's part of it [Ω]. */
export interface Pass {
  /** [V] [Ω], and [Ω] of it that is copper */
  volts: number;
  resistance: number;
  copper: number;
}

/** Nearness, relative, to the heat limit at which a folded output counts as folded by heat. */
const AT_LIMIT = 1e-6;

/** [W] Slack where no input current is enough: below any that is. */
const HOPELESS = -1e9;

/** Regimes of a stage that does not regulate: beyond any a law has. */
const REGIME = { passing: 1001, dropout: 1002, folded: 1003, throughFolded: 1004 } as const;

/** [W] the junction may take in air of `air` °C. */
export function mostHeat(air: number, thermalResistance = 0, maxJunction = Infinity): number {
  return thermalResistance > 0 ? Math.max(0, (maxJunction - air) / thermalResistance) : Infinity;
}

/**
 * Operating point of a switching converter. The output stands at the set volts, or at the floor (passing
 * through), or at the ceiling (maximum duty), or where the current limit or its heat folds it to.
 */
export function converterSolver(t: Topology): StageSolver {
  const { set, law, quiescent, outputLimit, pass } = t;
  const most = t.mostHeat;
  const passVolts = pass ? pass.volts : 0;
  // One set of closures a stage, not one a call: what they look at stands here.
  let vin = 0;
  let rail: Rail = () => 0;
  const through = (v: number) => vin - passVolts - pass!.resistance * rail(v);
  const ceiling = (v: number) => law.ceiling(vin, rail(v));
  const slack = (v: number) => {
    const i = rail(v);
    const p = law.at(vin, v, i);
    if (p.inputAmps === Infinity) return HOPELESS;
    const room = Math.min(outputLimit - i, p.room);
    return most < Infinity ? Math.min(room, most - p.heat) : room;
  };

  return (volts, load, out) => {
    vin = volts;
    rail = load;
    let iout = rail(set);
    if (pass && vin - passVolts - pass.resistance * iout > set) {
      const vout = voltageBetween(through, set, vin - passVolts);
      return finishPass(t, vin, vout, rail(vout), out, MODE.passThrough, REGIME.passing);
    }
    let vout = set;
    let dropped = false;
    if (law.ceiling(vin, iout) < set) {
      dropped = true;
      vout = highestVoltage(ceiling, Math.min(set, law.ceiling(vin, 0)));
      if (!(vout > 0)) return out.collapse(vin, quiescent);
      iout = rail(vout);
    }
    let p = law.at(vin, vout, iout);
    let mode = dropped ? MODE.dropout : p.mode;
    let regime = dropped ? REGIME.dropout : p.regime;
    if (iout > outputLimit || p.inputAmps === Infinity || p.room < 0 || p.heat > most) {
      vout = highestAllowed(slack, vout);
      if (pass) {
        // A boost cannot limit what flows through its rectifier: the output never folds below that.
        const least = highestVoltage(through, vin - passVolts);
        if (least > (vout > 0 ? vout : 0)) {
          return finishPass(t, vin, least, rail(least), out, MODE.currentLimit, REGIME.throughFolded);
        }
      }
      if (!(vout > 0)) return out.collapse(vin, quiescent);
      iout = rail(vout);
      p = law.at(vin, vout, iout);
      mode = p.heat > most * (1 - AT_LIMIT) ? MODE.thermalLimit : MODE.currentLimit;
      regime = REGIME.folded;
    }
    // Parts beyond all sense (windings of 100 Ω) have no period at all: nothing is given rather than no number.
    if (Number.isNaN(p.inputAmps)) return out.collapse(vin, quiescent);
    out.set(vin, p.inputAmps, vout, iout, mode, regime);
    out.extended = law.outside(vin, iout);
    law.book(p, out.loss);
  };
}

function finishPass(
  t: Topology,
  vin: number,
  vout: number,
  iout: number,
  out: StagePoint,
  mode: number,
  regime: number,
): void {
  const rectifier = t.pass!.volts * iout;
  const copper = t.pass!.copper * iout * iout;
  out.set(vin, iout + t.quiescent, vout, iout, mode, regime);
  out.loss[QUIESCENT] = vin * t.quiescent;
  out.loss[RECTIFIER] = rectifier;
  out.loss[COPPER] = copper;
  out.loss[CONDUCTION] = (vin - vout) * iout - rectifier - copper;
}

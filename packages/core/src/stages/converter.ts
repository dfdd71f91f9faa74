import type { Law } from './law.ts';
import { highestAllowed, highestVoltage, voltageBetween } from './highestVoltage.ts';
import {
  clearLoss,
  CONDUCTION,
  COPPER,
  deadPoint,
  modeIndex,
  QUIESCENT,
  RECTIFIER,
  type Rail,
  type StagePoint,
  type StageSolver,
} from './point.ts';

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
  volts: number;
  resistance: number;
  copper: number;
}

const DROPOUT = modeIndex('dropout');
const PASS = modeIndex('passThrough');
const LIMITED = modeIndex('currentLimit');
const HOT = modeIndex('thermalLimit');
const COLLAPSED = modeIndex('collapsed');

/** Nearness, relative, to the heat limit at which a folded output counts as folded by heat. */
const AT_LIMIT = 1e-6;

/** [W] the junction may take in air of `air` °C. */
export function mostHeat(air: number, thermalResistance = 0, maxJunction = Infinity): number {
  return thermalResistance > 0 ? Math.max(0, (maxJunction - air) / thermalResistance) : Infinity;
}

/**
 * Operating point of a switching converter. The output stands at the set volts, or at the floor (passing
 * through), or at the ceiling (maximum duty), or where the current limit or its heat folds it to.
 */
export function converterSolver(t: Topology): StageSolver {
  const { set, law, quiescent, outputLimit, mostHeat, pass } = t;
  const passVolts = pass ? pass.volts : 0;

  return (vin, rail, out) => {
    let iout = rail(set);
    if (pass && vin - passVolts - pass.resistance * iout > set) {
      const through = (v: number) => vin - passVolts - pass.resistance * rail(v);
      return finishPass(t, vin, voltageBetween(through, set, vin - passVolts), rail, out, PASS);
    }
    let vout = set;
    let mode = -1;
    if (law.ceiling(vin, iout) < set) {
      mode = DROPOUT;
      vout = highestVoltage((v) => law.ceiling(vin, rail(v)), Math.min(set, law.ceiling(vin, 0)));
      if (!(vout > 0)) return deadPoint(out, vin, quiescent, COLLAPSED);
      iout = rail(vout);
    }
    let iin = law.inputAmps(vin, vout, iout);
    const tight = iout > outputLimit || iin === Infinity || law.room(iin) < 0;
    if (tight || law.heat(vin, vout, iout, iin) > mostHeat) {
      vout = highestAllowed((v) => {
        const i = rail(v);
        const amps = law.inputAmps(vin, v, i);
        if (amps === Infinity) return -1e9;
        const room = Math.min(outputLimit - i, law.room(amps));
        return mostHeat < Infinity ? Math.min(room, mostHeat - law.heat(vin, v, i, amps)) : room;
      }, vout);
      if (pass) {
        // A boost cannot limit what flows through its rectifier: the output never folds below that.
        const open = vin - passVolts;
        const through = highestVoltage((v) => open - pass.resistance * rail(v), open);
        if (through > (vout > 0 ? vout : 0)) return finishPass(t, vin, through, rail, out, LIMITED);
      }
      if (!(vout > 0)) return deadPoint(out, vin, quiescent, COLLAPSED);
      iout = rail(vout);
      iin = law.inputAmps(vin, vout, iout);
      mode = law.heat(vin, vout, iout, iin) > mostHeat * (1 - AT_LIMIT) ? HOT : LIMITED;
    } else if (mode < 0) mode = law.mode(vin, iout);

    out.inputVolts = vin;
    out.inputAmps = iin;
    out.outputVolts = vout;
    out.outputAmps = iout;
    out.mode = mode;
    out.extended = law.outside(vin, iout);
    clearLoss(out);
    law.book(vin, vout, iout, iin, out.loss);
  };
}

function finishPass(t: Topology, vin: number, vout: number, rail: Rail, out: StagePoint, mode: number): void {
  const iout = rail(vout);
  const rectifier = t.pass!.volts * iout;
  const copper = t.pass!.copper * iout * iout;
  out.inputVolts = vin;
  out.inputAmps = iout + t.quiescent;
  out.outputVolts = vout;
  out.outputAmps = iout;
  out.mode = mode;
  out.extended = false;
  clearLoss(out);
  out.loss[QUIESCENT] = vin * t.quiescent;
  out.loss[RECTIFIER] = rectifier;
  out.loss[COPPER] = copper;
  out.loss[CONDUCTION] = (vin - vout) * iout - rectifier - copper;
}

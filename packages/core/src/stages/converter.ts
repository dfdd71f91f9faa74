import type { LossLaw } from './lossLaw.ts';
import { highestAllowed, highestVoltage, voltageBetween } from './highestVoltage.ts';
import {
  BOTH,
  clearLoss,
  CONDUCTION,
  CONVERSION,
  deadPoint,
  modeIndex,
  QUIESCENT,
  RECTIFIER,
  type Rail,
  type StagePoint,
  type StageSolver,
} from './point.ts';

/** What makes one switching kind different from another, in numbers: the solver asks too often for closures. */
export interface Topology {
  /** [V] set output */
  set: number;
  law: LossLaw;
  /** [A] own draw */
  quiescent: number;
  /** [A] */
  outputLimit: number;
  /** [A] */
  inputLimit: number;
  /** Most the stage can give (duty at its maximum): gain·Vin − ohms·Iout − volts. */
  ceiling: Ceiling;
  /** Present where the input always reaches the output: drop of rectifier [V] and resistance [Ω] on the way. */
  pass?: { volts: number; resistance: number };
  /** [Ω] series resistance whose conduction loss no claimed efficiency can be better than. */
  resistance: number;
  /** Mode index while regulating; above `window` where there is one. */
  mode: number;
  /** Input volts between which a four-switch stage uses all of its switches. */
  window?: Window;
}

export interface Ceiling {
  gain: number;
  /** [Ω] */
  ohms: number;
  /** [V] */
  volts: number;
}

/** The edges move with the output current: volts + ohms·Iout. */
export interface Window {
  /** [V] [Ω] */
  low: { volts: number; ohms: number };
  high: { volts: number; ohms: number };
  /** mode index below the window */
  modeBelow: number;
  /** mode index inside */
  modeInside: number;
  /** extra loss inside as a share of the output power */
  loss: number;
}

const DROPOUT = modeIndex('dropout');
const PASS = modeIndex('passThrough');
const LIMITED = modeIndex('currentLimit');
const COLLAPSED = modeIndex('collapsed');

/**
 * Operating point of a switching converter from its topology. The output stands at the set volts, or at
 * the floor (passing through), or at the ceiling (maximum duty), or where the current limit folds it to.
 */
export function converterSolver(t: Topology): StageSolver {
  const { set, law, quiescent, outputLimit, inputLimit, pass, resistance, window } = t;
  const { gain, ohms, volts } = t.ceiling;
  const passVolts = pass ? pass.volts : 0;
  const ceiling = (vin: number, iout: number) => gain * vin - ohms * iout - volts;
  const drain = (vin: number, vout: number, iout: number, extra: number) => {
    const byLaw = law.inputAmps(vin, vout, iout);
    const least = (resistance * iout + passVolts) * iout;
    const byResistance = (vout * iout + least) / vin + quiescent;
    return (byLaw > byResistance ? byLaw : byResistance) + (extra * vout * iout) / vin;
  };
  const extraAt = (vin: number, iout: number) => (window ? extraLoss(window, vin, iout) : 0);

  return (vin, rail, out) => {
    let iout = rail(set);
    if (pass && vin - passVolts - pass.resistance * iout > set) {
      const through = (v: number) => vin - passVolts - pass.resistance * rail(v);
      return finishPass(t, vin, voltageBetween(through, set, vin - passVolts), rail, out, PASS);
    }
    let vout = set;
    let mode = -1;
    if (ceiling(vin, iout) < set) {
      mode = DROPOUT;
      vout = highestVoltage((v) => ceiling(vin, rail(v)), Math.min(set, ceiling(vin, 0)));
      if (!(vout > 0)) return deadPoint(out, vin, quiescent, COLLAPSED);
      iout = rail(vout);
    }
    let extra = window ? extraLoss(window, vin, iout) : 0;
    let iin = drain(vin, vout, iout, extra);
    if (iout > outputLimit || iin > inputLimit || iin === Infinity) {
      mode = LIMITED;
      vout = highestAllowed((v) => {
        const i = rail(v);
        const room = Math.min(outputLimit - i, inputLimit - drain(vin, v, i, extraAt(vin, i)));
        return room === -Infinity ? -1e9 : room;
      }, vout);
      if (pass) {
        // A boost cannot limit what flows through its rectifier: the output never folds below that.
        const open = vin - passVolts;
        const through = highestVoltage((v) => open - pass.resistance * rail(v), open);
        if (through > (vout > 0 ? vout : 0)) return finishPass(t, vin, through, rail, out, LIMITED);
      }
      if (!(vout > 0)) return deadPoint(out, vin, quiescent, COLLAPSED);
      iout = rail(vout);
      extra = extraAt(vin, iout);
      iin = drain(vin, vout, iout, extra);
    } else if (mode < 0) mode = window ? modeIn(window, t.mode, vin, iout) : t.mode;

    out.inputVolts = vin;
    out.inputAmps = iin;
    out.outputVolts = vout;
    out.outputAmps = iout;
    out.mode = mode;
    out.extended = law.outside(vin, iout);
    const own = vin * quiescent;
    const both = extra * vout * iout;
    clearLoss(out);
    out.loss[QUIESCENT] = own;
    out.loss[BOTH] = both;
    out.loss[CONVERSION] = vin * iin - vout * iout - own - both;
  };
}

function modeIn(w: Window, above: number, vin: number, iout: number): number {
  if (vin <= w.low.volts + w.low.ohms * iout) return w.modeBelow;
  return vin >= w.high.volts + w.high.ohms * iout ? above : w.modeInside;
}

/**
 * Rises and falls over a fifth of the window at either edge: a step would leave pack voltages at which no
 * operating point exists, and real parts blend the modes too.
 */
function extraLoss(w: Window, vin: number, iout: number): number {
  const low = w.low.volts + w.low.ohms * iout;
  const t = (vin - low) / (w.high.volts + w.high.ohms * iout - low);
  return t > 0 && t < 1 ? w.loss * Math.min(1, 5 * t, 5 * (1 - t)) : 0;
}

function finishPass(t: Topology, vin: number, vout: number, rail: Rail, out: StagePoint, mode: number): void {
  const iout = rail(vout);
  const rectifier = t.pass!.volts * iout;
  out.inputVolts = vin;
  out.inputAmps = iout + t.quiescent;
  out.outputVolts = vout;
  out.outputAmps = iout;
  out.mode = mode;
  out.extended = false;
  clearLoss(out);
  out.loss[QUIESCENT] = vin * t.quiescent;
  out.loss[RECTIFIER] = rectifier;
  out.loss[CONDUCTION] = (vin - vout) * iout - rectifier;
}

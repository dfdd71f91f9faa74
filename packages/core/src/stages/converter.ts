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

/** What makes one switching kind different from another. */
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
  /** [V] most the stage can give at this input and output current (duty at its maximum). */
  ceiling(inputVolts: number, outputAmps: number): number;
  /** Present where the input always reaches the output: drop of rectifier [V] and resistance [Ω] on the way. */
  pass?: { volts: number; resistance: number };
  /** [Ω] series resistance whose conduction loss no claimed efficiency can be better than. */
  resistance: number;
  /** Mode index while regulating. */
  mode(inputVolts: number, outputAmps: number): number;
  /** Extra loss as a share of the output power; continuous in the input volts, or no operating point may exist. */
  extra?(inputVolts: number, outputAmps: number): number;
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
  const passVolts = t.pass ? t.pass.volts : 0;
  const drain = (vin: number, vout: number, iout: number, extra: number) => {
    const byLaw = t.law.inputAmps(vin, vout, iout);
    const least = (t.resistance * iout + passVolts) * iout;
    const byResistance = (vout * iout + least) / vin + t.quiescent;
    return (byLaw > byResistance ? byLaw : byResistance) + (extra * vout * iout) / vin;
  };
  const extraAt = t.extra ?? (() => 0);

  return (vin, rail, out) => {
    const { pass } = t;
    let iout = rail(t.set);
    if (pass && vin - pass.volts - pass.resistance * iout > t.set) {
      const through = (v: number) => vin - pass.volts - pass.resistance * rail(v);
      return finishPass(t, vin, voltageBetween(through, t.set, vin - pass.volts), rail, out, PASS);
    }
    let vout = t.set;
    let mode = -1;
    if (t.ceiling(vin, iout) < t.set) {
      mode = DROPOUT;
      vout = highestVoltage((v) => t.ceiling(vin, rail(v)), Math.min(t.set, t.ceiling(vin, 0)));
      if (!(vout > 0)) return deadPoint(out, vin, t.quiescent, COLLAPSED);
      iout = rail(vout);
    }
    let extra = t.extra ? t.extra(vin, iout) : 0;
    let iin = drain(vin, vout, iout, extra);
    if (iout > t.outputLimit || iin > t.inputLimit || iin === Infinity) {
      mode = LIMITED;
      vout = highestAllowed((v) => {
        const i = rail(v);
        const room = Math.min(t.outputLimit - i, t.inputLimit - drain(vin, v, i, extraAt(vin, i)));
        return room === -Infinity ? -1e9 : room;
      }, vout);
      if (pass) {
        // A boost cannot limit what flows through its rectifier: the output never folds below that.
        const open = vin - pass.volts;
        const through = highestVoltage((v) => open - pass.resistance * rail(v), open);
        if (through > (vout > 0 ? vout : 0)) return finishPass(t, vin, through, rail, out, LIMITED);
      }
      if (!(vout > 0)) return deadPoint(out, vin, t.quiescent, COLLAPSED);
      iout = rail(vout);
      extra = extraAt(vin, iout);
      iin = drain(vin, vout, iout, extra);
    } else if (mode < 0) mode = t.mode(vin, iout);

    out.inputVolts = vin;
    out.inputAmps = iin;
    out.outputVolts = vout;
    out.outputAmps = iout;
    out.mode = mode;
    out.extended = t.law.outside(vin, iout);
    const quiescent = vin * t.quiescent;
    const both = extra * vout * iout;
    clearLoss(out);
    out.loss[QUIESCENT] = quiescent;
    out.loss[BOTH] = both;
    out.loss[CONVERSION] = vin * iin - vout * iout - quiescent - both;
  };
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

import { BOTH, CONVERSION, QUIESCENT } from '../point.ts';
import { emptyLawPoint, type Law, type LawPoint } from './law.ts';
import type { LossLaw } from './loss.ts';

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

/** A stage whose loss is stated, in plain numbers: the solver asks too often for closures. */
export interface Stated {
  loss: LossLaw;
  /** [A] own draw */
  quiescent: number;
  /** [A] */
  inputLimit: number;
  /** Most the stage can give (duty at its maximum): gain·Vin − ohms·Iout − volts. */
  gain: number;
  ohms: number;
  volts: number;
  /** [Ω] [V] series path whose conduction loss no claimed efficiency can be better than */
  resistance: number;
  drop: number;
  /** Mode index while regulating; above `window` where there is one. */
  mode: number;
  /** Input volts between which a four-switch stage uses all of its switches. */
  window?: Window;
}

/** Relative difference below which two ways to state an input current are one. */
const ALIKE = 1e-12;

/** Depths *claimed* and *measured*. */
export class ClaimedLaw implements Law {
  private readonly point = emptyLawPoint();
  private readonly quiescent: number;
  private readonly loss: LossLaw;
  private readonly window: Window | undefined;

  constructor(private readonly stated: Stated) {
    this.quiescent = stated.quiescent;
    this.loss = stated.loss;
    this.window = stated.window;
  }

  at(vin: number, vout: number, iout: number): LawPoint {
    const { point: p, stated, window: w } = this;
    const out = vout * iout;
    const byLaw = this.loss.inputAmps(vin, vout, iout);
    const byResistance = (out + pathLoss(stated, iout)) / vin + this.quiescent;
    p.vin = vin;
    p.vout = vout;
    p.iout = iout;
    p.mode = stated.mode;
    // Where both say the same, neither takes over.
    p.regime = byResistance > byLaw * (1 + ALIKE) ? 1 : 0;
    let amps = byLaw > byResistance ? byLaw : byResistance;
    if (w) {
      const low = w.low.volts + w.low.ohms * iout;
      const high = w.high.volts + w.high.ohms * iout;
      amps += (w.loss * blend(vin, low, high) * out) / vin;
      if (vin <= low) p.mode = w.modeBelow;
      else if (vin < high) p.mode = w.modeInside;
    }
    p.inputAmps = amps;
    p.room = stated.inputLimit - amps;
    p.heat = vin * amps - out;
    return p;
  }

  ceiling(vin: number, iout: number): number {
    return this.stated.gain * vin - this.stated.ohms * iout - this.stated.volts;
  }

  outside(vin: number, iout: number): boolean {
    return this.loss.outside(vin, iout);
  }

  book({ vin, vout, iout, inputAmps }: LawPoint, loss: Float64Array): void {
    const own = vin * this.quiescent;
    const both = this.window ? extraLoss(this.window, vin, iout) * vout * iout : 0;
    loss[QUIESCENT] = own;
    loss[BOTH] = both;
    loss[CONVERSION] = vin * inputAmps - vout * iout - own - both;
  }

  bends(vout: number, iout: number): number[] {
    const { stated, window: w } = this;
    const found = this.loss.bends(vout, iout, vout * iout + pathLoss(stated, iout));
    // Dropout; the input current's limit at constant power in; the edges of the window and of its blend.
    found.push((vout + stated.ohms * iout + stated.volts) / stated.gain);
    if (w) {
      const low = w.low.volts + w.low.ohms * iout;
      const fifth = (w.high.volts + w.high.ohms * iout - low) / 5;
      if (fifth > 0) found.push(low, low + fifth, low + 4 * fifth, low + 5 * fifth);
    }
    return found;
  }
}

/** [W] the series path takes at least, whatever efficiency is claimed. */
function pathLoss({ resistance, drop }: Stated, iout: number): number {
  return (resistance * iout + drop) * iout;
}

/**
 * Rises and falls over a fifth of the window at either edge: a step would leave pack voltages at which no
 * operating point exists, and real parts blend the modes too.
 */
function extraLoss(w: Window, vin: number, iout: number): number {
  return w.loss * blend(vin, w.low.volts + w.low.ohms * iout, w.high.volts + w.high.ohms * iout);
}

/** 0 outside the window, 1 in its middle, straight over a fifth of it at either edge. */
export function blend(vin: number, low: number, high: number): number {
  const t = (vin - low) / (high - low);
  return t > 0 && t < 1 ? Math.min(1, 5 * t, 5 * (1 - t)) : 0;
}

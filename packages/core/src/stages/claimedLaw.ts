import type { Law } from './law.ts';
import type { LossLaw } from './lossLaw.ts';
import { BOTH, CONVERSION, QUIESCENT } from './point.ts';

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

/** Depths *claimed* and *measured*. */
export class ClaimedLaw implements Law {
  private readonly gain: number;
  private readonly ohms: number;
  private readonly volts: number;
  private readonly resistance: number;
  private readonly drop: number;
  private readonly quiescent: number;
  private readonly loss: LossLaw;
  private readonly window: Window | undefined;

  constructor(private readonly stated: Stated) {
    this.gain = stated.gain;
    this.ohms = stated.ohms;
    this.volts = stated.volts;
    this.resistance = stated.resistance;
    this.drop = stated.drop;
    this.quiescent = stated.quiescent;
    this.loss = stated.loss;
    this.window = stated.window;
  }

  inputAmps(vin: number, vout: number, iout: number): number {
    const byLaw = this.loss.inputAmps(vin, vout, iout);
    const least = (this.resistance * iout + this.drop) * iout;
    const byResistance = (vout * iout + least) / vin + this.quiescent;
    const amps = byLaw > byResistance ? byLaw : byResistance;
    return this.window ? amps + (extraLoss(this.window, vin, iout) * vout * iout) / vin : amps;
  }

  ceiling(vin: number, iout: number): number {
    return this.gain * vin - this.ohms * iout - this.volts;
  }

  room(iin: number): number {
    return this.stated.inputLimit - iin;
  }

  heat(vin: number, vout: number, iout: number, iin: number): number {
    return vin * iin - vout * iout;
  }

  mode(vin: number, iout: number): number {
    const { window: w } = this;
    const above = this.stated.mode;
    if (!w) return above;
    if (vin <= w.low.volts + w.low.ohms * iout) return w.modeBelow;
    return vin >= w.high.volts + w.high.ohms * iout ? above : w.modeInside;
  }

  outside(vin: number, iout: number): boolean {
    return this.loss.outside(vin, iout);
  }

  book(vin: number, vout: number, iout: number, iin: number, loss: Float64Array): void {
    const own = vin * this.quiescent;
    const both = this.window ? extraLoss(this.window, vin, iout) * vout * iout : 0;
    loss[QUIESCENT] = own;
    loss[BOTH] = both;
    loss[CONVERSION] = vin * iin - vout * iout - own - both;
  }
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

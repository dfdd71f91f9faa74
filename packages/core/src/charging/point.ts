import type { Charging } from '../model/charging.ts';
import { MECHANISMS } from '../stages/point.ts';

/** What draws from the source besides the charger. */
export interface FromSource {
  /** [A] at the volts of the charger's input, at most so many */
  amps(volts: number, most: number): number;
  /** whether it comes first: the charger gives way to it */
  first: boolean;
}

/** A charger's answer at one voltage of the pack; filled anew by each question. */
export class ChargePoint {
  /** [V] [A] at its output, before a diode behind it */
  outVolts = 0;
  outAmps = 0;
  /** [V] where the cable ends, and what the loads are fed from */
  nodeVolts = 0;
  /** [V] [A] at its input, past a diode before it */
  inVolts = 0;
  inAmps = 0;
  /** [A] of the loads from the source */
  loadAmps = 0;
  /** [V] [A] at the source's terminals */
  sourceVolts = 0;
  sourceAmps = 0;
  /** [W] from the wall, or from an ideal source where nothing is said of the wall */
  supplied = 0;
  /** [W] */
  wallLoss = 0;
  droopLoss = 0;
  cableLoss = 0;
  diodeLoss = 0;
  /** [W] that heat its junction */
  heat = 0;
  /** [W] of the charger by mechanism */
  readonly loss = new Float64Array(MECHANISMS.length);
  /** index into LIMITS */
  limit = 0;
  /** number of the formula that held */
  regime = 0;
  extended = false;

  clear(limit: number, regime: number): void {
    this.limit = limit;
    this.regime = regime;
    this.extended = false;
    this.loss.fill(0);
  }
}

/** [V] [Ω] of a diode before or behind the charger; none where there is none. */
export function diodeDrop(diode: Charging['diode']): { volts: number; ohms: number } {
  return { volts: diode?.volts ?? 0, ohms: diode?.resistance ?? 0 };
}

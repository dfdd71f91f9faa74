import { decade, seriesValues, type SeriesName } from './eSeries.ts';

/** A divider as it stands, and what its pin draws. */
export interface DividerParts {
  /** [V] */
  reference: number;
  /** [Ω] output to feedback, feedback to ground */
  top: number;
  bottom: number;
  /** [A] into the feedback pin; 0 where left out */
  pinBias?: number;
}

/**
 * [V] a divider sets: Vref·(1 + R1/R2) + Ib·R1, the pin's current flowing through the upper resistor. Kirchhoff at the
 * pin.
 */
export function dividerVolts({ reference, top, bottom, pinBias = 0 }: DividerParts): number {
  return reference * (1 + top / bottom) + pinBias * top;
}

/** What a divider must do. */
export interface DividerTask {
  /** [V] */
  reference: number;
  target: number;
  /** [A] through the divider, least and most: Vref/R2 */
  leastAmps: number;
  mostAmps: number;
  series: SeriesName;
  /** [A] into the feedback pin; 0 where left out */
  pinBias?: number;
  /** tolerances, relative */
  resistorTolerance: number;
  referenceTolerance: number;
}

export interface DividerPair {
  /** [Ω] output to feedback, feedback to ground */
  top: number;
  bottom: number;
  /** [V] */
  volts: number;
  /** relative to the target, signed */
  error: number;
  /** [A] */
  amps: number;
}

export interface Spread {
  /** [V] nominal, and all tolerances at their worst together */
  nominal: number;
  least: number;
  most: number;
  /** [V] root of the sum of squares, one-sided */
  likely: number;
}

/** [Ω] range of resistors offered: below, the board heats; above, leakage and dirt count. Common practice, no source. */
const RANGE = [100, 1e7] as const;

/**
 * Vout = Vref·(1 + R1/R2) + Ib·R1: every pair of the series within the current limits, nearest first; of pairs equally
 * near the one that draws least. Exhaustive over R2, with the one or two R1 on either side of the exact one.
 */
export function findDividers(task: DividerTask, most = 8): DividerPair[] {
  const { reference, target, leastAmps, mostAmps, pinBias = 0 } = task;
  if (!(target > reference)) return [];
  const values = seriesValues(decade(task.series), ...RANGE);
  const pairs: DividerPair[] = [];
  for (const bottom of values) {
    const amps = reference / bottom;
    if (amps < leastAmps * (1 - 1e-9) || amps > mostAmps * (1 + 1e-9)) continue;
    // Vref·R1/R2 + Ib·R1 = target − Vref
    const wanted = (target - reference) / (reference / bottom + pinBias);
    const above = values.findIndex((v) => v >= wanted * (1 - 1e-12));
    for (const k of [above - 1, above, above + 1]) {
      const top = values[k];
      if (top === undefined) continue;
      const volts = dividerVolts({ reference, top, bottom, pinBias });
      pairs.push({ top, bottom, volts, error: volts / target - 1, amps });
    }
  }
  // Errors equal to the last bits are ties: the higher resistances drain less.
  const size = (p: DividerPair) => Math.round(Math.abs(p.error) * 1e9);
  return pairs.sort((a, b) => size(a) - size(b) || a.amps - b.amps).slice(0, most);
}

/**
 * Spread of the output. The ratio's share of each resistor's tolerance is 1 − Vref/Vout; the pin's current flows or does
 * not: data sheets state the most it may be. Elementary.
 */
export function dividerSpread(
  reference: number,
  referenceTolerance: number,
  top: number,
  bottom: number,
  resistorTolerance: number,
  pinBias = 0,
): Spread {
  const volts = (r: number, sign: number) =>
    dividerVolts({
      reference: reference * (1 + r),
      top: top * (1 + sign * resistorTolerance),
      bottom: bottom * (1 - sign * resistorTolerance),
      pinBias: sign > 0 ? Math.max(0, pinBias) : Math.min(0, pinBias),
    });
  const nominal = dividerVolts({ reference, top, bottom });
  const share = (1 - reference / nominal) * resistorTolerance;
  const bias = (pinBias * top) / nominal;
  return {
    nominal,
    least: volts(-referenceTolerance, -1),
    most: volts(referenceTolerance, 1),
    likely: nominal * Math.sqrt(referenceTolerance ** 2 + 2 * share ** 2 + bias ** 2),
  };
}

/**
 * Divider that holds a stage off below the pack's end, not the converter's own minimum. Top resistor from the
 * hysteresis current I that the enable pin sinks while off, R1 = Vhyst/I, R2 = R1/(Von/Vpin − 1).
 * @param on [V] input at which it starts @param off [V] at which it stops, below `on`
 * @param pin [V] threshold of the pin @param hysteresis [A] current of the pin, off to on
 */
export function lockoutDivider(on: number, off: number, pin: number, hysteresis: number) {
  const top = (on - off) / hysteresis;
  return { top, bottom: top / (off / pin - 1), amps: off / (top + top / (off / pin - 1)) };
}

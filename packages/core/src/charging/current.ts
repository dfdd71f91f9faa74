import { halve } from '../numeric/halve.ts';
import { decade, seriesValues, type SeriesName } from '../design/eSeries.ts';
import type { Programming } from '../model/charging.ts';

/** Share of what a cell may be charged by from which there is little room left. Common practice, no source. */
export const RATE_ROOM = 0.9;

/** Least and most of something. */
export interface Between {
  /** [A] */
  least: number;
  most: number;
}

/** What resistors let a charge current be. [A] */
export interface ProgrammedRange {
  /** as it is turned: nominal, and with all tolerances against us */
  set: number;
  worst: Between;
  /** from one end of the potentiometer to the other, nominal and at worst */
  range: Between;
  rangeWorst: Between;
  /** [A] by which a whole turn would change it, where it is turned to now; 0 without a potentiometer */
  perTurn: number;
}

/** [A] at a resistance [Ω]: K over it, or between the lines of a table, straight on logarithms and on beyond its ends. */
function ampsAt({ factor, table }: Programming, ohms: number): number {
  if (!table) return factor / ohms;
  const above = table.findIndex((p) => p.ohms >= ohms);
  const k = above < 0 ? table.length - 1 : Math.max(1, above);
  const [a, b] = [table[k - 1]!, table[k]!];
  return a.amps * (b.amps / a.amps) ** (Math.log(ohms / a.ohms) / Math.log(b.ohms / a.ohms));
}

/** [Ω] at which that current flows. */
export function ohmsAt(p: Programming, amps: number): number {
  if (!p.table) return p.factor / amps;
  // It falls with the resistance throughout.
  return halve(1e-3, 1e12, (ohms) => !(ampsAt(p, ohms) > amps), HALVINGS, geometric)[1];
}

const geometric = (a: number, b: number) => Math.sqrt(a * b);

/** To the last digits of a resistance. */
const HALVINGS = 60;

/** [A] by all that is in circuit. */
function amps(p: Programming, turn: number, k = 1, f = 1, t = 1): number {
  return k * ampsAt(p, p.fixed * f + (p.pot ?? 0) * t * turn);
}

/**
 * Charge current that resistors set, I = K/(R + turn·pot) or by a table, with its corners. Common practice of chargers; corners
 * elementary.
 */
export function programmedRange(p: Programming): ProgrammedRange {
  const { factorTolerance: k, fixedTolerance: f, potTolerance: t = 0, turn = 0 } = p;
  const worst = (at: number): Between => ({
    least: amps(p, at, 1 - k, 1 + f, 1 + t),
    most: amps(p, at, 1 + k, 1 - f, 1 - t),
  });
  const set = amps(p, turn);
  const whole = p.pot === undefined ? 0 : 1;
  return {
    set,
    worst: worst(turn),
    range: { least: amps(p, whole), most: amps(p, 0) },
    rangeWorst: { least: worst(whole).least, most: worst(0).most },
    perTurn: p.pot === undefined ? 0 : (amps(p, turn - STEP) - amps(p, turn + STEP)) / (2 * STEP),
  };
}

/** Of a turn, by which the current's slope is found. */
const STEP = 1e-6;

/** Share of the potentiometer in circuit for a current; undefined where it does not reach. @param wanted [A] */
export function turnFor(p: Programming, wanted: number): number | undefined {
  if (!p.pot) return undefined;
  const turn = (ohmsAt(p, wanted) - p.fixed) / p.pot;
  return turn >= 0 && turn <= 1 ? turn : undefined;
}

/**
 * [Ω] smallest resistor of a series with which no turn of the potentiometer, at worst, gives more than a limit.
 * @param limit [A]
 */
export function leastFixed(p: Programming, limit: number, series: SeriesName = 'E24'): number | undefined {
  const { factorTolerance: k, fixedTolerance: f } = p;
  const least = ohmsAt(p, limit / (1 + k)) / (1 - f);
  return seriesValues(decade(series), least * (1 - 1e-12), 20 * least)[0];
}

import { decade, seriesValues, type SeriesName } from '../design/eSeries.ts';
import type { Programming } from '../model/charging.ts';

/** Least and most of something. */
export interface Between {
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

/** [A] I = K over all that is in circuit. */
function amps({ factor, fixed, pot = 0 }: Programming, turn: number, k = 1, f = 1, p = 1): number {
  return (factor * k) / (fixed * f + pot * p * turn);
}

/**
 * Charge current that resistors set, I = K/(R + turn·pot), with its corners. Common practice of chargers; corners elementary.
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
    perTurn: ((p.pot ?? 0) * set * set) / p.factor,
  };
}

/** Share of the potentiometer in circuit for a current; undefined where it does not reach. @param wanted [A] */
export function turnFor(p: Programming, wanted: number): number | undefined {
  if (!p.pot) return undefined;
  const turn = (p.factor / wanted - p.fixed) / p.pot;
  return turn >= 0 && turn <= 1 ? turn : undefined;
}

/**
 * [Ω] smallest resistor of a series with which no turn of the potentiometer, at worst, gives more than a limit.
 * @param limit [A]
 */
export function leastFixed(p: Programming, limit: number, series: SeriesName = 'E24'): number | undefined {
  const { factor, factorTolerance: k, fixedTolerance: f } = p;
  const least = (factor * (1 + k)) / (limit * (1 - f));
  return seriesValues(decade(series), least * (1 - 1e-12), 20 * least)[0];
}

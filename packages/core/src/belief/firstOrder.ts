import type { Spread } from './spread.ts';

/** A quick first picture: what a result would do if it were a straight line of its figures. */
export interface FirstOrder {
  nominal: number;
  deviation: number;
  /** those 10 and 90 % would not reach, were it normal */
  p10: number;
  p90: number;
  /** share of the variance each figure would carry */
  shares: number[];
}

/** Step of a score to either side. */
const STEP = 0.02;
/** Standard deviations to the 90 % quantile of a normal distribution. */
const NINETY = 1.2815515655446004;

/**
 * First order: the variance is the sum of squares of slope times deviation. Textbook (propagation of uncertainty).
 * @param result of scores, 0 each being the figures as stated; asked twice for each figure and once more
 */
export function firstOrder(result: (scores: Float64Array) => number, spreads: readonly Spread[]): FirstOrder {
  const at = new Float64Array(spreads.length);
  const nominal = result(at);
  const parts = spreads.map(({ distribution }, k) => {
    const side = (by: number) => {
      at[k] = by;
      return result(at);
    };
    const slope = (side(STEP) - side(-STEP)) / (2 * STEP);
    at[k] = 0;
    // An even score of −1…1 has a variance of a third.
    return slope ** 2 * (distribution === 'normal' ? 1 : 1 / 3);
  });
  const variance = parts.reduce((sum, v) => sum + v, 0);
  const deviation = Math.sqrt(variance);
  return {
    nominal,
    deviation,
    p10: nominal - NINETY * deviation,
    p90: nominal + NINETY * deviation,
    shares: parts.map((v) => (variance > 0 ? v / variance : 0)),
  };
}

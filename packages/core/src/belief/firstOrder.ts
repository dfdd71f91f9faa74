import type { Spread } from './spread.ts';

/** Standard deviations to the 90 % quantile of a normal distribution. */
export const NINETY = 1.2815515655446004;

/** Deviation of a score: an even one of −1…1 has a variance of a third. */
export function deviationOf({ distribution }: Spread): number {
  return distribution === 'normal' ? 1 : Math.sqrt(1 / 3);
}

/** A result, and what it may be off by: those 10 and 90 % would not reach, were it normal. */
export interface Ranged {
  value: number;
  p10: number;
  p90: number;
}

/** A result with its range. @param deviation of it */
export function ranged(value: number, deviation: number): Ranged {
  const ten = NINETY * deviation;
  return { value, p10: value - ten, p90: value + ten };
}

/**
 * What many results of the same figures may be off by, to the first order: the variance is the sum of squares of slope times
 * deviation, as if each result were a straight line of its figures. Textbook (propagation of uncertainty).
 */
export class FirstOrder {
  /** variance of each result so far */
  readonly variance: number[];

  /** @param middle results with the figures as stated */
  constructor(readonly middle: readonly number[]) {
    this.variance = middle.map(() => 0);
  }

  /**
   * Count a figure in.
   * @param low, high results with it at either side, the others as stated @param apart deviations of it between both sides
   * @returns variance that it brings to each result
   */
  add(low: readonly number[], high: readonly number[], apart: number): number[] {
    const own = high.map((v, k) => ((v - low[k]!) / apart) ** 2);
    own.forEach((v, k) => (this.variance[k]! += v));
    return own;
  }

  ranges(): Ranged[] {
    return this.middle.map((value, k) => ranged(value, Math.sqrt(this.variance[k]!)));
  }
}

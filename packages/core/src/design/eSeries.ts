/**
 * Preferred values of one decade. E24 is a table, E12 every other value of it; E96 is 10^(k/96) to three digits.
 * Source: IEC 60063 (from memory).
 */
export const E24: readonly number[] = [
  1, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2, 2.2, 2.4, 2.7, 3, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2,
  9.1,
];
export const E12: readonly number[] = E24.filter((_, k) => k % 2 === 0);
export const E96: readonly number[] = Array.from(
  { length: 96 },
  (_, k) => Math.round(100 * 10 ** (k / 96)) / 100,
);
/** Capacitors and inductors: E6, every fourth of E24. */
export const E6: readonly number[] = [1, 1.5, 2.2, 3.3, 4.7, 6.8];

export const SERIES = ['E12', 'E24', 'E96', 'E96+E24'] as const;
export type SeriesName = (typeof SERIES)[number];

export function decade(name: SeriesName): readonly number[] {
  if (name === 'E12') return E12;
  if (name === 'E24') return E24;
  return name === 'E96' ? E96 : [...new Set([...E96, ...E24])].sort((a, b) => a - b);
}

/**
 * All values of a series from `least` to `most`, rising.
 * @throws RangeError unless 0 < least ≤ most < ∞: there is no end of smaller values
 */
export function seriesValues(steps: readonly number[], least: number, most: number): number[] {
  if (!(least > 0 && most >= least && most < Infinity)) {
    throw new RangeError(`seriesValues: from ${least} to ${most}; it takes 0 < least ≤ most < ∞`);
  }
  const values: number[] = [];
  const from = Math.floor(Math.log10(least));
  for (let e = from; 10 ** e <= most; e++) {
    for (const v of steps) {
      // A decimal power times a decimal value, rounded to the digits it was written with.
      const value = Number((v * 10 ** e).toPrecision(3));
      if (value >= least * (1 - 1e-9) && value <= most * (1 + 1e-9)) values.push(value);
    }
  }
  return values;
}

/** The preferred value with the smallest relative error. @param target > 0 */
export function nearest(steps: readonly number[], target: number): number {
  const near = seriesValues(steps, target / 3, target * 3);
  return near.reduce((best, v) => (Math.abs(v - target) < Math.abs(best - target) ? v : best));
}

/** The smallest preferred value of at least `target` > 0. */
export function nextUp(steps: readonly number[], target: number): number {
  return seriesValues(steps, target * (1 - 1e-6), target * 12)[0]!;
}

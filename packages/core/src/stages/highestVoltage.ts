import { brent, highestRoot } from '../numeric/root.ts';

/** Lowest share of the open voltage looked at: below it a rail has collapsed for any load. */
const FLOOR = 0.02;

/** Relative tolerance on a rail's voltage; far below the 1e-6 asked of the energy ledger. */
const TOLERANCE = 1e-11;

/**
 * Highest stable voltage V in (0, open] with given(V) = V, where `given` is what the source side gives
 * while the rail stands at V. @returns NaN when there is none.
 */
export function highestVoltage(given: (volts: number) => number, open: number): number {
  if (!(open > 0)) return NaN;
  const root = highestRoot((v) => given(v) - v, FLOOR * open, open, TOLERANCE * open);
  return root.status === 'none' ? NaN : root.x;
}

/** The same where a root is known to lie between `low` and `high`: no scan. */
export function voltageBetween(given: (volts: number) => number, low: number, high: number): number {
  return brent((v) => given(v) - v, low, high, TOLERANCE * high).x;
}

/** Highest V in (0, top] for which slack(V) ≥ 0. @returns NaN when there is none. */
export function highestAllowed(slack: (volts: number) => number, top: number): number {
  const root = highestRoot(slack, FLOOR * top, top, TOLERANCE * top);
  return root.status === 'none' ? NaN : root.x;
}

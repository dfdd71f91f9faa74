import { brent, descend, highestRoot } from '../numeric/root.ts';

/** Lowest share of the open voltage looked at: below it a rail has collapsed for any load. */
const FLOOR = 0.02;

/** Samples of a search; stages hang on stages, and their searches multiply. */
const SAMPLES = 16;

/**
 * Relative tolerance on a rail's voltage: what is worked out from it is tabulated to 1e-10, so it must be finer
 * than that by enough to look smooth.
 */
const TOLERANCE = 1e-13;

/**
 * Highest stable voltage V in (0, open] with given(V) = V, where `given` is what the source side gives
 * while the rail stands at V. @returns NaN when there is none.
 */
export function highestVoltage(given: (volts: number) => number, open: number): number {
  if (!(open > 0)) return NaN;
  const f = (v: number) => given(v) - v;
  const fast = descend(f, FLOOR * open, open, open, TOLERANCE * open);
  if (!Number.isNaN(fast)) return fast;
  const root = highestRoot(f, FLOOR * open, open, TOLERANCE * open, Infinity, SAMPLES);
  return root.status === 'none' ? NaN : root.x;
}

/** The same where a root is known to lie between `low` and `high`: no scan. */
export function voltageBetween(given: (volts: number) => number, low: number, high: number): number {
  return brent((v) => given(v) - v, low, high, TOLERANCE * high).x;
}

/** [A] or [W], the slack that counts as none: a picoampere of a limit. */
const SLACK_TOLERANCE = 1e-12;

/** Highest V in (0, top] for which slack(V) ≥ 0. @returns NaN when there is none. */
export function highestAllowed(slack: (volts: number) => number, top: number): number {
  const fast = descend(slack, FLOOR * top, top, top, SLACK_TOLERANCE);
  if (!Number.isNaN(fast)) return fast;
  const root = highestRoot(slack, FLOOR * top, top, TOLERANCE * top, Infinity, SAMPLES);
  return root.status === 'none' ? NaN : root.x;
}

import { E96, nearest } from './eSeries.ts';

/**
 * [V] taps of a string of resistors, from ground up, below a reference across all of it. Elementary.
 * @param string [Ω] from ground up, the last one up to the reference
 */
export function tapVolts(string: readonly number[], reference: number): number[] {
  const whole = string.reduce((sum, r) => sum + r, 0);
  let below = 0;
  return string.slice(0, -1).map((r) => ((below += r) / whole) * reference);
}

/**
 * Resistors of a string, from ground up, of E96, whose taps come nearest to volts that rise. Elementary.
 * @param taps [V] all below the reference @param whole [Ω] about
 */
export function ladderString(taps: readonly number[], reference: number, whole: number): number[] {
  const parts = [...taps, reference].map((v, k) => ((v - (taps[k - 1] ?? 0)) / reference) * whole);
  return parts.map((r) => nearest(E96, Math.max(1, r)));
}

/**
 * [Ω] from a comparator's output back to its divided input that moves its threshold by `volts` there. Elementary.
 * @param source [Ω] of the divider @param swing [V] of the output
 */
export function hysteresisOhms(source: number, swing: number, volts: number): number {
  return source * (swing / volts - 1);
}

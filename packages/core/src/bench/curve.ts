import type { ReadLog } from '../logs/log.ts';
import { thinned } from '../logs/thin.ts';
import { MOST_POINTS, type BenchCurve } from '../model/readings.ts';
import type { Course } from './course.ts';

/** Stretches a curve is compared in. */
const BINS = 40;
/** Share of the curve that is compared: what comes behind is told by when it ends. */
const BEFORE_THE_KNEE = 0.93;
/** Share of the usual current from which the load counts as on. */
const ON = 0.2;
/** Share of a volt by which a curve's last volts may be off the end and it still has come to it. */
const AT_THE_END = 0.03;

/** A curve laid over a run-down. */
export interface Laid {
  /** [s] of the curve at which the load was switched on: where the run begins */
  start: number;
  /** [s] from there to where it ended; absent where it was stopped before */
  end?: number;
  /** [s] to either side within which it ended: between two readings */
  slack: number;
  /** means over stretches: [s] from the start, [V], [A] where it was logged */
  bins: { seconds: number; volts: number; amps?: number }[];
}

/**
 * Where a curve begins and ends, and its means over stretches. It begins where the current comes, or, without one, where
 * the volts have made half of their first step; it has ended where the current goes or the volts are down at the end's.
 * @param end [V] of the pack at the end of the predicted run, and [V] by which it sags at its beginning
 */
export function lay(curve: BenchCurve, { end, sag }: { end: number; sag: number }): Laid {
  const { seconds, volts, amps } = curve;
  const n = seconds.length;
  const usual = amps ? middleOf(amps.map(Math.abs)) : 0;
  const on = (k: number) => (amps && usual > 0 ? Math.abs(amps[k]!) > ON * usual : true);
  let first = 0;
  if (amps && usual > 0) while (first < n - 2 && !on(first)) first++;
  else first = stepDown(volts, sag);
  let last = n - 1;
  while (last > first + 2 && !on(last)) last--;
  // Without a current: what comes back up behind the lowest is rest.
  const lowest = volts.indexOf(Math.min(...volts.slice(first)), first);
  if (!amps && lowest > first + 2 && volts[n - 1]! > volts[lowest]! * (1 + AT_THE_END)) last = lowest;
  const stopped = last < n - 1 || volts[last]! <= end * (1 + AT_THE_END);
  // On from its first point: its clock says since when.
  const start = first === 0 ? 0 : seconds[first]!;
  // It went on until some time before the next reading.
  const slack = last < n - 1 ? (seconds[last + 1]! - seconds[last]!) / 2 : 0;
  const length = seconds[last]! + slack - start;
  return {
    start,
    slack,
    ...(stopped ? { end: length } : {}),
    bins: binsOf(curve, first, start, stopped ? BEFORE_THE_KNEE * length : length),
  };
}

/** First point behind a step down of half the sag, within the first tenth; the very first where there is none. */
function stepDown(volts: readonly number[], sag: number): number {
  const most = Math.max(2, volts.length >> 3);
  for (let k = 1; k < most; k++) if (volts[0]! - volts[k]! > sag / 2) return k;
  return 0;
}

function binsOf(
  { seconds, volts, amps }: BenchCurve,
  first: number,
  start: number,
  until: number,
): Laid['bins'] {
  if (!(until > 0)) return [];
  const sums = Array.from({ length: BINS }, () => ({ n: 0, s: 0, v: 0, a: 0 }));
  for (let k = first; k < seconds.length; k++) {
    const s = seconds[k]! - start;
    if (s > until) break;
    const bin = sums[Math.min(BINS - 1, Math.floor((s / until) * BINS))]!;
    bin.n++;
    bin.s += s;
    bin.v += volts[k]!;
    bin.a += Math.abs(amps?.[k] ?? 0);
  }
  return sums
    .filter((b) => b.n > 0)
    .map(({ n, s, v, a }) => ({ seconds: s / n, volts: v / n, ...(amps ? { amps: a / n } : {}) }));
}

function middleOf(list: readonly number[]): number {
  return [...list].sort((a, b) => a - b)[list.length >> 1]!;
}

/** A curve over the predicted run, and by how much it is off. [s] from the start of the run, [V] */
export interface Overlaid {
  start: number;
  end?: number;
  seconds: number[];
  logged: number[];
  off: number[];
  /** [V] root of the mean square up to the first end of both */
  rms: number;
}

/** A logged curve laid over a predicted course, in the run's own time. */
export function overlay(curve: BenchCurve, course: Course): Overlaid {
  const laid = lay(curve, endsOf(course));
  const until = Math.min(course.end, laid.end ?? Infinity);
  const from = curve.seconds.findIndex((s) => s >= laid.start);
  const seconds = curve.seconds.slice(from).map((s) => s - laid.start);
  const logged = curve.volts.slice(from);
  const off = seconds.map((s, k) => logged[k]! - course.at(s).volts);
  const within = off.filter((_, k) => seconds[k]! <= until);
  const rms = Math.sqrt(within.reduce((s, d) => s + d * d, 0) / Math.max(1, within.length));
  const { start, end } = laid;
  return { start, ...(end === undefined ? {} : { end }), seconds, logged, off, rms };
}

/** [V] at which a course ends, and by which it falls in its first part. */
export function endsOf(course: Course): { end: number; sag: number } {
  return { end: course.at(course.end).volts, sag: Math.max(0.02, 0.01 * course.at(0).volts) };
}

/** A log as a curve of a thread: thinned to what it may hold, of each stretch the lowest and the highest volts kept. */
export function curveFrom(log: ReadLog, name: string, at: string): BenchCurve {
  const { seconds, volts, amps } = log;
  const kept = thinned(volts, MOST_POINTS);
  const of = (list: Float64Array, digits: number) => kept.map((k) => Number(list[k]!.toPrecision(digits)));
  const some = amps.some((a) => a !== 0);
  return {
    name: name.slice(0, 80),
    at,
    seconds: of(seconds, 8),
    volts: of(volts, 6),
    ...(some ? { amps: of(amps, 6) } : {}),
  };
}

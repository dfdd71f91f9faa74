import {
  courseOf,
  explain,
  loggedCurve,
  matchCells,
  gradeOf,
  leftOutWords,
  overlay,
  planOf,
  predictions,
  schoolsOf,
  strandedBy,
  type Explanation,
  type LoggedCurve,
  type Match,
  type PlanStep,
  type Predictions,
  type School,
  type Stranded,
} from '@mile-thread/core/bench';
import { sumOf, thinned, type LogColumns } from '@mile-thread/core/logs';
import type { ThreadDocument } from '@mile-thread/core/model';
import { threadKey } from '@mile-thread/core/solve';
import { kept, runOf } from './runs.ts';
import { cellsOf } from './tables.ts';

/** The measuring plan of a thread, and the course of its run-down with its range. */
export interface Plan {
  steps: PlanStep[];
  course: Predictions['course'];
  /** what its ranges leave out, in words */
  leftOut?: string;
}

const plans = new Map<string, Plan>();

/** What to measure of a thread, and what to expect. */
export function plan(doc: ThreadDocument): Plan {
  return kept(plans, threadKey(doc), () => {
    const found = predictions(doc);
    const leftOut = leftOutWords(found);
    return { steps: planOf(doc, found), course: found.course, ...(leftOut === undefined ? {} : { leftOut }) };
  });
}

/**
 * What explains how a thread's readings are off; null where none says anything.
 * @param readings name of what was measured: a thread's key does not know it, the question must
 */
export function* explanation(
  doc: ThreadDocument,
  readings: string,
): Generator<number, Explanation | null, undefined> {
  void readings;
  return (yield* explain(doc)) ?? null;
}

/** A curve over the predicted run, as many points as a plot tells apart. [h] [V] */
export interface CurveOver {
  name: string;
  rows: number;
  hours: number[];
  logged: number[];
  off: number[];
  /** [h] where it ended; absent where it was stopped before */
  end?: number;
  /** [s] of the curve at which the run begins */
  start: number;
  rms: number;
  /** [Ah] [Wh] where a current was logged */
  charge?: number;
  energy?: number;
}

/** Points of a curve that are drawn. */
const DRAWN = 1500;

/** Curves of a thread laid over its run. @param readings see `explanation` */
export function curvesOver(doc: ThreadDocument, readings: string): CurveOver[] {
  void readings;
  const course = courseOf(runOf(doc));
  return (doc.curves ?? []).map((curve) => {
    const { seconds, logged, off, end, start, rms } = overlay(curve, course);
    // What is left out of the drawing is never a dip.
    const shown = thinned(logged, DRAWN);
    const few = (list: readonly number[]) => shown.map((k) => list[k]!);
    return {
      name: curve.name,
      rows: curve.seconds.length,
      hours: few(seconds).map((s) => s / 3600),
      logged: few(logged),
      off: few(off),
      ...(end === undefined ? {} : { end: end / 3600 }),
      start,
      rms,
      ...(curve.amps ? sums(curve.seconds, curve.volts, curve.amps) : {}),
    };
  });
}

/** [Ah] [Wh] of a curve, a current into the pack counted as one out of it. */
function sums(seconds: number[], volts: number[], amps: number[]): { charge: number; energy: number } {
  const of = (list: number[]) => Float64Array.from(list);
  const { charge, energy } = sumOf({ seconds: of(seconds), volts: of(volts), amps: of(amps) });
  return { charge: Math.abs(charge) / 3600, energy: Math.abs(energy) / 3600 };
}

/** Read a log of a run-down; its columns by their headings, or as they were set by hand. */
export function* loggedFile(
  name: string,
  text: string,
  by: LogColumns | undefined,
  at: string,
): Generator<number, LoggedCurve, undefined> {
  return loggedCurve(yield* cellsOf(text), name, at, by);
}

/** Where practitioners differ, and what each way costs a thread. */
export function schools(doc: ThreadDocument): School[] {
  return schoolsOf(doc);
}

/** The best match of a thread's graded cells; null where too few are fit. @param graded name of them */
export function matched(doc: ThreadDocument, graded: string): Match | null {
  void graded;
  const { pack, graded: cells = [] } = doc;
  const fit = cells.filter((c) => !['refused', 'open'].includes(gradeOf(c, doc).grade));
  return matchCells(fit, pack.series, pack.parallel) ?? null;
}

/** What the cells as they lie strand; null while a group is not full. @param graded name of them */
export function stranded(doc: ThreadDocument, graded: string): Stranded | null {
  void graded;
  return strandedBy(doc) ?? null;
}

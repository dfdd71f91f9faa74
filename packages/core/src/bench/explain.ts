import { factorOf } from '../belief/figures.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { inverse } from '../numeric/inverse.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';
import type { BenchFigure } from './direct.ts';
import { problemOf, type Observation, type Problem } from './observations.ts';
import type { Observed } from './predict.ts';
import { ranged } from '../belief/firstOrder.ts';
import type { Predicted } from './step.ts';

/** Score to either side at which slopes are taken. */
const SIDE = 0.5;
/** Rounds at most, and the largest change of a score that ends them. */
const ROUNDS = 10;
const SETTLED = 5e-3;
/** Change below which it has settled too where that makes nothing better. */
const NEARLY = 0.1;
/** Largest change of a score in a round: figures bend. */
const STRIDE = 1.5;
/** Times a round's step is halved where it makes things worse. */
const HALVINGS = 6;
/** Scores beyond which a figure is outside what its tolerance allows: 95 of 100 are within. */
const WITHIN = 2;

/** One figure, and where the readings put it. */
export interface Moved {
  figure: BenchFigure;
  /** in deviations of its own tolerance, with what is left of doubt */
  score: number;
  doubt: number;
  /** times what was stated */
  factor: number;
  /** [h] of the run-down's change that it explains */
  explains: number;
  /** whether it would have to be further off than its tolerance allows */
  outside: boolean;
}

/** What readings say together of the figures a design rests on. */
export interface Explanation {
  /** largest effect on the run-down first */
  moved: Moved[];
  /** readings and curves that say something of them, by how many deviations each was off (of a curve: root of the mean square), and is */
  fits: { step: string; before: number; after: number }[];
  /** [h] the run-down as stated and with these figures, each with its range */
  before: Predicted;
  after: Predicted;
  /** [h] of a run-down that was measured: how long it was, and by how much it is still off; absent without one */
  measured?: number;
  unexplained?: number;
  /** [h] and [V]: the course with these figures */
  course: { hours: number[]; volts: number[] };
  /** whether the search settled; where not, nothing of it is to be taken */
  settled: boolean;
}

/**
 * Which figures moved how far: the estimate of greatest posterior probability, readings normal by their accuracy, figures normal
 * (even ones by their variance) by their tolerances, and, of a curve, one gain of its instrument; Gauss and Newton with slopes by
 * differences, steps halved where they make it worse. Textbook (maximum a posteriori least squares). Readings that no figure
 * decides have no part in it.
 * @returns yields the share done, 0…1; undefined where no reading says anything
 */
export function* explain(doc: ThreadDocument): Generator<number, Explanation | undefined, undefined> {
  const problem = problemOf(doc);
  if (!problem) return undefined;
  const { figures, gains, at } = problem;
  const f = figures.length;
  const n = f + gains.length;
  // An even score of −1…1 has a variance of a third.
  const prior = Array.from({ length: n }, (_, k) => (figures[k]?.distribution === 'uniform' ? 3 : 1));
  let scores = new Float64Array(n);
  const stated = at(scores);
  let seen = stated;
  let cost = costOf(problem, prior, scores, seen);
  let settled = false;
  let curvature = new Float64Array(n * n);
  let slopes: Observed[][] = [];
  let first: Observed[][] = [];
  for (let round = 0; round < ROUNDS && !settled; round++) {
    slopes = [];
    for (let k = 0; k < f; k++) {
      slopes.push([-SIDE, SIDE].map((by) => at(scores.with(k, scores[k]! + by))));
      yield Math.min(0.95, (round + (k + 1) / f) / 4);
    }
    // What was believed before is of the figures as stated.
    if (round === 0) first = slopes;
    const found = normal(problem, prior, scores, seen, slopes);
    curvature = found.matrix;
    const step = times(inverse(curvature, n), found.right);
    const most = Math.max(...step.map(Math.abs));
    let by = Math.min(1, STRIDE / most);
    settled = most < SETTLED;
    for (let half = 0; half < HALVINGS; half++, by /= 2) {
      const next = scores.map((s, k) => s + by * step[k]!);
      const there = at(next);
      const nextCost = costOf(problem, prior, next, there);
      if (nextCost <= cost || half === HALVINGS - 1) {
        // No step that is worth anything is left: as near as its slopes let it.
        settled ||= most < NEARLY && nextCost > cost * (1 - 1e-6);
        if (nextCost <= cost) [scores, seen, cost] = [next, there, nextCost];
        break;
      }
    }
  }
  const cover = inverse(curvature, n);
  return toldOf({ problem, prior, scores, stated, seen, first, slopes, cover, settled });
}

/** What an observation would read: the thread's, by what its instrument is off. */
function readOf(
  { of, gain }: Observation,
  { gains, figures }: Problem,
  scores: Float64Array,
  seen: Observed,
): number {
  return of(seen) * (gain === undefined ? 1 : 1 + gains[gain - figures.length]! * scores[gain]!);
}

function costOf(problem: Problem, prior: readonly number[], scores: Float64Array, seen: Observed): number {
  const misses = problem.observations.reduce(
    (s, o) => s + ((o.value - readOf(o, problem, scores, seen)) / o.sigma) ** 2,
    0,
  );
  return scores.reduce((s, x, k) => s + prior[k]! * x * x, misses);
}

/** The normal equations: J'WJ + P, and J'W(y − f) − P·scores. */
function normal(
  problem: Problem,
  prior: readonly number[],
  scores: Float64Array,
  seen: Observed,
  slopes: readonly Observed[][],
) {
  const { gains, figures, observations } = problem;
  const n = scores.length;
  const matrix = new Float64Array(n * n);
  const right = new Float64Array(n);
  for (let k = 0; k < n; k++) {
    matrix[k * n + k] = prior[k]!;
    right[k] = -prior[k]! * scores[k]!;
  }
  const own = new Float64Array(n);
  for (const o of observations) {
    const weight = 1 / o.sigma ** 2;
    const gain = o.gain === undefined ? 1 : 1 + gains[o.gain - figures.length]! * scores[o.gain]!;
    own.fill(0);
    slopes.forEach(([low, high], k) => (own[k] = (gain * (o.of(high!) - o.of(low!))) / (2 * SIDE)));
    const plain = o.of(seen);
    if (o.gain !== undefined) own[o.gain] = plain * gains[o.gain - figures.length]!;
    const miss = o.value - gain * plain;
    for (let k = 0; k < n; k++) {
      if (own[k] === 0) continue;
      right[k]! += weight * own[k]! * miss;
      for (let c = 0; c < n; c++) matrix[k * n + c]! += weight * own[k]! * own[c]!;
    }
  }
  return { matrix, right };
}

function times(matrix: Float64Array, vector: Float64Array): Float64Array {
  const n = vector.length;
  return Float64Array.from(vector, (_, r) => vector.reduce((s, v, c) => s + matrix[r * n + c]! * v, 0));
}

interface Solved {
  problem: Problem;
  prior: readonly number[];
  scores: Float64Array;
  stated: Observed;
  seen: Observed;
  /** slopes where the search began, and where it ended */
  first: readonly Observed[][];
  slopes: readonly Observed[][];
  cover: Float64Array;
  settled: boolean;
}

const runOf = ({ values }: Observed) => values.get('run')!;

function toldOf({
  problem,
  prior,
  scores,
  stated,
  seen,
  first,
  slopes,
  cover,
  settled,
}: Solved): Explanation {
  const { figures, observations } = problem;
  const n = scores.length;
  const alongRun = (list: readonly Observed[][]) =>
    list.map(([low, high]) => (runOf(high!) - runOf(low!)) / (2 * SIDE));
  const run = alongRun(slopes);
  const changed = runOf(seen) - runOf(stated);
  const linear = run.reduce((s, slope, k) => s + slope * scores[k]!, 0);
  // What bends is shared out with the rest.
  const per = Math.abs(linear) > 1e-12 ? changed / linear : 1;
  const moved = figures.map((figure, k): Moved => {
    const normal = figure.distribution === 'normal';
    return {
      figure,
      score: scores[k]!,
      doubt: Math.sqrt(cover[k * n + k]!),
      factor: factorOf(figure, scores[k]!),
      explains: per * run[k]! * scores[k]!,
      outside: Math.abs(scores[k]!) > (normal ? WITHIN : 1),
    };
  });
  const wide = (variance: number, value: number): Predicted =>
    ranged(value, Math.sqrt(Math.max(0, variance)));
  const before = alongRun(first).reduce((s, slope, k) => s + slope ** 2 / prior[k]!, 0);
  const after = run.reduce((s, a, r) => s + run.reduce((t, b, c) => t + a * b * cover[r * n + c]!, 0), 0);
  const unexplained = leftOver(problem, seen);
  return {
    moved: moved.sort((a, b) => Math.abs(b.explains) - Math.abs(a.explains)),
    fits: fitsOf(observations, problem, scores, stated, seen),
    before: wide(before, runOf(stated)),
    after: wide(after, runOf(seen)),
    ...(unexplained === undefined ? {} : { measured: runOf(seen) + unexplained, unexplained }),
    course: drawnCourse(seen),
    settled,
  };
}

/** [h] by which the run-down is off what clocks and curves say, their mean. */
function leftOver({ observations }: Problem, seen: Observed): number | undefined {
  const timed = observations.filter((o) => o.times);
  if (timed.length === 0) return undefined;
  return timed.reduce((s, o) => s + o.value - o.of(seen), 0) / timed.length;
}

function fitsOf(
  observations: readonly Observation[],
  problem: Problem,
  scores: Float64Array,
  stated: Observed,
  seen: Observed,
): Explanation['fits'] {
  const none = new Float64Array(scores.length);
  const off = (o: Observation, at: Float64Array, of: Observed) =>
    (o.value - readOf(o, problem, at, of)) / o.sigma;
  const single = observations.filter((o) => !o.step.startsWith('curve:'));
  const curves = [...new Set(observations.map((o) => o.step))].filter((s) => s.startsWith('curve:'));
  const root = (list: number[]) => Math.sqrt(list.reduce((s, d) => s + d * d, 0) / list.length);
  return [
    ...single.map((o) => ({ step: o.step, before: off(o, none, stated), after: off(o, scores, seen) })),
    ...curves.map((step) => {
      const own = observations.filter((o) => o.step === step);
      return {
        step,
        before: root(own.map((o) => off(o, none, stated))),
        after: root(own.map((o) => off(o, scores, seen))),
      };
    }),
  ];
}

/** Points at which a course is told. */
const POINTS = 120;

function drawnCourse({ course }: Observed): Explanation['course'] {
  const seconds = Array.from({ length: POINTS }, (_, k) => (k / (POINTS - 1)) * course.end);
  return { hours: seconds.map((s) => s / SECONDS_PER_HOUR), volts: seconds.map((s) => course.at(s).volts) };
}

import { drawn, figuresOf, type Figure } from '../belief/figures.ts';
import type { BenchReading } from '../model/readings.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { inverse } from '../numeric/inverse.ts';
import { SharedPaths } from '../plant/compile.ts';
import { USUAL_ACCURACY } from './compare.ts';
import { TEN, valuesOf, type Values } from './predict.ts';
import type { InstrumentKind, Predicted } from './step.ts';

/** Score to either side at which slopes are taken. */
const SIDE = 0.5;
/** Rounds at most, and the largest change of a score that ends them. */
const ROUNDS = 6;
const SETTLED = 5e-3;
/** Largest change of a score in a round: figures bend. */
const STRIDE = 1.5;
/** Scores beyond which a figure is outside what its tolerance allows: 95 of 100 are within. */
const WITHIN = 2;

/** One figure, and where the readings put it. */
export interface Moved {
  figure: Figure;
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
  /** readings that say something of them, by how many deviations of the instrument each was off, and is */
  fits: { step: string; before: number; after: number }[];
  /** [h] the run-down as stated and with these figures, each with its range */
  before: Predicted;
  after: Predicted;
  /** [h] by which a run-down that was measured is still off; absent without one */
  unexplained?: number;
  /** whether the search settled; where not, nothing of it is to be taken */
  settled: boolean;
}

/** How a reading is taken, by its step. */
function instrumentOf(step: string): InstrumentKind {
  if (step === 'run') return 'clock';
  return step === 'idle' || step.startsWith('draw:') ? 'amps' : 'volts';
}

/**
 * Which figures moved how far: the estimate of greatest posterior probability, readings normal by their accuracy, figures normal
 * (even ones by their variance) by their tolerances; Gauss and Newton with slopes by differences. Textbook (maximum a posteriori
 * least squares). Readings of steps that no figure decides (volts that are set, a cut-off) have no part in it.
 * @returns yields the share done, 0…1; undefined where no reading says anything
 */
export function* explain(doc: ThreadDocument): Generator<number, Explanation | undefined, undefined> {
  const figures = figuresOf(doc);
  const n = figures.length;
  const shared = new SharedPaths();
  const at = (scores: ArrayLike<number>): Values => {
    const { doc: varied, conditions = {} } = drawn(doc, figures, scores);
    return valuesOf(varied, conditions, shared);
  };
  const stated = at(new Float64Array(n));
  const readings = (doc.readings ?? []).filter((r) => stated.has(r.step) && r.value > 0);
  if (readings.length === 0) return undefined;
  const sigma = readings.map((r) => (r.accuracy ?? USUAL_ACCURACY[instrumentOf(r.step)]) * r.value);
  // An even score of −1…1 has a variance of a third.
  const prior = figures.map((f) => (f.distribution === 'normal' ? 1 : 3));
  const scores = new Float64Array(n);
  let now = stated;
  let settled = false;
  let curvature = new Float64Array(n * n);
  let slopes: Values[] = [];
  for (let round = 0; round < ROUNDS && !settled; round++) {
    slopes = [];
    for (let k = 0; k < n; k++) {
      slopes.push(slopeOf(at, scores, k));
      yield Math.min(0.95, (round + (k + 1) / n) / 3);
    }
    const found = normal(readings, sigma, prior, scores, now, slopes);
    curvature = found.matrix;
    const step = times(inverse(curvature, n), found.right);
    const most = Math.max(...step.map(Math.abs));
    const by = Math.min(1, STRIDE / most);
    for (let k = 0; k < n; k++) scores[k]! += by * step[k]!;
    now = at(scores);
    settled = most < SETTLED;
  }
  const cover = inverse(curvature, n);
  return toldOf({ figures, readings, sigma, prior, scores, stated, now, slopes, cover, settled });
}

function slopeOf(at: (scores: Float64Array) => Values, scores: Float64Array, k: number): Values {
  const side = (by: number) => {
    const moved = scores.slice();
    moved[k]! += by;
    return at(moved);
  };
  const [low, high] = [side(-SIDE), side(SIDE)];
  return new Map([...low].map(([id, value]) => [id, (high.get(id)! - value) / (2 * SIDE)]));
}

/** The normal equations: J'WJ + P, and J'W(y − f) − P·scores. */
function normal(
  readings: readonly BenchReading[],
  sigma: readonly number[],
  prior: readonly number[],
  scores: Float64Array,
  now: Values,
  slopes: readonly Values[],
) {
  const n = slopes.length;
  const matrix = new Float64Array(n * n);
  const right = new Float64Array(n);
  for (let k = 0; k < n; k++) {
    matrix[k * n + k] = prior[k]!;
    right[k] = -prior[k]! * scores[k]!;
  }
  readings.forEach(({ step, value }, r) => {
    const weight = 1 / sigma[r]! ** 2;
    for (let k = 0; k < n; k++) {
      const own = slopes[k]!.get(step)! * weight;
      right[k]! += own * (value - now.get(step)!);
      for (let c = 0; c < n; c++) matrix[k * n + c]! += own * slopes[c]!.get(step)!;
    }
  });
  return { matrix, right };
}

function times(matrix: Float64Array, vector: Float64Array): Float64Array {
  const n = vector.length;
  return Float64Array.from(vector, (_, r) => vector.reduce((s, v, c) => s + matrix[r * n + c]! * v, 0));
}

interface Solved {
  figures: readonly Figure[];
  readings: readonly BenchReading[];
  sigma: readonly number[];
  prior: readonly number[];
  scores: Float64Array;
  stated: Values;
  now: Values;
  slopes: readonly Values[];
  cover: Float64Array;
  settled: boolean;
}

function toldOf({
  figures,
  readings,
  sigma,
  prior,
  scores,
  stated,
  now,
  slopes,
  cover,
  settled,
}: Solved): Explanation {
  const n = figures.length;
  const run = slopes.map((s) => s.get('run')!);
  const changed = now.get('run')! - stated.get('run')!;
  const linear = run.reduce((s, slope, k) => s + slope * scores[k]!, 0);
  // What bends is shared out with the rest.
  const per = Math.abs(linear) > 1e-12 ? changed / linear : 1;
  const moved = figures.map((figure, k): Moved => {
    const normal = figure.distribution === 'normal';
    return {
      figure,
      score: scores[k]!,
      doubt: Math.sqrt(cover[k * n + k]!),
      factor: 1 + (normal ? figure.tolerance / 2 : figure.tolerance) * scores[k]!,
      explains: per * run[k]! * scores[k]!,
      outside: Math.abs(scores[k]!) > (normal ? WITHIN : 1),
    };
  });
  const wide = (variance: number, value: number): Predicted => {
    const ten = TEN * Math.sqrt(Math.max(0, variance));
    return { value, p10: value - ten, p90: value + ten };
  };
  const before = run.reduce((s, slope, k) => s + slope ** 2 / prior[k]!, 0);
  const after = run.reduce((s, a, r) => s + run.reduce((t, b, c) => t + a * b * cover[r * n + c]!, 0), 0);
  const timed = readings.filter((r) => r.step === 'run');
  const mean = timed.reduce((s, r) => s + r.value, 0) / timed.length;
  return {
    moved: moved.sort((a, b) => Math.abs(b.explains) - Math.abs(a.explains)),
    fits: readings.map(({ step, value }, r) => ({
      step,
      before: (value - stated.get(step)!) / sigma[r]!,
      after: (value - now.get(step)!) / sigma[r]!,
    })),
    before: wide(before, stated.get('run')!),
    after: wide(after, now.get('run')!),
    ...(timed.length > 0 ? { unexplained: mean - now.get('run')! } : {}),
    settled,
  };
}

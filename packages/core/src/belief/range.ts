import type { ThreadDocument } from '../model/thread.ts';
import { compile, SharedPaths } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import { answersOf } from '../run/rundown.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';
import { drawn, figuresOf, type Figure } from './figures.ts';
import { sharesOf } from './shares.ts';
import { scoresOf } from './spread.ts';
import { reaching, summaryOf, type Summary } from './summary.ts';

/** Draws enough for quantiles to about 2 % of the deviation. */
export const USUAL_DRAWS = 2000;

/** Steps of runs between two looks at whether it is to stop: some milliseconds. */
const AT_ONCE = 600;

/** Draws from one number up to another: [h] each lasts, and what was drawn, one draw after the other. */
export interface Drawn {
  /** number of the first of them */
  from: number;
  /** [h] of each */
  hours: Float64Array;
  /** scores of the figures of each, one draw after the other */
  scores: Float64Array;
}

/**
 * Runs of a thread whose figures are off by what is drawn, each draw by its own number: the same in one go or in many.
 * @param from, to numbers of the draws, the last not included
 * @param under conditions that are not the thread's own
 * @returns yields the share done, 0…1
 */
export function* drawHours(
  doc: ThreadDocument,
  seed: number,
  from: number,
  to: number,
  under: Partial<Conditions> = {},
): Generator<number, Drawn, undefined> {
  const figures = figuresOf(doc);
  const hours = new Float64Array(to - from);
  const scores = new Float64Array((to - from) * figures.length);
  const shared = new SharedPaths();
  let steps = 0;
  for (let n = from; n < to; n++) {
    const own = scoresOf(seed, n, figures);
    scores.set(own, (n - from) * figures.length);
    const { doc: varied, conditions } = drawn(doc, figures, own, under);
    const { usefulEnd, counts } = answersOf(compile(varied, conditions, shared));
    hours[n - from] = usefulEnd.time / SECONDS_PER_HOUR;
    steps += counts.steps;
    if (steps < AT_ONCE) continue;
    steps = 0;
    yield (n + 1 - from) / (to - from);
  }
  return { from, hours, scores };
}

/** What carries a thread's uncertainty, the largest first. */
export interface Carrier {
  figure: Figure;
  /** share of the variance, alone and with what it does together with others */
  first: number;
  total: number;
}

/** How long a thread lasts, as far as its figures let it be known. */
export interface LifeRange extends Summary {
  /** share of the draws that last as long as needed */
  reaches: number;
  carriers: Carrier[];
  /** share of the variance that the shares explain, 0…1 */
  explained: number;
}

/** What draws come to; at least one. @param parts in any order */
export function rangeOf(doc: ThreadDocument, parts: readonly Drawn[]): LifeRange {
  const figures = figuresOf(doc);
  const inOrder = [...parts].sort((a, b) => a.from - b.from);
  const hours = Float64Array.from(inOrder.flatMap((p) => [...p.hours]));
  const scores = Float64Array.from(inOrder.flatMap((p) => [...p.scores]));
  const { shares, explained } = sharesOf(scores, hours, figures);
  const carriers = figures.map((figure, k) => ({ figure, ...shares[k]! }));
  carriers.sort((a, b) => b.total - a.total);
  return { ...summaryOf(hours), reaches: reaching(hours, doc.goals.hours), carriers, explained };
}

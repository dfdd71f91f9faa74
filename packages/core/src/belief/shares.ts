import { leastSquares } from '../numeric/leastSquares.ts';
import type { Spread } from './spread.ts';

/** What one figure has of the variance of a result. */
export interface Share {
  /** alone, and with all it does together with others: Sobol' indices, 0…1 */
  first: number;
  total: number;
}

/** Shares of all figures, and how much of the variance the surrogate they are read from explains, 0…1. */
export interface Shares {
  shares: Share[];
  explained: number;
}

/** Powers of one figure in the surrogate. */
const DEGREE = 3;

/** Most figures whose products with one another are looked at: the largest ones alone. */
const PAIRED = 12;

/**
 * Which figure carries how much of a result's variance. A polynomial of the scores, orthonormal under what they are drawn
 * from, is fitted to the sample; the squares of its coefficients are the shares. Sudret, Reliability Engineering and
 * System Safety 93 (2008) 964 (from memory). It is judged by draws it was not fitted to.
 * @param scores of all draws, one after the other
 * @param values of the result, one a draw
 */
export function sharesOf(
  scores: Float64Array,
  values: ArrayLike<number>,
  spreads: readonly Spread[],
): Shares {
  const d = spreads.length;
  const count = values.length;
  const mains = fit(scores, values, spreads, []);
  const main = (i: number) => own(mains, i);
  const largest = spreads.map((_, i) => i).sort((a, b) => main(b) - main(a));
  const paired = largest.slice(0, PAIRED);
  const pairs = paired.flatMap((i, k) => paired.slice(k + 1).map((j): [number, number] => [i, j]));
  // As many coefficients as the draws can tell apart.
  const room = Math.max(0, Math.floor(count / 4) - 1 - DEGREE * d);
  const c = fit(scores, values, spreads, pairs.slice(0, room));
  const used = pairs.slice(0, room);
  const first = spreads.map((_, i) => own(c, i));
  const total = first.slice();
  used.forEach(([i, j], k) => {
    const square = c[1 + DEGREE * d + k]! ** 2;
    total[i]! += square;
    total[j]! += square;
  });
  const variance =
    first.reduce((sum, v) => sum + v, 0) + used.reduce((s, _, k) => s + c[1 + DEGREE * d + k]! ** 2, 0);
  const explained = judge(scores, values, spreads, used);
  const share = (v: number) => (variance > 0 ? v / variance : 0);
  return { shares: first.map((f, i) => ({ first: share(f), total: share(total[i]!) })), explained };
}

/** Squares of a figure's own coefficients. */
function own(c: Float64Array, figure: number): number {
  let sum = 0;
  for (let p = 0; p < DEGREE; p++) sum += c[1 + DEGREE * figure + p]! ** 2;
  return sum;
}

type Pairs = readonly (readonly [number, number])[];

/** Coefficients: the mean, each figure's powers, then the products. @param each every so manyth draw is left out; 0 none */
function fit(
  scores: Float64Array,
  values: ArrayLike<number>,
  spreads: readonly Spread[],
  pairs: Pairs,
  each = 0,
): Float64Array {
  const columns = 1 + DEGREE * spreads.length + pairs.length;
  const kept = Array.from({ length: values.length }, (_, r) => r).filter((r) => each === 0 || r % each !== 0);
  const rows = new Float64Array(kept.length * columns);
  kept.forEach((r, k) => basis(scores, r, spreads, pairs, rows, k * columns));
  return leastSquares(
    rows,
    columns,
    Float64Array.from(kept, (r) => values[r]!),
  );
}

/** Share of the draws that a surrogate is judged by: one in so many. */
const JUDGED = 5;

/** Share of the variance explained in draws that were left out of the fit. */
function judge(
  scores: Float64Array,
  values: ArrayLike<number>,
  spreads: readonly Spread[],
  pairs: Pairs,
): number {
  const c = fit(scores, values, spreads, pairs, JUDGED);
  const row = new Float64Array(c.length);
  let sum = 0;
  let square = 0;
  let off = 0;
  let n = 0;
  for (let r = 0; r < values.length; r += JUDGED, n++) {
    basis(scores, r, spreads, pairs, row, 0);
    const said = row.reduce((s, x, k) => s + x * c[k]!, 0);
    sum += values[r]!;
    square += values[r]! ** 2;
    off += (values[r]! - said) ** 2;
  }
  const variance = square - (sum * sum) / n;
  return variance > 0 ? Math.max(0, 1 - off / variance) : 1;
}

/** Values of the basis at one draw: Hermite of a normal score, Legendre of an even one, of norm 1 each. */
function basis(
  scores: Float64Array,
  draw: number,
  spreads: readonly Spread[],
  pairs: Pairs,
  into: Float64Array,
  at: number,
): void {
  const d = spreads.length;
  const score = (i: number) => scores[draw * d + i]!;
  const line = (i: number) => (spreads[i]!.distribution === 'normal' ? score(i) : Math.sqrt(3) * score(i));
  into[at] = 1;
  for (let i = 0; i < d; i++) {
    const x = score(i);
    const o = at + 1 + DEGREE * i;
    into[o] = line(i);
    if (spreads[i]!.distribution === 'normal') {
      into[o + 1] = (x * x - 1) / Math.SQRT2;
      into[o + 2] = (x * x * x - 3 * x) / Math.sqrt(6);
    } else {
      into[o + 1] = (Math.sqrt(5) * (3 * x * x - 1)) / 2;
      into[o + 2] = (Math.sqrt(7) * (5 * x * x * x - 3 * x)) / 2;
    }
  }
  pairs.forEach(([i, j], k) => (into[at + 1 + DEGREE * d + k] = line(i) * line(j)));
}

import { inverse } from '../numeric/inverse.ts';

/**
 * Polynomials through values at places of [−1, 1], in powers of t. The places are Chebyshev-Lobatto points of degree six,
 * or the three of degree two among them: both ends belong to either, so that neighbouring pieces meet.
 * Source: interpolation at Chebyshev points; Trefethen, Approximation Theory and Practice, ch. 2 (from memory).
 */
export const DEGREE = 6;
export const POINTS = DEGREE + 1;

/** Where the values are taken. */
export const NODES: readonly number[] = Array.from(
  { length: POINTS },
  (_, k) => -Math.cos((k * Math.PI) / DEGREE),
);

/** Interpolation through some of the nodes. */
export class Grid {
  readonly points: number;
  /** coefficient c is Σ inverse[c·points + k]·y[k] */
  private readonly inverse: Float64Array;

  /** @param nodes their numbers */
  constructor(readonly nodes: readonly number[]) {
    this.points = nodes.length;
    this.inverse = inverse(
      nodes.flatMap((n) => nodes.map((_, p) => NODES[n]! ** p)),
      nodes.length,
    );
  }

  /**
   * Coefficients of the polynomial through a column of `values`, one row a node.
   * @param into receives POINTS numbers from `at` on, those beyond the degree nothing
   */
  fit(values: Float64Array, columns: number, column: number, into: Float64Array, at: number): void {
    const { points, inverse } = this;
    for (let c = 0; c < points; c++) {
      let sum = 0;
      for (let k = 0; k < points; k++) sum += inverse[c * points + k]! * values[k * columns + column]!;
      into[at + c] = sum;
    }
  }

  /** Weights of the values in the polynomial's at t. */
  weightsAt(t: number): Float64Array {
    return this.weights(Float64Array.from({ length: this.points }, (_, p) => t ** p));
  }

  /** Weights of the values in Σ moments[p]·coefficient p: with ∫ t^p, in the polynomial's integral. */
  weights(moments: Float64Array): Float64Array {
    const { points, inverse } = this;
    const found = new Float64Array(points);
    for (let c = 0; c < points; c++) {
      for (let k = 0; k < points; k++) found[k]! += moments[c]! * inverse[c * points + k]!;
    }
    return found;
  }
}

/** Of second degree, and of sixth. */
export const FEW = new Grid([0, DEGREE / 2, DEGREE]);
export const ALL = new Grid(NODES.map((_, k) => k));

/** A grid, its nodes from the ends inwards, and its checks: near the largest errors between the nodes. */
export interface Trial {
  grid: Grid;
  nodes: readonly number[];
  checks: readonly Check[];
}

/** A place −1…1 where a fit is compared with what it stands for, and the weights there of the values at the nodes. */
interface Check {
  t: number;
  weights: Float64Array;
  /** number of a node that lies there, −1 for none */
  node: number;
}

function trial(grid: Grid, places: readonly number[]): Trial {
  const fromTheEnds = grid.nodes.toSorted((a, b) => Math.abs(NODES[b]!) - Math.abs(NODES[a]!));
  const checks = places.map((t) => ({ t, weights: grid.weightsAt(t), node: NODES.indexOf(t) }));
  return { grid, nodes: fromTheEnds, checks };
}

/**
 * Between two bends most stages draw a parabola of power at most, so three samples say it all and three more prove it;
 * others take seven and three. Two of those are nodes of the seven.
 */
export const TRIALS: readonly Trial[] = [
  trial(FEW, [NODES[2]!, NODES[4]!, -0.8]),
  trial(ALL, [-0.95, -0.26, 0.7]),
];

/** The polynomial that stands for f on [−1, 1] to a relative error; undefined where none does. */
export function fitOver(f: (t: number) => number, error: number): ((t: number) => number) | undefined {
  const values = new Float64Array(POINTS).fill(NaN);
  const sample = (k: number) => {
    if (Number.isNaN(values[k]!)) values[k] = f(NODES[k]!);
    return values[k]!;
  };
  for (const { grid, nodes, checks } of TRIALS) {
    for (const k of nodes) sample(k);
    const near = ({ t, weights, node }: Check) => {
      const exact = node >= 0 ? sample(node) : f(t);
      let said = 0;
      for (let k = 0; k < grid.points; k++) said += weights[k]! * values[grid.nodes[k]!]!;
      return Math.abs(said - exact) <= error * Math.abs(exact);
    };
    if (!checks.every(near)) continue;
    const own = Float64Array.from(grid.nodes, (k) => values[k]!);
    const c = new Float64Array(POINTS);
    grid.fit(own, 1, 0, c, 0);
    return (t) => value(c, 0, t);
  }
  return undefined;
}

/** Value at t of the polynomial whose coefficients begin at `at`. */
export function value(c: Float64Array, at: number, t: number): number {
  return (
    c[at]! +
    t *
      (c[at + 1]! +
        t * (c[at + 2]! + t * (c[at + 3]! + t * (c[at + 4]! + t * (c[at + 5]! + t * c[at + 6]!)))))
  );
}

/** Its slope by t. */
export function slope(c: Float64Array, at: number, t: number): number {
  return (
    c[at + 1]! +
    t *
      (2 * c[at + 2]! +
        t * (3 * c[at + 3]! + t * (4 * c[at + 4]! + t * (5 * c[at + 5]! + t * 6 * c[at + 6]!))))
  );
}

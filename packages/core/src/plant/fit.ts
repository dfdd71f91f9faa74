/**
 * Polynomials of sixth degree through values at seven Chebyshev-Lobatto points of [−1, 1], in powers of t.
 * Both ends are among the points, so that neighbouring pieces meet.
 * Source: interpolation at Chebyshev points; Trefethen, Approximation Theory and Practice, ch. 2 (from memory).
 */
export const DEGREE = 6;
export const POINTS = DEGREE + 1;

/** Where the values are taken. */
export const NODES = Float64Array.from({ length: POINTS }, (_, k) => -Math.cos((k * Math.PI) / DEGREE));

/** Where a fit is compared with what it stands for: near the largest errors between the points. */
export const CHECKS: readonly number[] = [-0.95, -0.26, 0.7];

/** Rows of the inverse of the Vandermonde matrix of the points: coefficient c is Σ INVERSE[c][k]·y[k]. */
const INVERSE = invert(Array.from(NODES, (t) => Array.from({ length: POINTS }, (_, p) => t ** p)));

/** Coefficients of the polynomial through `values`. @param into receives POINTS numbers from `at` on */
export function fit(values: Float64Array, into: Float64Array, at: number): void {
  for (let c = 0; c < POINTS; c++) {
    let sum = 0;
    for (let k = 0; k < POINTS; k++) sum += INVERSE[c * POINTS + k]! * values[k]!;
    into[at + c] = sum;
  }
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

/** Gauss-Jordan with row exchange; flat, by rows. */
function invert(matrix: number[][]): Float64Array {
  const n = matrix.length;
  const rows = matrix.map((row, r) => [...row, ...row.map((_, c) => (r === c ? 1 : 0))]);
  for (let k = 0; k < n; k++) {
    const pivot = rows
      .slice(k)
      .reduce((best, row, r) => (Math.abs(row[k]!) > Math.abs(rows[best]![k]!) ? r + k : best), k);
    [rows[k], rows[pivot]] = [rows[pivot]!, rows[k]!];
    const lead = rows[k]![k]!;
    rows[k] = rows[k]!.map((x) => x / lead);
    for (let r = 0; r < n; r++) {
      if (r === k) continue;
      const factor = rows[r]![k]!;
      rows[r] = rows[r]!.map((x, c) => x - factor * rows[k]![c]!);
    }
  }
  return Float64Array.from(rows.flatMap((row) => row.slice(n)));
}

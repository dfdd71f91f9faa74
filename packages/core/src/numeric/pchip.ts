/** A monotone piecewise-cubic curve through a table, with the integral from its first knot. */
export interface Curve {
  /** Value at x; outside the table the end value is held. */
  at(x: number): number;
  /** Integral of the curve from the first knot to x (x clamped to the table). */
  integral(x: number): number;
  /** [fraction of x] first and last knot */
  readonly from: number;
  readonly to: number;
}

/**
 * Piecewise cubic Hermite interpolation that keeps the monotonicity of the data.
 *
 * Slopes: weighted harmonic mean of the neighbouring secants, zero at a local extreme; one-sided
 * three-point formula at the ends, limited to keep the shape.
 * Source: F. N. Fritsch and J. Butland, SIAM J. Sci. Stat. Comput. 5 (1984) 300 (from memory).
 *
 * @param xs strictly increasing knots, at least 2
 * @param ys values, same length
 * @throws RangeError when lengths differ or knots do not increase: a programmer's mistake, since
 *   documents are validated before curves are made of them.
 */
export function pchip(xs: readonly number[], ys: readonly number[]): Curve {
  const n = xs.length;
  if (n < 2 || ys.length !== n) throw new RangeError(`pchip: ${n} knots and ${ys.length} values`);
  const x = Float64Array.from(xs);
  const y = Float64Array.from(ys);
  const slope = slopes(x, y);
  // Power-basis coefficients of each segment in t = x - x_k, and the integral up to each knot.
  const c2 = new Float64Array(n - 1);
  const c3 = new Float64Array(n - 1);
  const area = new Float64Array(n);
  for (let k = 0; k < n - 1; k++) {
    const h = x[k + 1]! - x[k]!;
    const secant = (y[k + 1]! - y[k]!) / h;
    c2[k] = (3 * secant - 2 * slope[k]! - slope[k + 1]!) / h;
    c3[k] = (slope[k]! + slope[k + 1]! - 2 * secant) / (h * h);
    area[k + 1] = area[k]! + h * (y[k]! + h * (slope[k]! / 2 + h * (c2[k]! / 3 + (h * c3[k]!) / 4)));
  }
  const first = x[0]!;
  const last = x[n - 1]!;
  let seen = 0; // the segment of the last look-up: a run-down moves through the table in order

  const segment = (v: number): number => {
    if (v >= x[seen]! && v <= x[seen + 1]!) return seen;
    let lo = 0;
    let hi = n - 2;
    while (lo < hi) {
      const mid = (lo + hi + 1) >> 1;
      if (x[mid]! <= v) lo = mid;
      else hi = mid - 1;
    }
    return (seen = lo);
  };
  return {
    from: first,
    to: last,
    at(v) {
      if (v <= first) return y[0]!;
      if (v >= last) return y[n - 1]!;
      const k = segment(v);
      const t = v - x[k]!;
      return y[k]! + t * (slope[k]! + t * (c2[k]! + t * c3[k]!));
    },
    integral(v) {
      const w = v < first ? first : v > last ? last : v;
      const k = segment(w);
      const t = w - x[k]!;
      return area[k]! + t * (y[k]! + t * (slope[k]! / 2 + t * (c2[k]! / 3 + (t * c3[k]!) / 4)));
    },
  };
}

function slopes(x: Float64Array, y: Float64Array): Float64Array {
  const n = x.length;
  const h = new Float64Array(n - 1);
  const d = new Float64Array(n - 1);
  for (let k = 0; k < n - 1; k++) {
    h[k] = x[k + 1]! - x[k]!;
    if (!(h[k]! > 0)) throw new RangeError(`pchip: knots must increase, got ${x[k]} then ${x[k + 1]}`);
    d[k] = (y[k + 1]! - y[k]!) / h[k]!;
  }
  const m = new Float64Array(n);
  if (n === 2) return m.fill(d[0]!);
  for (let k = 1; k < n - 1; k++) {
    if (d[k - 1]! * d[k]! <= 0) continue;
    const w1 = 2 * h[k]! + h[k - 1]!;
    const w2 = h[k]! + 2 * h[k - 1]!;
    m[k] = (w1 + w2) / (w1 / d[k - 1]! + w2 / d[k]!);
  }
  m[0] = endSlope(h[0]!, h[1]!, d[0]!, d[1]!);
  m[n - 1] = endSlope(h[n - 2]!, h[n - 3]!, d[n - 2]!, d[n - 3]!);
  return m;
}

function endSlope(h0: number, h1: number, d0: number, d1: number): number {
  const m = ((2 * h0 + h1) * d0 - h0 * d1) / (h0 + h1);
  if (m * d0 <= 0) return 0;
  if (d0 * d1 <= 0 && Math.abs(m) > 3 * Math.abs(d0)) return 3 * d0;
  return m;
}

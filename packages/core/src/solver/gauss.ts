/** Nodes and weights of two-stage Gauss collocation, order four. Hairer, Nørsett, Wanner, ch. II.7 (from memory). */
export const C1 = 0.5 - Math.sqrt(3) / 6;
export const C2 = 0.5 + Math.sqrt(3) / 6;
export const D = C2 - C1;
export const A12 = 0.25 - Math.sqrt(3) / 6;
export const A21 = 0.25 + Math.sqrt(3) / 6;

/** Numbers a branch: decay to both nodes and the end, then the weights of both nodes' currents at each of these. */
export const WEIGHTS = 9;

/** Weights of one branch of time constant T; with T = 0 it follows the current at once. */
export function weigh(w: Float64Array, o: number, h: number, T: number): void {
  for (let j = 0; j < 3; j++) {
    const c = j === 0 ? C1 : j === 1 ? C2 : 1;
    const e = T > 0 ? -Math.expm1((-c * h) / T) : 1;
    const m = (c * h - T * e) / (D * h);
    w[o + j] = 1 - e;
    w[o + 3 + 2 * j] = (e * C2) / D - m;
    w[o + 4 + 2 * j] = (-e * C1) / D + m;
  }
}

/** Value at x of the cubic through its values at 0, C1, C2 and 1. */
export function cubic(y0: number, y1: number, y2: number, y3: number, x: number): number {
  const d1 = (y1 - y0) / C1;
  const d2 = (y2 - y0) / C2;
  const e2 = (d2 - d1) / D;
  const e3 = (y3 - y0 - d1) / (1 - C1);
  const c3 = (e3 - e2) / (1 - C2);
  const c2 = e2 - c3 * (C1 + C2);
  return y0 + x * (d1 - C1 * (c2 + c3 * C1) + x * (c2 + x * c3));
}

/** Nodes and weights of two-stage Gauss collocation, order four. Hairer, Nørsett, Wanner, ch. II.7 (from memory). */
export const C1 = 0.5 - Math.sqrt(3) / 6;
export const C2 = 0.5 + Math.sqrt(3) / 6;
export const D = C2 - C1;
export const A12 = 0.25 - Math.sqrt(3) / 6;
export const A21 = 0.25 + Math.sqrt(3) / 6;

/** Numbers a branch: decay to both nodes and the end, then the weights of both nodes' currents at each of these. */
export const WEIGHTS = 9;

/**
 * Weights of one branch of time constant T; with T = 0 it follows the current at once. Both nodes lie as far from the
 * ends, so that what decays to the end is what decays to one and then to the other.
 */
export function weigh(w: Float64Array, o: number, h: number, T: number): void {
  const e1 = T > 0 ? -Math.expm1((-C1 * h) / T) : 1;
  const e2 = T > 0 ? -Math.expm1((-C2 * h) / T) : 1;
  const per = 1 / (D * h);
  put(w, o, 0, C1 * h, e1, T, per);
  put(w, o, 1, C2 * h, e2, T, per);
  put(w, o, 2, h, e1 + e2 - e1 * e2, T, per);
}

/** @param e share decayed @param t [s] @param per 1/[s] between the nodes */
function put(w: Float64Array, o: number, j: number, t: number, e: number, T: number, per: number): void {
  const m = (t - T * e) * per;
  w[o + j] = 1 - e;
  w[o + 3 + 2 * j] = e * (C2 / D) - m;
  w[o + 4 + 2 * j] = m - e * (C1 / D);
}

/** The cubic through values at 0, C1, C2 and 1. */
export class Cubic {
  private c0 = 0;
  private c1 = 0;
  private c2 = 0;
  private c3 = 0;

  through(y0: number, y1: number, y2: number, y3: number): this {
    const d1 = (y1 - y0) * (1 / C1);
    const d2 = (y2 - y0) * (1 / C2);
    const e2 = (d2 - d1) * (1 / D);
    const e3 = (y3 - y0 - d1) * (1 / (1 - C1));
    this.c0 = y0;
    this.c3 = (e3 - e2) * (1 / (1 - C2));
    this.c2 = e2 - this.c3 * (C1 + C2);
    this.c1 = d1 - C1 * (this.c2 + this.c3 * C1);
    return this;
  }

  at(x: number): number {
    return this.c0 + x * (this.c1 + x * (this.c2 + x * this.c3));
  }
}

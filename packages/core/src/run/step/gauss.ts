/** Nodes and weights of two-stage Gauss collocation, order four. Hairer, Nørsett, Wanner, ch. II.7 (from memory). */
export const C1 = 0.5 - Math.sqrt(3) / 6;
export const C2 = 0.5 + Math.sqrt(3) / 6;
export const D = C2 - C1;
export const A12 = 0.25 - Math.sqrt(3) / 6;
export const A21 = 0.25 + Math.sqrt(3) / 6;

/**
 * Numbers a branch: decay to both nodes and the end, then at each of these the weights of what drives it at the start and
 * at both nodes.
 */
export const WEIGHTS = 12;

const PLACES = [C1, C2, 1];

/**
 * Weights of one branch of time constant T over h seconds, for a drive g that is a parabola through its values at the
 * start and both nodes: T·v' = g − v. With T = 0 it follows at once. Exactly, so that a branch far faster than the step
 * costs no accuracy: by parts, ∫ over a share c of the step of e^(t−c)·h/T·tⁿ is z·φ1, c·z·φ2 and 2c²·z·φ3 of z = c·h/T.
 * Source: φ functions of exponential integrators; Hochbruck and Ostermann, Acta Numerica 19 (2010), §2.1 (from memory).
 */
export function weigh(w: Float64Array, o: number, h: number, T: number): void {
  for (let j = 0; j < 3; j++) {
    const c = PLACES[j]!;
    let i0 = 1;
    let i1 = c;
    let i2 = c * c;
    if (T > 0) {
      const z = (c * h) / T;
      if (z < SMALL) {
        const p3 = phi3(z);
        const p2 = 0.5 - z * p3;
        i0 = z * (1 - z * p2);
        i1 = c * z * p2;
        i2 = 2 * c * c * z * p3;
      } else {
        // The same the other way round: nothing is multiplied by a large z.
        i0 = -Math.expm1(-z);
        const lag = 1 - i0 / z;
        i1 = c * lag;
        i2 = c * c * (1 - (2 * lag) / z);
      }
    }
    w[o + j] = 1 - i0;
    const to = o + 3 + 3 * j;
    w[to] = i0 - 6 * (i1 - i2);
    w[to + 1] = (C2 * i1 - i2) / (C1 * D);
    w[to + 2] = (i2 - C1 * i1) / (C2 * D);
  }
}

/** z below which the difference that φ3 is would lose digits, and the series needs ten terms. */
const SMALL = 0.25;

/** Σ (−z)^m / (m + 3)! of small z. */
function phi3(z: number): number {
  return (
    (1 -
      (z / 4) *
        (1 -
          (z / 5) *
            (1 -
              (z / 6) *
                (1 -
                  (z / 7) *
                    (1 - (z / 8) * (1 - (z / 9) * (1 - (z / 10) * (1 - (z / 11) * (1 - z / 12))))))))) /
    6
  );
}

/** A cubic on 0…1. */
export class Cubic {
  private c0 = 0;
  private c1 = 0;
  private c2 = 0;
  private c3 = 0;

  /** The one through values at 0, C1, C2 and 1. */
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

  /** The cubic from y0 to y1 whose slopes there are m0 and m1. */
  hermite(y0: number, y1: number, m0: number, m1: number): this {
    const d = y1 - y0;
    this.c0 = y0;
    this.c1 = m0;
    this.c2 = 3 * d - 2 * m0 - m1;
    this.c3 = m0 + m1 - 2 * d;
    return this;
  }

  at(x: number): number {
    return this.c0 + x * (this.c1 + x * (this.c2 + x * this.c3));
  }

  slope(x: number): number {
    return this.c1 + x * (2 * this.c2 + x * 3 * this.c3);
  }
}

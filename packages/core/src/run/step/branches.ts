import { floats } from '../../numeric/floats.ts';
import { LOOK } from '../../plant/cellTable.ts';
import { weigh, WEIGHTS } from './gauss.ts';

/**
 * The RC branches over one step, exactly for a drive R·i that is a parabola over it, so that fast ones do not limit it:
 * v(c·h) = v0·e + w0·g0 + w1·g1 + w2·g2. A time constant that moves within the step adds (τ/τ' − 1)·(R·i − v) to the
 * drive, which is linear in v too.
 */
export class Branches {
  /** [V] of each branch at both nodes */
  readonly first: Float64Array;
  readonly second: Float64Array;
  /** [V] their sums, and [Ω] how those answer to the current of either node */
  drop1 = 0;
  drop2 = 0;
  b11 = 0;
  b12 = 0;
  b21 = 0;
  b22 = 0;
  /** [F] of each at mid-step */
  readonly capacitances: Float64Array;
  private readonly w: Float64Array;
  /** [s] time constants at mid-step */
  private readonly tau: Float64Array;
  /** [V] drive of each branch at the start */
  private readonly g0: Float64Array;
  /** of each branch: [Ω] how it answers itself, [V] its drive at both nodes */
  private readonly p: Float64Array;

  constructor(private readonly count: number) {
    this.first = new Float64Array(count);
    this.second = new Float64Array(count);
    this.capacitances = new Float64Array(count);
    this.w = floats(WEIGHTS * count);
    this.tau = new Float64Array(count);
    this.g0 = new Float64Array(count);
    this.p = floats(PER_BRANCH * count);
  }

  /**
   * Begin a step of h seconds.
   * @param v0 [V] at the start @param L0 curves of the cell there, see LOOK @param i0 [A] of one cell
   * @param middle curves at mid-step
   */
  begin(h: number, v0: Float64Array, L0: Float64Array, i0: number, middle: Float64Array): void {
    const { count, tau, w, g0, capacitances } = this;
    for (let k = 0; k < count; k++) {
      const farads = middle[LOOK.branches + count + k]!;
      const t = middle[LOOK.branches + k]! * farads;
      capacitances[k] = farads;
      tau[k] = t;
      weigh(w, WEIGHTS * k, h, t);
      const r = L0[LOOK.branches + k]!;
      const own = r * L0[LOOK.branches + count + k]!;
      g0[k] = own > 0 ? r * i0 + (t / own - 1) * (r * i0 - v0[k]!) : r * i0;
    }
  }

  /**
   * Volts at both nodes and how they answer.
   * @param v0 [V] at the start @param L1, L2 curves of the cell at the nodes @param i1, i2 [A] of one cell there
   */
  solve(v0: Float64Array, L1: Float64Array, L2: Float64Array, i1: number, i2: number): void {
    const { count, w, p, tau, g0 } = this;
    let drop1 = 0;
    let drop2 = 0;
    let b11 = 0;
    let b12 = 0;
    let b21 = 0;
    let b22 = 0;
    for (let k = 0; k < count; k++) {
      const o = WEIGHTS * k;
      const q = PER_BRANCH * k;
      const r1 = L1[LOOK.branches + k]!;
      const r2 = L2[LOOK.branches + k]!;
      const t1 = r1 * L1[LOOK.branches + count + k]!;
      const t2 = r2 * L2[LOOK.branches + count + k]!;
      const off1 = t1 > 0 ? tau[k]! / t1 - 1 : 0;
      const off2 = t2 > 0 ? tau[k]! / t2 - 1 : 0;
      const w11 = w[o + 4]!;
      const w12 = w[o + 5]!;
      const w21 = w[o + 7]!;
      const w22 = w[o + 8]!;
      // (1 + w11·off1)·v1 + w12·off2·v2 = v0·e1 + w10·g0 + w11·u1 + w12·u2, and likewise: u = R·i·(1 + off).
      const m11 = 1 + w11 * off1;
      const m12 = w12 * off2;
      const m21 = w21 * off1;
      const m22 = 1 + w22 * off2;
      const det = 1 / (m11 * m22 - m12 * m21);
      const a1 = r1 * (1 + off1) * det;
      const a2 = r2 * (1 + off2) * det;
      const p11 = (w11 * m22 - w21 * m12) * a1;
      const p12 = (w12 * m22 - w22 * m12) * a2;
      const p21 = (w21 * m11 - w11 * m21) * a1;
      const p22 = (w22 * m11 - w12 * m21) * a2;
      const k1 = (v0[k]! * w[o]! + w[o + 3]! * g0[k]!) * det;
      const k2 = (v0[k]! * w[o + 1]! + w[o + 6]! * g0[k]!) * det;
      const v1 = k1 * m22 - k2 * m12 + p11 * i1 + p12 * i2;
      const v2 = k2 * m11 - k1 * m21 + p21 * i1 + p22 * i2;
      this.first[k] = v1;
      this.second[k] = v2;
      p[q] = p11;
      p[q + 1] = p12;
      p[q + 2] = p21;
      p[q + 3] = p22;
      p[q + 4] = r1 * i1 + (r1 * i1 - v1) * off1;
      p[q + 5] = r2 * i2 + (r2 * i2 - v2) * off2;
      drop1 += v1;
      drop2 += v2;
      b11 += p11;
      b12 += p12;
      b21 += p21;
      b22 += p22;
    }
    this.drop1 = drop1;
    this.drop2 = drop2;
    this.b11 = b11;
    this.b12 = b12;
    this.b21 = b21;
    this.b22 = b22;
  }

  /** The same after a last small change of both currents [A]. */
  move(d1: number, d2: number): void {
    const { count, p, first, second } = this;
    for (let k = 0; k < count; k++) {
      const q = PER_BRANCH * k;
      first[k]! += p[q]! * d1 + p[q + 1]! * d2;
      second[k]! += p[q + 2]! * d1 + p[q + 3]! * d2;
    }
  }

  /** [V] at the end of the step. */
  end(v0: Float64Array, into: Float64Array): void {
    const { count, w, p, g0 } = this;
    for (let k = 0; k < count; k++) {
      const o = WEIGHTS * k;
      const q = PER_BRANCH * k;
      into[k] = v0[k]! * w[o + 2]! + w[o + 9]! * g0[k]! + w[o + 10]! * p[q + 4]! + w[o + 11]! * p[q + 5]!;
    }
  }
}

const PER_BRANCH = 6;

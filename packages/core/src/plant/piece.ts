import { DEGREE, fit, POINTS, slope, value } from './fit.ts';

// Scratch of the making of pieces: one is made at a time. Paths have far fewer columns.
const values = new Float64Array(POINTS);
const moving = new Int32Array(4096);

/**
 * A stretch of volts in which nothing changes its mode and every column is a polynomial: columns that stand still are
 * kept as they are, the others by their seven coefficients.
 */
export class Piece {
  /** [V] */
  readonly lo: number;
  readonly hi: number;
  /** number of the state in it; of equal states equal */
  readonly event: number;
  /** what the state is, as sampled */
  readonly signature: Int32Array;
  /** of each stage, whether it left its measured table */
  readonly extended: Uint8Array;
  private readonly mid: number;
  private readonly per: number;
  private readonly base: Float64Array;
  private readonly moving: Int32Array;
  private readonly c: Float64Array;

  /**
   * @param rows of columns, one for each node
   * @param still largest difference from the first row, relative to `scale` [by column], that counts as none
   */
  constructor(
    lo: number,
    hi: number,
    rows: Float64Array,
    state: { event: number; signature: Int32Array; extended: Uint8Array },
    still: number,
  ) {
    this.lo = lo;
    this.hi = hi;
    this.event = state.event;
    this.signature = state.signature;
    this.extended = state.extended;
    this.mid = (lo + hi) / 2;
    this.per = 2 / (hi - lo);
    const columns = rows.length / POINTS;
    const base = rows.slice((DEGREE >> 1) * columns, ((DEGREE >> 1) + 1) * columns);
    this.base = base;
    moving[0] = 0;
    let count = 1;
    for (let c = 1; c < base.length; c++) {
      const near = still * Math.abs(base[c]!);
      for (let k = 0; k < POINTS; k++) {
        if (Math.abs(rows[k * columns + c]! - base[c]!) > near) {
          moving[count++] = c;
          break;
        }
      }
    }
    this.moving = moving.slice(0, count);
    this.c = new Float64Array(count * POINTS);
    for (let n = 0; n < count; n++) {
      const column = moving[n]!;
      for (let k = 0; k < POINTS; k++) values[k] = rows[k * columns + column]!;
      fit(values, this.c, n * POINTS);
    }
  }

  /** [W] the path takes at `volts` */
  power(volts: number): number {
    return value(this.c, 0, (volts - this.mid) * this.per);
  }

  /** [A] its slope by volts */
  rise(volts: number): number {
    return this.per * slope(this.c, 0, (volts - this.mid) * this.per);
  }

  /** The columns before the one of number `until`, at `volts`. */
  read(volts: number, into: Float64Array, until: number): void {
    const { moving, base, c } = this;
    for (let k = 0; k < until; k++) into[k] = base[k]!;
    const t = (volts - this.mid) * this.per;
    for (let n = 0; n < moving.length; n++) {
      const column = moving[n]!;
      if (column >= until) break;
      into[column] = value(c, n * POINTS, t);
    }
  }

  /** [V] where the values of node `k` are taken: a hair inside, since an edge may belong to either side. */
  static node(lo: number, hi: number, t: number): number {
    const inset = 1e-12 * hi;
    return (lo + hi) / 2 + t * ((hi - lo) / 2 - inset);
  }
}

import { floats } from '../numeric/floats.ts';
import { FEW, POINTS, value, type Grid } from './fit.ts';

/** What holds in a whole piece. */
export interface PieceState {
  /** number of the state; of equal states equal */
  readonly event: number;
  /** what the state is, as sampled */
  readonly signature: Int32Array;
  /** of each stage, whether it left its measured table */
  readonly extended: Uint8Array;
}

// Scratch of the search for columns that move; paths have far fewer.
const found = new Int32Array(4096);

/** Columns count as standing still within this of their first value, relative. */
const STILL = 1e-13;

/**
 * A stretch of volts in which nothing changes its mode and every column is a polynomial through its values at the nodes.
 * The leading columns are kept by their coefficients; those of the others are worked out when rows are first read.
 */
export class Piece {
  /** [V] its ends; the upper one moves down where a bridge begins */
  readonly lo: number;
  hi: number;
  readonly state: PieceState;
  readonly event: number;
  /** whether it is of second degree */
  readonly parabola: boolean;
  /** [1/V] places by volts */
  readonly per: number;
  /** coefficients of the leading columns by place, the power first */
  readonly c: Float64Array;
  private readonly mid: number;
  private rest: { moving: Int32Array; c: Float64Array } | undefined;

  /**
   * @param grid of the nodes
   * @param values row by row, one for each node
   * @param leading columns that are asked alone
   */
  constructor(
    lo: number,
    hi: number,
    readonly grid: Grid,
    readonly values: Float64Array,
    leading: number,
    state: PieceState,
    /** which of its ends are where its state ends */
    readonly cut: { readonly below: boolean; readonly above: boolean },
    /** whether it bridges a jump: what stands there hunts between both sides */
    readonly bridge = false,
  ) {
    this.lo = lo;
    this.hi = hi;
    this.state = state;
    this.event = state.event;
    this.mid = (lo + hi) / 2;
    this.per = 2 / (hi - lo);
    this.parabola = grid === FEW;
    this.c = floats(leading * POINTS);
    const columns = values.length / grid.points;
    for (let n = 0; n < leading; n++) grid.fit(values, columns, n, this.c, n * POINTS);
  }

  /** Where volts lie in it: −1…1. */
  place(volts: number): number {
    return (volts - this.mid) * this.per;
  }

  /** A leading column at `volts`. */
  leading(column: number, volts: number): number {
    return value(this.c, column * POINTS, (volts - this.mid) * this.per);
  }

  /** The columns before the one of number `until`, at `volts`. @param again whether `into` holds others of this piece */
  read(volts: number, into: Float64Array, until: number, again: boolean): void {
    const { moving, c } = (this.rest ??= this.fitAll());
    const t = (volts - this.mid) * this.per;
    const { parabola } = this;
    if (!again) {
      const { values } = this;
      for (let k = 0; k < until; k++) into[k] = values[k]!;
    }
    let count = moving.length;
    while (count > 0 && moving[count - 1]! >= until) count--;
    if (parabola) {
      for (let n = 0, at = 0; n < count; n++, at += POINTS) {
        into[moving[n]!] = c[at]! + t * (c[at + 1]! + t * c[at + 2]!);
      }
    } else for (let n = 0; n < count; n++) into[moving[n]!] = value(c, n * POINTS, t);
  }

  /** Columns that stand still are kept as they are, the others by their coefficients. */
  private fitAll(): { moving: Int32Array; c: Float64Array } {
    const { grid, values } = this;
    const columns = values.length / grid.points;
    let count = 0;
    for (let c = 0; c < columns; c++) {
      const base = values[c]!;
      for (let k = 1; k < grid.points; k++) {
        if (Math.abs(values[k * columns + c]! - base) > STILL * Math.abs(base)) {
          found[count++] = c;
          break;
        }
      }
    }
    const moving = found.slice(0, count);
    const c = floats(count * POINTS);
    for (let n = 0; n < count; n++) grid.fit(values, columns, moving[n]!, c, n * POINTS);
    return { moving, c };
  }
}

/** [V] where the values of a node are taken: a hair inside, since an edge may belong to either side. @param t −1…1 */
export function placeIn(lo: number, hi: number, t: number): number {
  const inset = 1e-12 * hi;
  return (lo + hi) / 2 + t * ((hi - lo) / 2 - inset);
}

import { floats } from '../../numeric/floats.ts';
import { POINTS } from '../../plant/fit.ts';
import { loadAt, LOAD_COLUMN } from '../../plant/layout.ts';
import type { Path } from '../../plant/path.ts';
import type { Piece } from '../../plant/piece.ts';
import { RANGE, rangeIn } from '../../plant/railState.ts';

/** What a piece of the chart has carried: ∫ t^k dt over the places t it was passed at, one for each power. [s] */
interface Share {
  piece: Piece;
  moments: Float64Array;
}

/** What the path does at some volts, past its chart. */
export interface Exactly {
  columns: Float64Array;
  /** [W] to loads in their range */
  usable: number;
}

/** Read what the path does at some volts, past its chart. @param into overwritten; a new one where none is given */
export function readExactly(
  path: Path,
  volts: number,
  into: Exactly = { columns: floats(path.columns.length), usable: 0 },
): Exactly {
  path.readExactly(volts);
  into.columns.set(path.columns);
  into.usable = 0;
  path.loads.forEach((_, l) => {
    if (path.rangeOf(l) === RANGE.in) into.usable += path.columns[wattsOf(path, l)]!;
  });
  return into;
}

/** Column of what a load takes. */
export function wattsOf({ stages }: Path, load: number): number {
  return loadAt(stages.length, load) + LOAD_COLUMN.watts;
}

/**
 * Integrals over time of all that a path's columns say. What the path does is a polynomial of the volts within a piece of its
 * chart: a few moments of the time spent there give every column's integral at the end, however many columns there are.
 */
export class PathSums {
  private readonly shares = new Map<Piece, Share>();
  private last: Share | undefined;
  /** [J] integrals of the path's columns where its chart has no piece, and the part of what is delivered in range */
  private readonly exact: Float64Array;
  private usableExact = 0;

  constructor(private readonly path: Path) {
    this.exact = floats(path.columns.length);
  }

  /** @param t −1…1, the place in the piece @param seconds spent there */
  bookPiece(piece: Piece, t: number, seconds: number): void {
    const { moments } = this.last?.piece === piece ? this.last : this.shareOf(piece);
    let power = seconds;
    for (let k = 0; k < POINTS; k++) {
      moments[k]! += power;
      power *= t;
    }
  }

  private shareOf(piece: Piece): Share {
    let share = this.shares.get(piece);
    if (!share) this.shares.set(piece, (share = { piece, moments: new Float64Array(POINTS) }));
    return (this.last = share);
  }

  bookExactly({ columns, usable }: Exactly, seconds: number): void {
    const { exact } = this;
    for (let c = 0; c < exact.length; c++) exact[c]! += seconds * columns[c]!;
    this.usableExact += seconds * usable;
  }

  /** [J] integrals of all columns of the path, and the part of what is delivered in range. */
  integrals(): { columns: Float64Array; usable: number } {
    const { path } = this;
    const n = this.exact.length;
    const columns = floats(n);
    columns.set(this.exact);
    let usable = this.usableExact;
    for (const { piece, moments } of this.shares.values()) {
      const { values, grid, state } = piece;
      const weights = grid.weights(moments);
      for (let k = 0, at = 0; k < grid.points; k++) {
        const weight = weights[k]!;
        for (let c = 0; c < n; c++) columns[c]! += weight * values[at++]!;
      }
      for (let l = 0; l < path.loads.length; l++) {
        if (rangeIn(state.signature, path.stages.length, l) !== RANGE.in) continue;
        const watts = wattsOf(path, l);
        for (let k = 0; k < grid.points; k++) usable += weights[k]! * values[k * n + watts]!;
      }
    }
    return { columns, usable };
  }
}

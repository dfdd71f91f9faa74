import type { CellRecord } from '../model/cell.ts';
import { pchip, type Curve } from '../numeric/pchip.ts';

/**
 * All curves of one cell on the union of their knots, one row of numbers an interval: a look-up is one search and
 * straight arithmetic on neighbouring memory. Made once a record and resistance, shared by every run on it.
 *
 * Row: OCV c0 c1 c2 c3, its integral up to the knot, R0 c0…c3, then for each branch ohms c0…c3 and farads c0…c3;
 * in powers of t = s − knot.
 */
const OCV = 0;
const AREA = 4;
const R0 = 5;
const BRANCH = 9;

/** What `look` finds, by place. */
export const LOOK = { ocv: 0, r0: 1, slope: 2, branches: 3 } as const;

/** A group of cells as part of a pack whose state of charge is s: its own is `empty + per·s`. */
export interface Blended {
  weight: number;
  empty: number;
  per: number;
  /** factor on every resistance */
  resistance: number;
}

/**
 * [V] by which a cell's volts at rest rise past full, for all the charge it holds: steep, so that a charge that goes on comes to
 * stand at the volts it is held at, and counts as full there. What it holds above is next to nothing. Assumed, no source.
 */
export const PAST_FULL = 25;

/** Share of the charge between knots that count as one. */
const CLOSE = 1e-6;
/** Knots of a blend beyond which even ones stand for them: steps end at each. */
const MOST_KNOTS = 500;

export class CellTable {
  /** state of charge at its upper end: 1, or where the last of several groups is full */
  private readonly top: number;
  private readonly stride: number;
  /** the interval of the last look-up: a run moves through the table in order */
  private seen: number;

  private constructor(
    readonly knots: Float64Array,
    readonly branches: number,
    private readonly rows: Float64Array,
    /** [V] by which the OCV rises above its upper end */
    private readonly steep: number,
  ) {
    this.top = knots.at(-1)!;
    this.stride = BRANCH + 8 * branches;
    this.seen = knots.length - 2;
  }

  static of(cell: CellRecord): CellTable {
    const sets = [cell.ocv.soc, cell.r0.soc, ...cell.branches.map((b) => b.soc)];
    const knots = Float64Array.from([...new Set([0, 1, ...sets.flat()])].sort((a, b) => a - b));
    const curves: Curve[] = [pchip(cell.ocv.soc, cell.ocv.volts), pchip(cell.r0.soc, cell.r0.ohms)];
    for (const b of cell.branches) curves.push(pchip(b.soc, b.ohms), pchip(b.soc, b.farads));
    const stride = BRANCH + 8 * cell.branches.length;
    const rows = new Float64Array((knots.length - 1) * stride);
    const table = new CellTable(knots, cell.branches.length, rows, PAST_FULL);
    table.fill(curves, 0);
    // What a cell holds is counted from where its record calls it empty, also of one that was emptied further.
    const below = table.area(0);
    if (below !== 0) table.fill(curves, -below);
    return table;
  }

  /**
   * One cell that stands for groups in series that differ: the mean of their curves over the state of charge of the
   * pack, 0 where the first of them is empty and 1 where the first is full, up to where the last is. Exactly, since each is a cubic between its
   * own knots; only a branch's farads follow from the mean of their time constants. Its integral begins with what the
   * groups hold where the first is empty.
   * @param groups of weights that sum to 1
   */
  static blend(cell: CellTable, groups: readonly Blended[]): CellTable {
    const { branches } = cell;
    const sets = groups.map((g) => [...cell.knots].map((z) => (z - g.empty) / g.per));
    const last = Math.max(1, ...groups.map((g) => (1 - g.empty) / g.per));
    const ends = last - 1 > CLOSE ? [0, 1, last] : [0, 1];
    const top = ends.at(-1)!;
    const all = [...new Set([...ends, ...sets.flat().filter((s) => s > 0 && s < top)])].sort((a, b) => a - b);
    const isApart = (s: number) => ends.every((end) => Math.abs(end - s) > CLOSE);
    const apart = all.filter((s, k) => ends.includes(s) || (s - all[k - 1]! > CLOSE && isApart(s)));
    const even = Array.from({ length: MOST_KNOTS }, (_, k) => (top * k) / (MOST_KNOTS - 1));
    const knots = Float64Array.from(apart.length <= MOST_KNOTS ? apart : even);
    const rows = new Float64Array((knots.length - 1) * (BRANCH + 8 * branches));
    new Blend(cell, groups).fill(knots, rows);
    const steep = groups.reduce((sum, { weight, per }) => sum + weight * per * PAST_FULL, 0);
    return new CellTable(knots, branches, rows, steep);
  }

  /** @param area [V] integral of the OCV up to the first knot */
  private fill(curves: readonly Pick<Curve, 'at'>[], area: number): void {
    const { knots, rows, stride } = this;
    for (let k = 0; k < knots.length - 1; k++) {
      const from = knots[k]!;
      const h = knots[k + 1]! - from;
      const o = k * stride;
      cubic(curves[0]!, from, h, rows, o + OCV);
      rows[o + AREA] = area;
      area += h * this.meanOcv(o, h);
      for (let c = 1; c < curves.length; c++) cubic(curves[c]!, from, h, rows, o + placeOf(c));
    }
  }

  /** The same with R0 and every branch's ohms so many times. */
  withResistance(by: number): CellTable {
    const rows = this.rows.slice();
    for (let o = 0; o < rows.length; o += this.stride) {
      for (let c = 0; c < 4; c++) {
        rows[o + R0 + c]! *= by;
        for (let b = 0; b < this.branches; b++) rows[o + BRANCH + 8 * b + c]! *= by;
      }
    }
    return new CellTable(this.knots, this.branches, rows, this.steep);
  }

  /** [V] mean of the OCV over the first `x` of the interval whose row begins at `o`. */
  private meanOcv(o: number, x: number): number {
    const { rows } = this;
    return rows[o]! + x * (rows[o + 1]! / 2 + x * (rows[o + 2]! / 3 + (x * rows[o + 3]!) / 4));
  }

  /** Interval of a state of charge; the first and last continue outwards. */
  interval(s: number): number {
    const { knots } = this;
    const last = knots.length - 2;
    let k = this.seen;
    while (k > 0 && s < knots[k]!) k--;
    while (k < last && s > knots[k + 1]!) k++;
    return (this.seen = k);
  }

  /**
   * Curves at a state of charge, held beyond the table but for the OCV, which rises steeply past full: OCV [V], R0 [Ω], OCV's slope [V], each branch's ohms, then
   * each branch's farads.
   */
  look(s: number, into: Float64Array): void {
    const { rows, knots, stride, branches, top } = this;
    const k = this.interval(s);
    const held = s < knots[0]! ? knots[0]! : s > top ? top : s;
    const x = held - knots[k]!;
    const o = k * stride;
    into[LOOK.ocv] = rows[o]! + x * (rows[o + 1]! + x * (rows[o + 2]! + x * rows[o + 3]!));
    into[LOOK.r0] = rows[o + 5]! + x * (rows[o + 6]! + x * (rows[o + 7]! + x * rows[o + 8]!));
    into[LOOK.slope] = rows[o + 1]! + x * (2 * rows[o + 2]! + x * 3 * rows[o + 3]!);
    for (let b = 0; b < branches; b++) {
      const q = o + BRANCH + 8 * b;
      into[3 + b] = rows[q]! + x * (rows[q + 1]! + x * (rows[q + 2]! + x * rows[q + 3]!));
      into[3 + branches + b] = rows[q + 4]! + x * (rows[q + 5]! + x * (rows[q + 6]! + x * rows[q + 7]!));
    }
    if (s > top) {
      into[LOOK.ocv]! += (s - top) * this.steep;
      into[LOOK.slope] = this.steep;
    }
  }

  /** Room for what `look` finds. */
  room(): Float64Array {
    return new Float64Array(LOOK.branches + 2 * this.branches);
  }

  /** [Ω] of R0 and all branches together, of what has been looked up. */
  ohms(looked: Float64Array): number {
    let sum = looked[LOOK.r0]!;
    for (let b = 0; b < this.branches; b++) sum += looked[LOOK.branches + b]!;
    return sum;
  }

  /** [V] OCV alone. */
  ocv(s: number): number {
    const { rows, knots, stride, top } = this;
    if (s > top) return this.ocv(top) + (s - top) * this.steep;
    const k = this.interval(s);
    const x = (s < knots[0]! ? knots[0]! : s) - knots[k]!;
    const o = k * stride;
    return rows[o]! + x * (rows[o + 1]! + x * (rows[o + 2]! + x * rows[o + 3]!));
  }

  /** [V] integral of the OCV from empty; continued below empty at the OCV there. */
  area(s: number): number {
    const past = s - this.top;
    if (past > 0) return this.area(this.top) + past * (this.ocv(this.top) + (past * this.steep) / 2);
    const floor = this.knots[0]!;
    if (s < floor) return this.rows[AREA]! + (s - floor) * this.rows[0]!;
    const k = this.interval(s);
    const x = s - this.knots[k]!;
    const o = k * this.stride;
    return this.rows[o + AREA]! + x * this.meanOcv(o, x);
  }

  /** State of charge at which the cell rests at `volts`; the ends of the table beyond it. The OCV never falls with charge. */
  socAt(volts: number): number {
    const { knots, rows, stride } = this;
    if (volts <= this.ocv(knots[0]!)) return knots[0]!;
    if (volts >= this.ocv(1)) return 1;
    // First the interval, by what stands at its lower knot, then halves of it.
    let k = knots.length - 2;
    while (k > 0 && rows[k * stride]! >= volts) k--;
    let low = knots[k]!;
    let high = knots[k + 1]!;
    const o = k * stride;
    for (let n = 0; n < HALVINGS; n++) {
      const middle = (low + high) / 2;
      const x = middle - knots[k]!;
      if (rows[o]! + x * (rows[o + 1]! + x * (rows[o + 2]! + x * rows[o + 3]!)) < volts) low = middle;
      else high = middle;
    }
    return (low + high) / 2;
  }
}

/** To the last digit of a state of charge. */
const HALVINGS = 52;

/** The cubic of a curve on one interval of the union, from four of its values: it is one there. */
function cubic(curve: Pick<Curve, 'at'>, from: number, h: number, into: Float64Array, at: number): void {
  const [y0, y1, y2, y3] = [0, h / 3, (2 * h) / 3, h].map((x) => curve.at(from + x)) as [
    number,
    number,
    number,
    number,
  ];
  cubicThrough(y0, y1, y2, y3, h, into, at);
}

/** The cubic through four values evenly over an interval of length h, in powers of the distance from its start. Elementary. */
function cubicThrough(
  y0: number,
  y1: number,
  y2: number,
  y3: number,
  h: number,
  into: Float64Array,
  at: number,
): void {
  into[at] = y0;
  into[at + 1] = (-11 * y0 + 18 * y1 - 9 * y2 + 2 * y3) / (2 * h);
  into[at + 2] = (9 * (2 * y0 - 5 * y1 + 4 * y2 - y3)) / (2 * h * h);
  into[at + 3] = (9 * (-y0 + 3 * y1 - 3 * y2 + y3)) / (2 * h * h * h);
}

/** Writes the rows of a table that is the mean of groups: each group is looked up once a point for all of its curves. */
class Blend {
  private readonly room: Float64Array;
  /** curves in the order of a row, at four points of an interval one after the other */
  private readonly at: Float64Array;
  private readonly curves: number;

  constructor(
    private readonly cell: CellTable,
    private readonly groups: readonly Blended[],
  ) {
    this.room = cell.room();
    this.curves = 2 + 2 * cell.branches;
    this.at = new Float64Array(4 * this.curves);
  }

  fill(knots: Float64Array, rows: Float64Array): void {
    const { at, curves, cell, groups } = this;
    const stride = rows.length / (knots.length - 1);
    this.look(knots[0]!, 3);
    for (let k = 0, o = 0; k < knots.length - 1; k++, o += stride) {
      const from = knots[k]!;
      const h = knots[k + 1]! - from;
      // Where one interval ends the next begins.
      at.copyWithin(0, 3 * curves);
      this.look(from + h / 3, 1);
      this.look(from + (2 * h) / 3, 2);
      this.look(from + h, 3);
      for (let c = 0; c < curves; c++)
        cubicThrough(
          at[c]!,
          at[curves + c]!,
          at[2 * curves + c]!,
          at[3 * curves + c]!,
          h,
          rows,
          o + placeOf(c),
        );
      // Of each group by itself: where even knots stand for the groups' own, what is held stays exact at every one.
      let area = 0;
      for (const g of groups) area += (g.weight / g.per) * cell.area(g.empty + g.per * from);
      rows[o + AREA] = area;
    }
  }

  /** The mean of all curves at a state of charge. @param point 0…3, its place in an interval */
  private look(s: number, point: number): void {
    const { cell, groups, room, at } = this;
    const { branches } = cell;
    const p = point * this.curves;
    at.fill(0, p, p + this.curves);
    for (const { weight, empty, per, resistance } of groups) {
      cell.look(empty + per * s, room);
      at[p]! += weight * room[LOOK.ocv]!;
      at[p + 1]! += weight * resistance * room[LOOK.r0]!;
      for (let b = 0; b < branches; b++) {
        const ohms = room[LOOK.branches + b]!;
        at[p + 2 + 2 * b]! += weight * resistance * ohms;
        at[p + 3 + 2 * b]! += weight * resistance * ohms ** 2 * room[LOOK.branches + branches + b]!;
      }
    }
    // Only farads follow: from the mean of the time constants.
    for (let b = 0; b < branches; b++) {
      const ohms = at[p + 2 + 2 * b]!;
      if (ohms > 0) at[p + 3 + 2 * b]! /= ohms ** 2;
    }
  }
}

/** Where the curve of a number stands in a row: OCV, R0, then ohms and farads of each branch. */
function placeOf(curve: number): number {
  return curve === 0 ? OCV : R0 + 4 * (curve - 1);
}

const made = new WeakMap<CellRecord, CellTable>();
/** the last few with other resistances: thousands of draws ask each for its own */
const others = new WeakMap<CellRecord, Map<number, CellTable>>();
const FEW_OTHERS = 8;

/** The table of a record; records are never changed in place. @param resistance factor on every resistance */
export function cellTable(cell: CellRecord, resistance = 1): CellTable {
  let table = made.get(cell);
  if (!table) made.set(cell, (table = CellTable.of(cell)));
  if (resistance === 1) return table;
  let known = others.get(cell);
  if (!known) others.set(cell, (known = new Map()));
  let other = known.get(resistance);
  if (!other) {
    if (known.size >= FEW_OTHERS) known.delete(known.keys().next().value!);
    known.set(resistance, (other = table.withResistance(resistance)));
  }
  return other;
}

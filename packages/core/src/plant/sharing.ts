import type { OddCells } from '../model/group.ts';
import type { Pack } from '../model/pack.ts';
import { LOOK, type CellTable } from './cellTable.ts';

/** [Ω] Least resistance of a cell that shares a current: of none at all nobody knows who gives it. */
const LEAST_OHMS = 1e-6;
/** [1/s] Least rate at which cells come level: where the OCV is flat they hardly do. */
const LEAST_RATE = 1e-9;

/** Cells side by side of which some differ: how many of each, and what the odd ones hold and resist over the others. */
export interface Odd extends Required<OddCells> {
  /** the others, and their state of charge when the run starts */
  others: number;
  othersSoc: number;
}

/** The odd cells of a pack; none where all are alike, or where it has not so many and others beside them. */
export function oddOf({ odd, parallel, startSoc }: Pack): Odd | undefined {
  if (!odd || odd.count >= parallel) return undefined;
  return { startSoc, ...odd, others: parallel - odd.count, othersSoc: startSoc };
}

/** Factors by which the mean cell of a group holds and resists, the odd ones counted. Elementary. */
export function meanOf({ count, others, capacity, resistance }: Odd): {
  capacity: number;
  resistance: number;
} {
  const all = count + others;
  return { capacity: (others + count * capacity) / all, resistance: all / (others + count / resistance) };
}

/** State of charge of all together when the run starts. */
export function startOf({ count, others, capacity, startSoc, othersSoc }: Odd): number {
  return (others * othersSoc + count * capacity * startSoc) / (others + count * capacity);
}

/** How a current is shared at an instant. */
export interface Shares {
  /** state of charge of an odd cell and of one of the others */
  oddSoc: number;
  othersSoc: number;
  /** [A] out of each */
  odd: number;
  others: number;
}

/**
 * Cells side by side that differ, each its OCV behind its own resistance at one volts for all: seen from outside they are
 * one cell, inside a current flows between them. Where they stand is the charge of all together and by how much the odd
 * ones are fuller than the others. Branches follow the current of all; what flows between passes their resistance too.
 */
export class Sharing {
  /** what `look` found: [W] that flows between them, over their number */
  between = 0;
  /** [V] by which the OCV of what drains away by itself, all by the same share of their charge, is above that found */
  leak = 0;
  private readonly one: Float64Array;
  private readonly two: Float64Array;
  private readonly n: number;
  private readonly branchFactor: number;
  /** shares of the charge of a full group */
  private readonly weightOdd: number;
  private readonly weightOthers: number;
  // Of the instant looked at last: [V] by which the others stand above the odd, share of the current they give, loop [Ω].
  private apart = 0;
  private givenByOthers = 1;
  private loop = 1;

  /** @param charge [C] of one usual cell */
  constructor(
    private readonly cell: CellTable,
    readonly odd: Odd,
    private readonly charge: number,
  ) {
    this.one = cell.room();
    this.two = cell.room();
    const { count, others, capacity } = odd;
    this.n = count + others;
    this.branchFactor = meanOf(odd).resistance;
    this.weightOdd = (count * capacity) / (others + count * capacity);
    this.weightOthers = 1 - this.weightOdd;
  }

  /** By how much the odd ones are fuller when the run starts. */
  get start(): number {
    return this.odd.startSoc - this.odd.othersSoc;
  }

  /** The curves of one cell that stands for all, see `CellTable.look`. @param fuller the odd ones than the others */
  look(soc: number, fuller: number, into: Float64Array, warm = 1): void {
    const { cell, one, two, odd } = this;
    cell.look(soc - this.weightOdd * fuller, one);
    cell.look(soc + this.weightOthers * fuller, two);
    const r1 = Math.max(LEAST_OHMS, one[LOOK.r0]!);
    const r2 = Math.max(LEAST_OHMS, odd.resistance * two[LOOK.r0]!);
    const g1 = odd.others / r1;
    const g2 = odd.count / r2;
    const share = g1 / (g1 + g2);
    into[LOOK.ocv] = share * one[LOOK.ocv]! + (1 - share) * two[LOOK.ocv]!;
    into[LOOK.r0] = this.n / (g1 + g2);
    into[LOOK.slope] = share * one[LOOK.slope]! + (1 - share) * two[LOOK.slope]!;
    let all1 = r1;
    let all2 = r2;
    const { branches } = cell;
    for (let b = 0; b < branches; b++) {
      const at = LOOK.branches + b;
      all1 += one[at]!;
      all2 += odd.resistance * two[at]!;
      into[at] = this.branchFactor * one[at]!;
      into[at + branches] = one[at + branches]!;
    }
    this.leak = this.weightOthers * one[LOOK.ocv]! + this.weightOdd * two[LOOK.ocv]! - into[LOOK.ocv]!;
    this.apart = one[LOOK.ocv]! - two[LOOK.ocv]!;
    this.givenByOthers = share;
    this.loop = warm * (all1 / odd.others + all2 / odd.count);
    this.between = this.apart ** 2 / this.loop / this.n;
  }

  /** [1/s] at which they come level, as the instant looked at last stands. @param holds factor on the charge as warm as they are */
  rate(slope: number, holds: number): number {
    return Math.max(LEAST_RATE, (slope * this.perCharge(holds)) / this.loop);
  }

  /** [1/s] change of how much fuller the odd ones are, at the instant looked at last. @param amps [A] mean of a cell */
  change(amps: number, holds: number): number {
    const { odd, charge, n, givenByOthers: share } = this;
    const all = n * amps;
    const uneven = share / (odd.others * charge) - (1 - share) / (odd.count * odd.capacity * charge);
    return (all * uneven) / holds + (this.apart / this.loop) * this.perCharge(holds);
  }

  /** Change over h seconds of how much fuller the odd ones are, the current and the rate as at the instant looked at last. */
  comes(slope: number, amps: number, holds: number, h: number): number {
    const tau = 1 / this.rate(slope, holds);
    return tau * this.change(amps, holds) * (1 - Math.exp(-h / tau));
  }

  private perCharge(holds: number): number {
    const { odd, charge } = this;
    return (1 / odd.others + 1 / (odd.count * odd.capacity)) / (charge * holds);
  }

  /** [V] integral of the OCV over the charge held, of the mean cell. */
  area(soc: number, fuller: number): number {
    const { cell, weightOdd, weightOthers } = this;
    const others = cell.area(soc - weightOdd * fuller);
    return weightOthers * others + weightOdd * cell.area(soc + weightOthers * fuller);
  }

  /** [V] what they hold above a voltage at rest, as a part of `area`. */
  above(soc: number, fuller: number, volts: number): number {
    const { cell, weightOdd, weightOthers } = this;
    const end = cell.area(cell.socAt(volts));
    const others = Math.max(0, cell.area(soc - weightOdd * fuller) - end);
    return weightOthers * others + weightOdd * Math.max(0, cell.area(soc + weightOthers * fuller) - end);
  }

  /** Who gives what at an instant. @param amps [A] mean of a cell */
  at(soc: number, fuller: number, amps: number, warm = 1): Shares {
    const { odd, weightOdd, weightOthers } = this;
    this.look(soc, fuller, this.scratch, warm);
    const circling = this.apart / this.loop;
    const all = this.n * amps;
    return {
      oddSoc: soc + weightOthers * fuller,
      othersSoc: soc - weightOdd * fuller,
      odd: ((1 - this.givenByOthers) * all - circling) / odd.count,
      others: (this.givenByOthers * all + circling) / odd.others,
    };
  }

  private get scratch(): Float64Array {
    return (this.room ??= this.cell.room());
  }
  private room: Float64Array | undefined;
}

import { halve } from '../../numeric/halve.ts';
import { timeTo } from '../look/straight.ts';
import type { Cycle } from './cycle.ts';
import { copy, SIDE, SIDES, type Level, type Side, type Sides } from './sides.ts';

/** States of charge that are looked at, as shares of what it begins with: closer where the volts fall. */
const LEVELS = [
  ...[1, 0.99, 0.97, 0.93, 0.88, 0.82, 0.75, 0.67, 0.59, 0.51, 0.43, 0.36, 0.29, 0.23, 0.18, 0.14, 0.105],
  ...[0.075, 0.05, 0.033, 0.02, 0.01, 0.004, 0],
];
/** Halvings by which the charge is closed in on at which something gives up. */
const HALVINGS = 6;
/** Halvings by which levels are brought nearer to a change between them. */
const CLOSER = 4;

/** In the place of draws: a cycle of all of them. */
export const CYCLE = -1;

/** Where draws give up, and how fast the charge falls just above. */
interface Limit {
  /** state of charge, and [1/s] there */
  soc: number;
  rate: number;
}

/** A stretch of charge over which the rate is straight. */
export interface Span {
  /** where it begins and ends, and [1/s] how fast the charge falls there; NaN where they have given up */
  top: number;
  high: number;
  end: number;
  low: number;
  /** whether they give up at its end */
  gives: boolean;
}

/** The cells over their charge, looked at where it is asked for, from full downwards. */
export class Levels {
  private readonly kept: Level[] = [];
  /** the next of LEVELS to be looked at */
  private next = 0;
  private readonly limits = new Map<number, Limit>();
  private readonly tried: Level;

  /** @param start state of charge the cells begin with */
  constructor(
    private readonly sides: Sides,
    private readonly cycle: Cycle,
    private readonly start: number,
  ) {
    this.tried = sides.level(0);
  }

  /** How many there are, as far as is known: more are looked at where something changes between two. */
  get count(): number {
    return this.kept.length + LEVELS.length - this.next;
  }

  /** One of them, the highest first. */
  at(which: number): Level {
    const { kept } = this;
    while (kept.length <= which) {
      const before = kept[kept.length - 1];
      const found = this.lookAt(LEVELS[this.next]!, before);
      if (before && Number.isNaN(meanOf(found, SIDE.mean, this.cycle))) this.nearTheEnd(before, found);
      else if (before && found.changed) this.closeIn(before, found);
      this.keep(found, kept[kept.length - 1]);
      this.next++;
    }
    return kept[which]!;
  }

  /** Levels on both sides of a change, nearer to each other. */
  private closeIn(above: Level, below: Level): void {
    let [high, low] = [above, below];
    const { start } = this;
    for (let n = 0; n < CLOSER; n++) {
      const middle = this.lookAt((high.soc + low.soc) / 2 / start, above);
      if (middle.changed) low = middle;
      else high = middle;
    }
    if (high !== above) this.keep(high, above);
    if (low !== below) this.keep(low, high);
    below.changed = low === below || differs(low, below);
  }

  /** Levels between one and the one below, at which something has given up: the nearer to where it does, the closer. */
  private nearTheEnd(above: Level, below: Level): void {
    const { start } = this;
    let [high, low] = [above, below.soc];
    if (Number.isNaN(high.rate[SIDE.mean]!)) return;
    for (let n = 0; n < CLOSER; n++) {
      const middle = this.lookAt((high.soc + low) / 2 / start, high);
      if (Number.isNaN(meanOf(middle, SIDE.mean, this.cycle))) low = middle.soc;
      else {
        this.keep(middle, high);
        high = middle;
      }
    }
  }

  private lookAt(share: number, before: Level | undefined): Level {
    const found = this.sides.level(share * this.start);
    this.sides.look(found, before);
    found.changed = before !== undefined && differs(before, found);
    return found;
  }

  private keep(found: Level, before: Level | undefined): void {
    for (const side of SIDES) found.rate[side] = meanOf(found, side, this.cycle);
    if (before) {
      const took = timeTo(before.rate[SIDE.mean]!, found.rate[SIDE.mean]!, before.soc - found.soc);
      // From where it gives up the time before stands.
      found.time = before.time + (took < Infinity ? took : 0);
    }
    this.kept.push(found);
  }

  /** From a level down to the one below, or to the limit there. @param k draws; CYCLE: the mean of all */
  span(side: Side, k: number, which: number): Span {
    const at = side * this.cycle.draws.length + k;
    const rateOf = ({ rate, rates }: Level) => (k === CYCLE ? rate[side]! : rates[at]!);
    const [above, below] = [this.at(which), this.at(which + 1)];
    const limit = k === CYCLE ? this.firstLimit(side, which) : this.limit(side, k, which);
    const end = limit ?? { soc: below.soc, rate: rateOf(below) };
    let [high, low] = [rateOf(above), end.rate];
    if (side !== SIDE.mean && below.changed) {
      high = low = side === SIDE.early ? Math.max(high, low) : Math.min(high, low);
    }
    return { top: above.soc, high, end: end.soc, low, gives: limit !== undefined };
  }

  /** Where draws give up between a level and the one below, where they do there. */
  private limit(side: Side, k: number, which: number): Limit | undefined {
    const at = side * this.cycle.draws.length + k;
    const above = this.at(which);
    if (Number.isNaN(above.rates[at]!)) return { soc: above.soc, rate: NaN };
    const below = this.at(which + 1);
    if (!Number.isNaN(below.rates[at]!)) return undefined;
    let found = this.limits.get(at);
    if (!found) this.limits.set(at, (found = this.close(side, k, above, below.soc)));
    return found;
  }

  /** Where the first of what comes again gives up between a level and the one below, and the mean rate over a cycle there. */
  private firstLimit(side: Side, which: number): Limit | undefined {
    const { again, shares, draws } = this.cycle;
    const [above, below] = [this.at(which), this.at(which + 1)];
    if (Number.isNaN(above.rate[side]!)) return { soc: above.soc, rate: NaN };
    if (!Number.isNaN(below.rate[side]!)) return undefined;
    let soc = below.soc;
    for (let k = 0; k < again; k++) soc = Math.max(soc, this.limit(side, k, which)?.soc ?? soc);
    let rate = 0;
    for (let k = 0; k < again; k++) {
      const high = above.rates[side * draws.length + k]!;
      const end = this.limit(side, k, which) ?? {
        soc: below.soc,
        rate: below.rates[side * draws.length + k]!,
      };
      const share = above.soc > end.soc ? (above.soc - soc) / (above.soc - end.soc) : 0;
      rate += shares[k]! * (high + share * (end.rate - high));
    }
    return { soc, rate };
  }

  private close(side: Side, k: number, above: Level, lowest: number): Limit {
    const { tried } = this;
    const { length } = this.cycle.draws;
    let rate = above.rates[side * length + k]!;
    const goesOn = (soc: number) => {
      copy(above, tried);
      tried.soc = soc;
      const found = this.sides.tryAt(tried, above, side, k);
      if (!Number.isNaN(found)) rate = found;
      return !Number.isNaN(found);
    };
    const [low, high] = halve(lowest, above.soc, goesOn, HALVINGS);
    return { soc: side === SIDE.early ? high : low, rate };
  }
}

/** [1/s] mean over a cycle. */
function meanOf({ rates }: Level, side: Side, { shares, again, draws }: Cycle): number {
  let sum = 0;
  for (let k = 0; k < again; k++) sum += shares[k]! * rates[side * draws.length + k]!;
  return sum;
}

/** Whether with some draws the path is otherwise; where they give up it is told by the rate. */
function differs(a: Level, b: Level): boolean {
  for (let k = 0; k < a.event.length; k++) {
    if (a.event[k] !== b.event[k] && !Number.isNaN(b.rates[k]!)) return true;
  }
  return false;
}

import { LOOK } from '../../plant/cellTable.ts';
import { timeTo } from '../look/straight.ts';
import { PACK_EVENT } from '../march/events.ts';
import { drainRate, lookAt, slowOf } from '../step/state.ts';
import type { Asker } from './asker.ts';
import { Wave, type Cycle } from './cycle.ts';

/** States of charge that are looked at, as shares of what it begins with: closer where the volts fall. */
const LEVELS = [
  ...[1, 0.99, 0.97, 0.93, 0.88, 0.82, 0.75, 0.67, 0.59, 0.51, 0.43, 0.36, 0.29, 0.23, 0.18, 0.14, 0.105],
  ...[0.075, 0.05, 0.033, 0.02, 0.01, 0.004, 0],
];
/** Halvings by which the charge is closed in on at which something gives up. */
const HALVINGS = 6;
/** Halvings by which levels are brought nearer to a change between them. */
const CLOSER = 4;
/** [V] by which a branch may be off what flows brings it to. */
const SETTLED = 2e-4;

/**
 * Which way what is not known is taken: branches and warmth as bad for the run as they can be in a stretch, as they are on the mean, or as good.
 */
export const SIDE = { mean: 0, early: 1, late: 2 } as const;
export type Side = (typeof SIDE)[keyof typeof SIDE];
const SIDES = [SIDE.mean, SIDE.early, SIDE.late] as const;

/** All draws at one state of charge, from each side. */
export interface Level {
  soc: number;
  /** [1/s] by sides, then draws: of the charge; NaN from where they have given up */
  rates: Float64Array;
  /** [V] the same: where the path begins */
  volts: Float64Array;
  /** by draws: [A] of one cell on the mean, [K] they would come to stand above the air */
  amps: Float64Array;
  rise: Float64Array;
  /** [V] by branches: where each would stand as a cycle begins had it always been so, and what is missing from that, on the mean and at the most */
  stands: Float64Array;
  missing: Float64Array;
  most: Float64Array;
  /** by draws: the event of the path, on the mean */
  event: Float64Array;
  /** whether something is otherwise than at the one above: the rate may have jumped between them */
  changed: boolean;
  /** by sides: [1/s] mean over a cycle, NaN once something that comes again and again has given up; [s] when it is there */
  rate: Float64Array;
  time: Float64Array;
}

/** Where draws give up, and how fast the charge falls just above. */
export interface Limit {
  soc: number;
  rate: number;
}

/** The cells over their charge, looked at where it is asked for, from full downwards. */
export class Levels {
  /** state of charge at which something has given way without ending the run; −1: nothing has */
  less = -1;
  private readonly kept: Level[] = [];
  /** the next of LEVELS to be looked at */
  private next = 0;
  private readonly limits = new Map<number, Limit>();
  private readonly tried: Level;
  private readonly waves: Wave[];
  private readonly warm: Wave;
  /** [V] of each branch on the mean when it was found last, by branches, then draws */
  private readonly settled: Float64Array;
  /** by sides, then draws, what an instant without anything to note is told by: events of path and pack */
  private readonly usual: Float64Array;
  /** [V] as the mean was asked with them, the same way */
  private readonly meanBranch: Float64Array;
  private readonly slow: Float64Array;
  private readonly looked: Float64Array;
  /** whether what is likely ends where the early side gives up */
  private readonly endsEarly: boolean;
  /** [K] of the air below and above its mean */
  private readonly air: { least: number; most: number };
  private readonly drive: Float64Array;

  constructor(
    private readonly asker: Asker,
    private readonly cycle: Cycle,
  ) {
    const { pack } = asker.plant;
    const n = cycle.draws.length;
    this.slow = new Float64Array(slowOf(pack));
    this.looked = pack.cell.room();
    this.waves = Array.from({ length: pack.cell.branches }, () => new Wave(cycle));
    this.warm = new Wave(cycle);
    this.endsEarly = pack.warmth === undefined;
    this.settled = new Float64Array(n * pack.cell.branches);
    this.meanBranch = new Float64Array(n * pack.cell.branches);
    this.usual = new Float64Array(2 * SIDES.length * n).fill(NaN);
    this.drive = new Float64Array(n);
    this.tried = levelOf(n, pack.cell.branches, 0);
    const daily = pack.warmth?.daily;
    const air = daily ? HOURS.map((h) => daily.at(h * 3600)) : [0];
    this.air = { least: Math.min(...air), most: Math.max(...air) };
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
    const start = this.asker.plant.conditions.startSoc;
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
    const start = this.asker.plant.conditions.startSoc;
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
    const { cycle, asker } = this;
    const { conditions, pack } = asker.plant;
    const found = levelOf(cycle.draws.length, pack.cell.branches, share * conditions.startSoc);
    this.look(found, before);
    found.changed = before !== undefined && differs(before, found);
    return found;
  }

  private keep(found: Level, before: Level | undefined): void {
    for (const side of SIDES) {
      found.rate[side] = meanOf(found, side, this.cycle);
      if (!before) continue;
      const took = timeTo(before.rate[side]!, found.rate[side]!, before.soc - found.soc);
      // From where it gives up the time before stands.
      found.time[side] = before.time[side]! + (took < Infinity ? took : 0);
    }
    this.kept.push(found);
  }

  /** Between a level and the one below, or the limit there: how fast the charge falls at both ends, as a side has it. */
  between(side: Side, high: number, low: number, which: number): [number, number] {
    if (side === SIDE.mean || !this.at(which + 1).changed) return [high, low];
    const rate = side === SIDE.early ? Math.max(high, low) : Math.min(high, low);
    return [rate, rate];
  }

  /** Where draws give up between a level and the one below, where they do there. */
  limit(side: Side, k: number, which: number): Limit | undefined {
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
  firstLimit(side: Side, which: number): Limit | undefined {
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
    const asked = this.endsEarly && side === SIDE.mean ? SIDE.early : side;
    const at = side * length + k;
    let [low, high, rate] = [lowest, above.soc, above.rates[at]!];
    for (let n = 0; n < HALVINGS; n++) {
      copy(above, tried);
      tried.soc = (low + high) / 2;
      this.follow(tried, above);
      this.ask(asked, k, tried, false);
      if (Number.isNaN(tried.rates[asked * length + k]!)) low = tried.soc;
      else [high, rate] = [tried.soc, tried.rates[asked * length + k]!];
    }
    return { soc: side === SIDE.early ? high : low, rate };
  }

  private look(found: Level, before: Level | undefined): void {
    const { length } = this.cycle.draws;
    if (before) copy(before, found);
    // What flows decides the branches, and they what flows: at the first level from nothing.
    for (let pass = before ? 1 : 0; pass < 3; pass++) {
      if (this.follow(found, before) < SETTLED && pass > 1) break;
      for (let k = 0; k < length; k++) this.ask(SIDE.mean, k, found, true);
    }
    for (let k = 0; k < length; k++) {
      this.ask(SIDE.early, k, found, true);
      this.ask(SIDE.late, k, found, true);
      // It gives up at the worst instant of a stretch; where the cells may warm themselves the early side is colder than they are.
      if (this.endsEarly && Number.isNaN(found.rates[SIDE.early * length + k]!)) found.rates[k] = NaN;
    }
  }

  /** Branches and warmth, of what flows on the mean. @returns [V] by which a branch has moved at the most */
  private follow(found: Level, before: Level | undefined): number {
    const { asker, slow, looked, waves, warm, drive, settled, cycle } = this;
    const { pack } = asker.plant;
    const { branches } = pack.cell;
    if (pack.warmth) {
      warm.follow(found.rise, pack.warmth.tau);
      slow[branches] = this.kelvin(SIDE.mean, before);
    }
    lookAt(pack, found.soc, slow, looked);
    const { length } = cycle.draws;
    let moved = 0;
    for (let b = 0; b < branches; b++) {
      const ohms = looked[LOOK.branches + b]!;
      for (let k = 0; k < length; k++) drive[k] = ohms * found.amps[k]!;
      const { mean, start, tau } = waves[b]!.follow(drive, ohms * looked[LOOK.branches + branches + b]!);
      this.lag(b, start, tau, found, before);
      for (let k = 0; k < length; k++) {
        moved = Math.max(moved, Math.abs(mean[k]! - settled[b * length + k]!));
        settled[b * length + k] = mean[k]!;
      }
    }
    return moved;
  }

  /**
   * How far a branch is behind what it would stand at had it always been so: it began at rest, and goes on from the level above
   * towards what moves on in a straight line meanwhile. Elementary.
   */
  private lag(b: number, start: number, tau: number, found: Level, before: Level | undefined): void {
    found.stands[b] = start;
    if (!before) {
      found.missing[b] = found.most[b] = start;
      return;
    }
    const moved = start - before.stands[b]!;
    const after = (missing: number, side: Side) => {
      const seconds = (before.soc - found.soc) / before.rate[side]!;
      const x = seconds / tau;
      // Nothing is known of a rate that has given up, and nothing asked.
      if (!(x > 0 && x < Infinity)) return 0;
      const left = Math.exp(-x);
      return missing * left + (moved * (1 - left)) / x;
    };
    found.missing[b] = after(before.missing[b]!, SIDE.mean);
    found.most[b] = Math.max(0, after(before.most[b]!, SIDE.early));
  }

  /** [K] of the cells above the air, as one side has it. */
  private kelvin(side: Side, before: Level | undefined): number {
    const { warm, air, cycle } = this;
    const { tau, start } = this.asker.plant.pack.warmth!;
    if (side === SIDE.early) return Math.min(start, warm.least(cycle.again) + air.least);
    if (side === SIDE.late) return Math.max(start, warm.highest(cycle.again) + air.most);
    const drive = warm.whole();
    return drive + (start - drive) * Math.exp(-(before?.time[SIDE.mean] ?? 0) / tau);
  }

  private ask(side: Side, k: number, found: Level, keep: boolean): void {
    const { asker, slow, looked, waves, cycle } = this;
    const { plant, state, instant, loads } = asker;
    const { pack, path } = plant;
    const { branches } = pack.cell;
    const at = side * cycle.draws.length + k;
    if (Number.isNaN(found.rates[at]!)) return;
    const { length } = cycle.draws;
    let same = side !== SIDE.mean && !pack.warmth;
    for (let b = 0; b < branches; b++) {
      const { missing, most } = found;
      const behind =
        side === SIDE.mean ? missing[b]! : side === SIDE.late ? most[b]! : Math.min(0, missing[b]!);
      slow[b] = Math.max(0, waves[b]!.of(side)[k]! - behind);
      same &&= Math.abs(slow[b]! - this.meanBranch[b * length + k]!) < SETTLED / 20;
      if (side === SIDE.mean) this.meanBranch[b * length + k] = slow[b]!;
    }
    // Nothing lies between the sides.
    if (same && keep) {
      found.rates[at] = found.rates[k]!;
      found.volts[at] = found.volts[k]!;
      return;
    }
    if (pack.warmth) {
      slow[branches] = this.kelvin(side, found);
      lookAt(pack, found.soc, slow, looked);
    }
    state.soc = found.soc;
    state.put(slow);
    loads.begin(cycle.draws[k]!, true);
    const { status } = instant.solve(state, found.volts[at]!);
    if (status === 'none' || path.network.spent ? this.loses() : this.gives(side, k, keep)) {
      found.rates[at] = NaN;
      return;
    }
    found.volts[at] = state.volts;
    found.rates[at] = drainRate(pack, state.charge, state.amps, found.soc);
    if (side !== SIDE.mean) return;
    found.amps[k] = state.amps;
    found.event[k] = path.event;
    if (asker.heat) {
      const of = { amps: state.amps, volts: state.volts, looked, branches: slow };
      found.rise[k] = asker.heat.drive(of, path.delivered(state.volts));
    }
  }

  /** The pack does not meet what is drawn: the run ends, or what gives way has. */
  private loses(): true {
    const { asker } = this;
    if (asker.settle(true) === 'less') this.less = Math.max(this.less, asker.state.soc);
    asker.putBack();
    return true;
  }

  /** Whether the run ends at the instant solved last, with these draws. */
  private gives(side: Side, k: number, keep: boolean): boolean {
    const { asker, cycle, usual } = this;
    const { state, plant } = asker;
    const { volts, amps } = state;
    const { path, pack } = asker.events.take(volts, amps, state.soc);
    const at = 2 * (side * cycle.draws.length + k);
    if (path === usual[at] && pack === usual[at + 1]) return false;
    for (const of of GUARDS) {
      // A board that waits longer than the stretch lasts may stay closed.
      const opens = side === SIDE.early || cycle.longest[k]! > plant.pack.delays[of];
      if (pack & PACK_EVENT[of] && opens) return true;
    }
    const settled = asker.settle(false);
    if (settled === 'same') {
      if (keep) usual.set([path, pack], at);
      return false;
    }
    asker.putBack();
    if (settled === 'ends') return true;
    this.less = Math.max(this.less, state.soc);
    // The rate is that of everything on: whoever asks is told that something has given way.
    asker.loads.begin(cycle.draws[k]!, true);
    plant.path.evaluate(volts);
    state.volts = volts;
    state.amps = amps;
    return false;
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

const GUARDS = ['cutoff', 'trip', 'short'] as const;
const HOURS = Array.from({ length: 24 }, (_, h) => h);

function levelOf(draws: number, branches: number, soc: number): Level {
  const all = SIDES.length * draws;
  return {
    soc,
    rates: new Float64Array(all),
    volts: new Float64Array(all).fill(NaN),
    amps: new Float64Array(draws),
    rise: new Float64Array(draws),
    stands: new Float64Array(branches),
    missing: new Float64Array(branches),
    most: new Float64Array(branches),
    event: new Float64Array(draws),
    changed: false,
    rate: new Float64Array(SIDES.length),
    time: new Float64Array(SIDES.length),
  };
}

/** What is known of one level is where the next one is looked for. */
function copy(from: Level, to: Level): void {
  to.rates.set(from.rates);
  to.volts.set(from.volts);
  to.amps.set(from.amps);
  to.rise.set(from.rise);
  to.time.set(from.time);
}

import { LOOK } from '../../plant/cellTable.ts';
import { GUARDED, GUARDS } from '../keepers/guard.ts';
import { drainRate, lookAt, slowOf } from '../step/state.ts';
import type { Asker } from './asker.ts';
import { Wave, type Cycle } from './cycle.ts';

/** [V] by which a branch may be off what flows brings it to. */
const SETTLED = 2e-4;

/**
 * Which way what is not known is taken: branches and warmth as bad for the run as they can be in a stretch, as they are on the mean, or as good.
 */
export const SIDE = { mean: 0, early: 1, late: 2 } as const;
export type Side = (typeof SIDE)[keyof typeof SIDE];
export const SIDES = [SIDE.mean, SIDE.early, SIDE.late] as const;

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
  /** [V] by branches: where each would stand as a cycle begins had it always been so, [s] in how long it follows, and [V] what is missing from that, on the mean and at the most */
  stands: Float64Array;
  taus: Float64Array;
  missing: Float64Array;
  most: Float64Array;
  /** by draws: the event of the path, on the mean */
  event: Float64Array;
  /** whether something is otherwise than at the one above: the rate may have jumped between them */
  changed: boolean;
  /** by sides: [1/s] mean over a cycle, NaN once something that comes again and again has given up */
  rate: Float64Array;
  /** [s] when it is there, on the mean */
  time: number;
}

/** Looks at the cells at one state of charge, with all draws, from each side; the level above says what flowed on the way. */
export class Sides {
  /** state of charge at which something has given way without ending the run; −1: nothing has */
  less = -1;
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
    this.settled = new Float64Array(n * pack.cell.branches);
    this.meanBranch = new Float64Array(n * pack.cell.branches);
    this.usual = new Float64Array(2 * SIDES.length * n).fill(NaN);
    this.drive = new Float64Array(n);
    const daily = pack.warmth?.daily;
    const air = daily ? HOURS.map((h) => daily.at(h * 3600)) : [0];
    this.air = { least: Math.min(...air), most: Math.max(...air) };
  }

  /** Room for a level. */
  level(soc: number): Level {
    return levelOf(this.cycle.draws.length, this.asker.plant.pack.cell.branches, soc);
  }

  /** [1/s] of one side and its draws at a level below another; NaN where they give up. */
  tryAt(found: Level, above: Level, side: Side, k: number): number {
    this.follow(found, above);
    this.ask(side, k, found, false);
    if (side === SIDE.mean) this.worst(k, found);
    return found.rates[side * this.cycle.draws.length + k]!;
  }

  /** Every side of a level. @param before the one above */
  look(found: Level, before: Level | undefined): void {
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
      // Where the worst that could be gives up, the worst instant of what is likely is asked too.
      if (Number.isNaN(found.rates[SIDE.early * length + k]!)) this.worst(k, found);
    }
  }

  /** Whether draws give up at the worst instant of their stretches though not on their mean: their rate is then none. */
  private worst(k: number, found: Level): void {
    const rate = found.rates[k]!;
    if (Number.isNaN(rate)) return;
    const [volts, amps, rise, event] = [found.volts[k]!, found.amps[k]!, found.rise[k]!, found.event[k]!];
    this.ask(SIDE.mean, k, found, false, SIDE.early);
    if (!Number.isNaN(found.rates[k]!)) found.rates[k] = rate;
    [found.volts[k], found.amps[k], found.rise[k], found.event[k]] = [volts, amps, rise, event];
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
    found.taus[b] = tau;
    if (!before) {
      found.missing[b] = found.most[b] = start;
      return;
    }
    const moved = start - before.stands[b]!;
    const after = (missing: number, side: Side) => {
      const seconds = (before.soc - found.soc) / before.rate[side]!;
      const x = (seconds * (1 / tau + 1 / before.taus[b]!)) / 2;
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
    return drive + (start - drive) * Math.exp(-(before?.time ?? 0) / tau);
  }

  /** @param within which instant of their stretches is meant */
  private ask(side: Side, k: number, found: Level, keep: boolean, within: Side = side): void {
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
      slow[b] = Math.max(0, waves[b]!.of(within)[k]! - behind);
      same &&= Math.abs(slow[b]! - this.meanBranch[b * length + k]!) < SETTLED / 20;
      if (within === SIDE.mean) this.meanBranch[b * length + k] = slow[b]!;
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
    if (status === 'none' || path.network.effort.spent ? this.loses() : this.gives(side, k, keep)) {
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
    for (const of of GUARDED) {
      // A board that waits longer than the stretch lasts may stay closed.
      const opens = side === SIDE.early || cycle.longest[k]! > plant.pack.delays[of];
      if (asker.events.has(GUARDS[of]) && opens) return true;
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
    taus: new Float64Array(branches),
    missing: new Float64Array(branches),
    most: new Float64Array(branches),
    event: new Float64Array(draws),
    changed: false,
    rate: new Float64Array(SIDES.length),
    time: 0,
  };
}

/** What is known of one level is where the next one is looked for. */
export function copy(from: Level, to: Level): void {
  to.rates.set(from.rates);
  to.volts.set(from.volts);
  to.amps.set(from.amps);
  to.rise.set(from.rise);
  to.time = from.time;
}

import type { Plant } from '../../plant/compile.ts';
import { CycleProbe, STANDS, type SettledCycle } from './cycleProbe.ts';
import type { EnvelopeSum } from '../account/envelope.ts';
import { C1, C2, Cubic } from '../step/gauss.ts';
import type { Ground } from '../keepers/ground.ts';
import type { Keeper } from '../keepers/keeper.ts';
import type { LedgerSum } from '../account/ledger.ts';
import type { Skips } from '../timeline/programme.ts';
import type { Schedule } from '../timeline/schedule.ts';
import { heldCharge, type CellState } from '../step/state.ts';
import { Way } from './way.ts';

/** Fewest cycles worth skipping; fewer are taken one by one. */
export const FEW_CYCLES = 12;
/** Largest share of the charge skipped at once, and the least that is worth making shorter. */
const MOST_SOC = 1 / 16;
const LEAST_SOC = 1 / 4096;
/** Error of the OCV's integral over a skip that is let pass, relative to that of the whole charge. */
const AREA = 3e-9;
/** Relative change of what a cycle takes over a skip above which that is halved. */
const BENT = 0.03;
/** Relative difference of the charge taken from that foreseen, from which cycles are asked anew. */
const CENTRED = 1e-4;
/** The same while the pack fills: its current falls off by a time of its own. Gauss at two places is then off by some 3e-8. */
const BENT_FILLING = 0.1;
/** Share of the charge that cycles move together by which it nearly stands still. */
const STANDING = 1e-6;
/** Share of the charge by which what the cells hold may change over a skip. */
const WARMED = 2e-3;
/** [V] from which a branch counts as not settled, and the share of its time then skipped at once. */
const UNSETTLED = 1e-4;
const OF_BRANCH = 0.5;

/**
 * Skips many cycles at once: what a settled cycle takes is asked at two charges between, and booked as often as cycles
 * pass there. By Gauss over the charge, so that the account closes as a step's does; branches follow what is settled by
 * their own time.
 */
export class CycleSkip implements Skips {
  /** the settled cycle where the last skip ended, and how far the branches then stayed behind */
  private last: { cycle: SettledCycle; lag: Float64Array } | undefined;
  readonly probe: CycleProbe;
  private readonly plant: Plant;
  private readonly state: CellState;
  private readonly ledger: LedgerSum;

  constructor(
    ground: Ground,
    private readonly schedule: Schedule,
    /** of the run: quiet ones alone let cycles be skipped */
    private readonly keepers: readonly Keeper[],
    private readonly envelope?: EnvelopeSum,
  ) {
    this.plant = ground.plant;
    this.state = ground.state;
    this.ledger = ground.ledger;
    this.probe = new CycleProbe(ground, schedule, keepers);
  }

  /** Share of the charge that counts as none taken in a cycle: on mains a pack may stand, a run-down never does. */
  private get slack(): number {
    return this.plant.charger ? STANDS : 0;
  }

  get resets(): Float64Array {
    return this.probe.loads.resets;
  }

  /** Whether cycles that take such a share of the charge, or give it, are ever skipped. */
  mayBe(took: number): boolean {
    return FEW_CYCLES * Math.abs(took) < MOST_SOC;
  }

  /**
   * Skip as many whole cycles as the same happens in all of them.
   * @param until [s] not passed
   * @returns cycles skipped; 0 where they are to be taken one by one
   */
  skip(until: number): number {
    const { state, schedule, ledger, plant } = this;
    for (const k of this.keepers) until = Math.min(until, k.quietUntil?.() ?? Infinity);
    // Cells side by side that differ are not carried over a skip.
    if (plant.pack.sharing || !(until >= state.time + FEW_CYCLES * schedule.period)) return 0;
    const slow = state.slow.slice();
    ledger.warm(heldCharge(plant.pack, slow));
    const { soc, time, volts, amps } = state;
    const way = this.find(soc, slow, Math.floor((until - time) / schedule.period));
    const end = way && this.pass(soc, way);
    if (!end) {
      // As if nothing had been tried.
      Object.assign(state, { soc, volts, amps });
      state.put(slow);
      this.last = undefined;
      return 0;
    }
    state.put(slow);
    if (plant.pack.warmth) this.warm(slow, end);
    state.soc = end.soc;
    state.put(end.slow);
    state.time = time + way.count * schedule.period;
    this.last = { cycle: { ...way.ahead, soc: end.soc }, lag: way.lag };
    for (const k of this.keepers) k.skipped?.(way.count * schedule.period);
    return way.count;
  }

  /** Book what the cells hold more, or less, at the end of a way as they are warmer then: ∫ A dQ by Gauss along it. */
  private warm(slow: Float64Array, { slow: last, on: [one, two] }: Passed): void {
    const { state, ledger } = this;
    const { pack } = this.plant;
    const charge = (s: Float64Array) => heldCharge(pack, s);
    const course = new Cubic().through(charge(slow), charge(one.slow), charge(two.slow), charge(last));
    state.soc = one.soc;
    ledger.warm(state.charge + course.slope(C1) / 2);
    state.soc = two.soc;
    ledger.warm(state.charge + course.slope(C2) / 2);
  }

  /** The longest way from here on that can be skipped. */
  private find(soc: number, slow: Float64Array, most: number): Way | undefined {
    const { probe } = this;
    const here = probe.settle(soc, this.last?.cycle);
    // A run-down ends where nothing is taken; on mains that may go on.
    if (!here || !(here.took > 0 || this.plant.charger)) return undefined;
    const off = slow.map((v, k) => v - here.slow[k]!);
    const begins = probe.take(soc, slow, 0) && [...probe.course];
    if (!begins) return undefined;
    const bent = here.took > 0 ? BENT : BENT_FILLING;
    let count = Math.min(this.most(here, off, most), most);
    for (; count >= FEW_CYCLES; count = Math.floor(count / 2)) {
      const ahead = this.ahead(here, count, bent);
      if (!ahead) continue;
      const way = new Way(here, ahead, off, count);
      if (this.warms(slow, way.slow(1, ahead))) continue;
      // The same happens with the branches as they will be.
      if (probe.take(ahead.soc, way.slow(1, ahead), 0) && same(begins, probe.course)) return way;
    }
    return undefined;
  }

  /** Whether what the cells hold changes too much on the way as they warm. */
  private warms(from: Float64Array, to: Float64Array): boolean {
    const { pack } = this.plant;
    return Math.abs(heldCharge(pack, to) - heldCharge(pack, from)) > WARMED * pack.charge;
  }

  /** Cycles over which the OCV is smooth enough to be taken at two places, and no more than let the branches settle. */
  private most({ soc, took, decay }: SettledCycle, off: Float64Array, most: number): number {
    const { cell } = this.plant.pack;
    // Towards empty, or towards full.
    const way = took > 0 ? 1 : -1;
    const left = took > 0 ? soc : 1 - soc;
    let span = Math.min(MOST_SOC, left - 2 * Math.abs(took));
    const error = () => {
      const mean = (cell.ocv(soc - way * C1 * span) + cell.ocv(soc - way * C2 * span)) / 2;
      return Math.abs(cell.area(soc) - cell.area(soc - way * span) - way * span * mean);
    };
    while (span > LEAST_SOC && error() > AREA * cell.area(1)) span *= 0.7;
    // Next to full it may creep on for long.
    if (took < 0) span = Math.max(span, STANDING);
    const stands = this.plant.charger !== undefined && Math.abs(took) * most < STANDING;
    let count = stands ? most : span / Math.abs(took);
    off.forEach((v, b) => {
      const stays = decay[b]!;
      const behind = v + (this.last?.lag[b] ?? 0);
      // −1/ln(stays): cycles in one time constant of the branch.
      if (Math.abs(behind) > UNSETTLED && stays > 0.5) count = Math.min(count, -OF_BRANCH / Math.log(stays));
    });
    return Math.floor(count);
  }

  /** The settled cycle after so many, if it takes nearly as much. */
  private ahead(here: SettledCycle, count: number, bent: number): SettledCycle | undefined {
    if (Math.abs(here.took) <= this.slack) return here;
    let found: SettledCycle | undefined = here;
    // What they take together is known when the last of them is.
    for (let turn = 0; turn < 2; turn++) {
      const took: number = (here.took + found.took) / 2;
      found = this.probe.settle(here.soc - count * took, found);
      if (!found) return undefined;
      const apart = Math.abs(found.took - here.took);
      if (apart > bent * Math.abs(here.took) + this.slack) return undefined;
      if (count * apart < Math.abs(found.took)) break;
    }
    return found;
  }

  /** Book the cycles of a way. @returns where it leads; undefined where one of them did not settle */
  private pass(soc: number, way: Way): Passed | undefined {
    const { probe, state } = this;
    const { count } = way;
    // The charge that so many cycles take: near enough to know where they are asked.
    let span = count * way.took(0.5);
    let on = this.nodes(soc, span, way);
    const taken = on && (on[0].took + on[1].took) / 2;
    if (taken && Math.abs(count * taken - span) > CENTRED * Math.abs(span)) {
      // They take another charge than the settled ones, as they do where cells are still to warm.
      span = count * taken;
      on = this.nodes(soc, span, way);
    }
    if (!on) return undefined;
    // As many pass at each of the two as what it takes goes into half of the charge; where none is taken, half of them.
    const parts = on.map(({ took }) =>
      Math.abs(took) > STANDS && Math.abs(span) > STANDS ? span / 2 / took : count / 2,
    );
    const passes = parts[0]! + parts[1]!;
    let end = soc;
    for (const [k, b] of on.entries()) {
      const weight = (parts[k]! * count) / passes;
      this.envelope?.begin();
      this.take(b, weight);
      const { from, took } = b;
      const seconds = this.schedule.period;
      // Its middle stands there.
      const time = state.time + (b.x * count - 0.5) * seconds;
      this.envelope?.keep({ time, soc: from, took, trace: probe.trace, seconds, weight });
      end -= weight * (b.from - state.soc);
    }
    // What stands still does not drift by rounding.
    if (Math.abs(way.took(0.5)) <= this.slack) end = soc;
    return { soc: end, slow: way.slow(1, way.ahead), on };
  }

  /** The two cycles on a way that are booked for all of them, tried: what is booked cannot be taken back. */
  private nodes(soc: number, span: number, way: Way): Passed['on'] | undefined {
    const node = (share: number): OnTheWay | undefined => {
      const x = way.after(share);
      const cycle = this.probe.settle(soc - share * span, { took: way.took(x), slow: way.settled(x) });
      if (!cycle) return undefined;
      const found = { soc: cycle.soc, from: NaN, slow: way.slow(x, cycle), x, took: cycle.took };
      // Centred on its state of charge by what it takes itself.
      for (let turn = 0; turn < 2; turn++) {
        const { took } = found;
        found.from = cycle.soc + took / 2;
        if (!this.take(found, 0)) return undefined;
        found.took = found.from - this.state.soc;
        if (Math.abs(found.took - took) <= CENTRED * Math.abs(took) + this.slack) break;
      }
      return found;
    };
    const one = node(C1);
    const two = one && node(C2);
    return two && [one, two];
  }

  private take({ from, slow }: OnTheWay, weight: number): boolean {
    return this.probe.take(from, slow, weight);
  }
}

/** A cycle on a way: around which state of charge and from which, with what slow state, after which share of the cycles. */
interface OnTheWay {
  /** state of charge, there and where the skip began; what follows slowly; the share of the way */
  soc: number;
  from: number;
  slow: Float64Array;
  x: number;
  /** share of the charge it takes */
  took: number;
}

/** Where a way has led, and where on it cycles were booked. */
interface Passed {
  soc: number;
  slow: Float64Array;
  on: readonly [OnTheWay, OnTheWay];
}

/** Whether the same happens in two cycles. */
function same(a: readonly number[], b: readonly number[]): boolean {
  return a.length === b.length && a.every((x, k) => x === b[k]);
}

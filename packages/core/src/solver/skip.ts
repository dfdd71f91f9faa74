import type { Plant } from '../plant/compile.ts';
import type { CycleProbe, SettledCycle } from './cycleProbe.ts';
import type { EnvelopeSum } from './envelope.ts';
import { C1, C2 } from './gauss.ts';
import type { Schedule } from './schedule.ts';
import type { CellState } from './state.ts';

/** Fewest cycles worth skipping; fewer are taken one by one. */
export const FEW_CYCLES = 12;
/** Largest share of the charge skipped at once, and the least that is worth making shorter. */
const MOST_SOC = 1 / 16;
const LEAST_SOC = 1 / 4096;
/** Error of the OCV's integral over a skip that is let pass, relative to that of the whole charge. */
const AREA = 3e-9;
/** Relative change of what a cycle takes over a skip above which that is halved. */
const BENT = 0.03;
/** [V] from which a branch counts as not settled, and the share of its time then skipped at once. */
const UNSETTLED = 1e-4;
const OF_BRANCH = 0.5;

/** From the settled cycle at one charge to that at another, and how far the branches are from them on the way. */
class Way {
  /** [V] by which each branch stays behind its settled volts while those move */
  readonly lag: Float64Array;

  /** @param off [V] of the branches from the settled ones at the beginning @param count cycles from here to ahead */
  constructor(
    readonly here: SettledCycle,
    readonly ahead: SettledCycle,
    private readonly off: Float64Array,
    readonly count: number,
  ) {
    this.lag = here.branches.map((v, k) => {
      const stays = (here.decay[k]! + ahead.decay[k]!) / 2;
      return (ahead.branches[k]! - v) / count / (1 - stays);
    });
  }

  /** Share of the charge a cycle takes, straight between both ends. */
  took(x: number): number {
    return this.here.took + x * (this.ahead.took - this.here.took);
  }

  settled(x: number): Float64Array {
    return this.here.branches.map((v, k) => v + x * (this.ahead.branches[k]! - v));
  }

  /**
   * Branches at a share of the way, where the settled cycle there is known. Their distance from it falls by the decay of
   * a cycle and grows by what the settled volts move in one: δ ← d·δ − b, so δ + b/(1 − d) falls geometrically. Elementary.
   */
  branches(x: number, { branches, decay }: Pick<SettledCycle, 'branches' | 'decay'>): Float64Array {
    return branches.map((v, k) => {
      const lag = this.lag[k]!;
      return v + (this.off[k]! + lag) * decay[k]! ** (x * this.count) - lag;
    });
  }
}

/**
 * Skips many cycles at once: what a settled cycle takes is asked at two charges between, and booked as often as cycles
 * pass there. By Gauss over the charge, so that the account closes as a step's does; branches follow what is settled by
 * their own time.
 */
export class CycleSkip {
  /** the settled cycle where the last skip ended, and how far the branches then stayed behind */
  private last: { cycle: SettledCycle; lag: Float64Array } | undefined;

  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
    readonly probe: CycleProbe,
    private readonly schedule: Schedule,
    private readonly envelope: EnvelopeSum,
  ) {}

  /**
   * Skip as many whole cycles as the same happens in all of them.
   * @param until [s] not passed
   * @returns cycles skipped; 0 where they are to be taken one by one
   */
  skip(until: number): number {
    const { state, schedule } = this;
    const branches = state.branches.slice();
    const { soc, time, volts, amps } = state;
    const way = this.find(soc, branches, Math.floor((until - time) / schedule.period));
    const end = way && this.pass(soc, way);
    if (!end) {
      // As if nothing had been tried.
      Object.assign(state, { soc, volts, amps });
      state.branches.set(branches);
      this.last = undefined;
      return 0;
    }
    state.soc = end.soc;
    state.branches.set(end.branches);
    state.time = time + way.count * schedule.period;
    this.last = { cycle: { ...way.ahead, soc: end.soc }, lag: way.lag };
    return way.count;
  }

  /** The longest way from here on that can be skipped. */
  private find(soc: number, branches: Float64Array, most: number): Way | undefined {
    const { probe } = this;
    const here = probe.settle(soc, this.last?.cycle);
    if (!here || !(here.took > 0)) return undefined;
    const off = branches.map((v, k) => v - here.branches[k]!);
    const begins = probe.take(soc, branches, 0) && [...probe.course];
    if (!begins) return undefined;
    let count = Math.min(this.most(here, off), most);
    for (; count >= FEW_CYCLES; count = Math.floor(count / 2)) {
      const ahead = this.ahead(here, count);
      if (!ahead) continue;
      const way = new Way(here, ahead, off, count);
      // The same happens with the branches as they will be.
      if (probe.take(ahead.soc, way.branches(1, ahead), 0) && same(begins, probe.course)) return way;
    }
    return undefined;
  }

  /** Cycles over which the OCV is smooth enough to be taken at two places, and no more than let the branches settle. */
  private most({ soc, took, decay }: SettledCycle, off: Float64Array): number {
    const { cell } = this.plant.pack;
    let span = Math.min(MOST_SOC, soc - 2 * took);
    const error = () => {
      const mean = (cell.ocv(soc - C1 * span) + cell.ocv(soc - C2 * span)) / 2;
      return Math.abs(cell.area(soc) - cell.area(soc - span) - span * mean);
    };
    while (span > LEAST_SOC && error() > AREA * cell.area(1)) span *= 0.7;
    let count = span / took;
    off.forEach((v, b) => {
      const left = decay[b]!;
      const behind = v + (this.last?.lag[b] ?? 0);
      // −1/ln(left): cycles in one time constant of the branch.
      if (Math.abs(behind) > UNSETTLED && left > 0.5) count = Math.min(count, -OF_BRANCH / Math.log(left));
    });
    return Math.floor(count);
  }

  /** The settled cycle after so many, if it takes nearly as much. */
  private ahead(here: SettledCycle, count: number): SettledCycle | undefined {
    let found: SettledCycle | undefined = here;
    // What they take together is known when the last of them is.
    for (let turn = 0; turn < 2; turn++) {
      const took: number = (here.took + found.took) / 2;
      found = this.probe.settle(here.soc - count * took, found);
      if (!found || Math.abs(found.took - here.took) > BENT * here.took) return undefined;
      if (count * Math.abs(found.took - here.took) < found.took) break;
    }
    return found;
  }

  /** Book the cycles of a way. @returns where it leads; undefined where one of them did not settle */
  private pass(soc: number, way: Way): { soc: number; branches: Float64Array } | undefined {
    const { probe, state } = this;
    const { count } = way;
    const near = (x: number) => ({ took: way.took(x), branches: way.settled(x) });
    // The charge that so many cycles take: near enough to know where they are asked.
    const span = count * way.took(0.5);
    const one = probe.settle(soc - C1 * span, near(C1));
    const two = one && probe.settle(soc - C2 * span, near(C2));
    if (!two) return undefined;
    const passes = span / 2 / one.took + span / 2 / two.took;
    const booked = [
      { cycle: one, branches: way.branches(C1, one), x: C1 },
      { cycle: two, branches: way.branches(C2, two), x: C2 },
    ];
    const take = ({ cycle, branches }: (typeof booked)[number], weight: number) =>
      probe.take(cycle.soc + cycle.took / 2, branches, weight);
    // Both are tried before either is booked: what is booked cannot be taken back.
    if (!booked.every((b) => take(b, 0))) return undefined;
    let end = soc;
    for (const b of booked) {
      const weight = ((span / 2 / b.cycle.took) * count) / passes;
      this.envelope.begin();
      take(b, weight);
      const { soc, took } = b.cycle;
      const time = state.time + b.x * count * this.schedule.period;
      this.envelope.keep({ time, soc, took, trace: probe.trace, seconds: this.schedule.period, weight });
      end -= weight * (b.cycle.soc + b.cycle.took / 2 - state.soc);
    }
    return { soc: end, branches: way.branches(1, way.ahead) };
  }
}

/** Whether the same happens in two cycles. */
function same(a: readonly number[], b: readonly number[]): boolean {
  return a.length === b.length && a.every((x, k) => x === b[k]);
}

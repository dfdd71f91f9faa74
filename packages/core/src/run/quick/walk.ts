import { Straight } from '../look/straight.ts';
import type { Cycle, Turn } from './cycle.ts';
import type { Levels } from './levels.ts';
import type { Side } from './sides.ts';

/** Cycles before the end that are walked through stretch by stretch; those before them by their mean. */
const LAST = 2;
/** Cycles walked through behind the mean ones before it is given up. */
const MOST_WALKED = 64;

/** Where a walk has come to an end. */
export interface Ended {
  /** [s] */
  time: number;
  /** index into the thread's modes, of the stretch it ended in */
  mode: number;
}

/** Goes down the charge of one side through a programme: the first cycle and the last ones by their stretches. */
export class Walk {
  private time = 0;
  private soc: number;
  /** the level it is below */
  private at = 0;
  private readonly course = new Straight();

  constructor(
    private readonly levels: Levels,
    private readonly side: Side,
    private readonly cycle: Cycle,
    private readonly horizon: number,
  ) {
    this.soc = levels.at(0).soc;
  }

  /** @returns undefined where it comes to none */
  toEnd(): Ended | undefined {
    const { cycle } = this;
    const opening = this.through(cycle.first);
    if (opening) return opening;
    const { period } = cycle;
    if (period < Infinity) this.skip();
    for (let n = 0; n < MOST_WALKED; n++) {
      const ended = this.through(cycle.turns);
      if (ended) return ended;
    }
    return undefined;
  }

  private through(turns: readonly Turn[]): Ended | undefined {
    for (const { draws, seconds, mode } of turns) {
      if (this.drain(draws, seconds)) return { time: this.time, mode };
    }
    return undefined;
  }

  /** Whole cycles by the mean of their rates, until something is about to give up. */
  private skip(): void {
    const { levels, side, course, cycle } = this;
    // [s] until the first of what comes again gives up
    let seconds = 0;
    let { soc } = this;
    for (let at = this.levelOf(soc); at + 1 < levels.count && seconds < this.horizon; at++) {
      const above = levels.at(at);
      const below = levels.at(at + 1);
      const rate = above.rate[side]!;
      if (!(rate > 0)) {
        // Nothing flows, or it gives up at once.
        if (rate <= 0) seconds = Infinity;
        break;
      }
      const limit = levels.firstLimit(side, at);
      const end = limit ?? { soc: below.soc, rate: below.rate[side]! };
      const [high, low] = levels.between(side, rate, end.rate, at);
      if (soc > end.soc) seconds += course.from(soc, end.soc, low, above.soc, high).seconds;
      if (limit) break;
      soc = below.soc;
    }
    const cycles = Math.floor(Math.min(seconds, this.horizon) / cycle.period) - LAST;
    if (cycles > 0) this.drain(-1, cycles * cycle.period);
  }

  /** The level a state of charge lies below, or at. */
  private levelOf(soc: number): number {
    while (this.at + 2 < this.levels.count && this.levels.at(this.at + 1).soc >= soc) this.at++;
    return this.at;
  }

  /** @param k draws; −1: the mean of a cycle @returns whether it has ended in that time */
  private drain(k: number, seconds: number): boolean {
    const { levels, side, course, cycle, horizon } = this;
    let left = seconds;
    for (;;) {
      const at = this.levelOf(this.soc);
      const above = levels.at(at);
      const below = levels.at(at + 1);
      const mean = k < 0;
      const which = side * cycle.draws.length + k;
      const high = mean ? above.rate[side]! : above.rates[which]!;
      if (Number.isNaN(high)) return !mean;
      const limit = mean ? levels.firstLimit(side, at) : levels.limit(side, k, at);
      if (limit && !(this.soc > limit.soc)) return true;
      const floor = limit?.soc ?? below.soc;
      const rate = limit ? limit.rate : mean ? below.rate[side]! : below.rates[which]!;
      const [r0, r1] = levels.between(side, high, rate, at);
      course.from(this.soc, floor, r1, above.soc, r0);
      // Where nothing flows it stays.
      const need = high > 0 ? course.seconds : Infinity;
      if (need > left) {
        this.time = Math.min(horizon, this.time + left);
        if (high > 0 && left < Infinity) this.soc = course.after(left).to;
        return this.time >= horizon;
      }
      this.time += need;
      left -= need;
      this.soc = floor;
      if (limit || at + 2 >= levels.count) return true;
      if (this.time >= horizon) {
        this.time = horizon;
        return true;
      }
    }
  }
}

import { Straight } from '../look/straight.ts';
import type { Cycle, Turn } from './cycle.ts';
import { CYCLE, type Levels } from './levels.ts';
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
      const { top, high, end, low, gives } = levels.span(side, CYCLE, at);
      if (!(high > 0)) {
        // Nothing flows, or it gives up at once.
        if (high <= 0) seconds = Infinity;
        break;
      }
      if (soc > end) seconds += course.from(soc, end, low, top, high).seconds;
      if (gives) break;
      soc = end;
    }
    const cycles = Math.floor(Math.min(seconds, this.horizon) / cycle.period) - LAST;
    if (cycles > 0) this.drain(CYCLE, cycles * cycle.period);
  }

  /** The level a state of charge lies below, or at. */
  private levelOf(soc: number): number {
    while (this.at + 2 < this.levels.count && this.levels.at(this.at + 1).soc >= soc) this.at++;
    return this.at;
  }

  /** @param k draws; CYCLE: the mean of all @returns whether it has ended in that time */
  private drain(k: number, seconds: number): boolean {
    const { levels, side, course, horizon } = this;
    let left = seconds;
    for (;;) {
      const at = this.levelOf(this.soc);
      const { top, high, end, low, gives } = levels.span(side, k, at);
      if (Number.isNaN(high)) return k !== CYCLE;
      if (gives && !(this.soc > end)) return true;
      course.from(this.soc, end, low, top, high);
      // Where nothing flows it stays.
      const need = high > 0 ? course.seconds : Infinity;
      if (need > left) {
        this.time = Math.min(horizon, this.time + left);
        if (high > 0 && left < Infinity) this.soc = course.after(left).to;
        return this.time >= horizon;
      }
      this.time += need;
      left -= need;
      this.soc = end;
      if (gives || at + 2 >= levels.count) return true;
      if (this.time >= horizon) {
        this.time = horizon;
        return true;
      }
    }
  }
}

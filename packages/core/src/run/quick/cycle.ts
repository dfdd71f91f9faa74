import type { Draws } from '../../loads/draws.ts';
import type { Schedule, Stretch } from '../timeline/schedule.ts';

/** A stretch of a cycle, by which of its draws it has. */
export interface Turn {
  /** place of its draws */
  draws: number;
  /** [s] */
  seconds: number;
  mode: number;
}

/** A programme that repeats, its draws told apart once; or what is drawn all the time, as one stretch without end. */
export interface Cycle {
  draws: readonly Draws[];
  /** how many of them are drawn again and again; those of the first cycle alone lie behind */
  again: number;
  turns: readonly Turn[];
  first: readonly Turn[];
  /** [s] */
  period: number;
  /** share of the time each is drawn */
  shares: Float64Array;
  /** [s] the longest each is drawn at a stretch */
  longest: Float64Array;
}

/** @param usual what is drawn where there is no programme */
export function cycleOf(usual: Draws, schedule: Schedule | undefined): Cycle {
  if (!schedule) {
    const turns = [{ draws: 0, seconds: Infinity, mode: 0 }];
    const [shares, longest] = [Float64Array.of(1), Float64Array.of(Infinity)];
    return { draws: [usual], again: 1, turns, first: [], period: Infinity, shares, longest };
  }
  const draws: Draws[] = [];
  const turnOf = (s: Stretch): Turn => {
    let at = draws.indexOf(s.draws);
    if (at < 0) at = draws.push(s.draws) - 1;
    return { draws: at, seconds: s.seconds, mode: s.mode };
  };
  const turns = schedule.stretches.map(turnOf);
  const again = draws.length;
  const first = schedule.first.map(turnOf);
  const { period } = schedule;
  const shares = new Float64Array(draws.length);
  const longest = new Float64Array(draws.length);
  for (const t of turns) shares[t.draws]! += t.seconds / period;
  for (const of of [turns, first]) {
    let run = 0;
    for (const [k, t] of of.entries()) {
      run = of[k - 1]?.draws === t.draws ? run + t.seconds : t.seconds;
      longest[t.draws] = Math.max(longest[t.draws]!, run);
    }
  }
  return { draws, again, turns, first, period, shares, longest };
}

/**
 * What follows a drive slowly (volts of a branch, warmth) through a cycle that has repeated for ever: within each stretch it goes on from
 * where it is to what drives it there by e^(−t/τ). Elementary.
 */
export class Wave {
  /** by draws: the least and the most it is in any of their stretches, and the mean by time */
  readonly low: Float64Array;
  readonly high: Float64Array;
  readonly mean: Float64Array;
  /** at the beginning of a cycle, and [s] in which it follows by a factor e */
  start = 0;
  tau = 0;
  /** e^(−t/τ) of each stretch */
  private readonly left: Float64Array;

  constructor(private readonly cycle: Cycle) {
    const n = cycle.draws.length;
    this.low = new Float64Array(n);
    this.high = new Float64Array(n);
    this.mean = new Float64Array(n);
    this.left = new Float64Array(cycle.turns.length);
  }

  /** @param drive by draws, what it would come to stand at @param tau [s] */
  follow(drive: Float64Array, tau: number): this {
    const { cycle, low, high, mean, left } = this;
    const { turns, period, again, draws, shares } = cycle;
    this.tau = tau;
    let at = 0;
    for (let n = 0; n < turns.length; n++) {
      const t = turns[n]!;
      const to = drive[t.draws]!;
      const stays = (left[n] = Math.exp(-t.seconds / tau));
      at = to + (at - to) * stays;
    }
    at = this.start = tau > 0 ? at / -Math.expm1(-period / tau) : at;
    low.fill(Infinity);
    high.fill(-Infinity);
    mean.fill(0);
    for (let n = 0; n < turns.length; n++) {
      const { draws: k, seconds } = turns[n]!;
      const to = drive[k]!;
      const end = to + (at - to) * left[n]!;
      if (at < low[k]!) low[k] = at;
      if (end < low[k]!) low[k] = end;
      if (at > high[k]!) high[k] = at;
      if (end > high[k]!) high[k] = end;
      const x = seconds / tau;
      // (1 − e^−x)/x of the way is still to go on the mean
      const ahead = x > TINY ? (1 - left[n]!) / x : 1;
      const share = seconds < Infinity ? seconds / (shares[k]! * period) : 1;
      mean[k]! += share * (to + (at - to) * ahead);
      at = end;
    }
    // What only a first cycle draws: anywhere between nothing and what it drives.
    for (let k = again; k < draws.length; k++) {
      low[k] = 0;
      high[k] = Math.max(drive[k]!, this.highest(again));
      mean[k] = drive[k]! / 2;
    }
    return this;
  }

  /** By draws: the mean, the most, or the least, as a side has it (`SIDE`). */
  of(side: 0 | 1 | 2): Float64Array {
    return side === 0 ? this.mean : side === 1 ? this.high : this.low;
  }

  /** The least and the most it is with any of the first so many draws. */
  least(count: number): number {
    return this.low.subarray(0, count).reduce((a, b) => Math.min(a, b));
  }

  highest(count: number): number {
    return this.high.subarray(0, count).reduce((a, b) => Math.max(a, b));
  }

  /** The mean over the whole cycle. */
  whole(): number {
    const { shares, again } = this.cycle;
    let sum = 0;
    for (let k = 0; k < again; k++) sum += shares[k]! * this.mean[k]!;
    return sum;
  }
}

/** Share of τ below which a stretch changes nothing. */
const TINY = 1e-12;

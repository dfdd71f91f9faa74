import { drawsOf, lawsOf, type Draws } from '../../loads/draws.ts';
import type { Warmth } from '../../plant/warmth.ts';
import { SECONDS_PER_HOUR } from '../../units/constants.ts';
import { meanDraws } from '../timeline/meanDraws.ts';
import { edgesOf, stretchesBetween, type Schedule } from '../timeline/schedule.ts';

/** What is given from outside for a while, an hour as a rule. */
export interface Hour {
  /** [s] where it ends */
  until: number;
  /** what the loads draw, on the mean */
  draws: Draws;
  /** whether a programme switches the loads again as it begins */
  switches: boolean;
  /** [K] of the air above that of the thread's conditions */
  kelvin: number;
}

/** What is given from outside, hour by hour. */
export interface Hours {
  /** @param time [s] @returns the hour that begins there, or that it lies in */
  at(time: number): Hour;
}

/**
 * The hours of a thread: loads by the mean of what they draw in each part of a cycle that is about an hour long, and the air; where the cells
 * may warm themselves each hour is by itself.
 * @param usual what is drawn where there is no programme
 */
export function hoursOf(usual: Draws, schedule?: Schedule, warmth?: Warmth): Hours {
  const windows = schedule ? windowsOf(schedule) : [{ until: Infinity, draws: usual }];
  const { period, repeats } = schedule ?? { period: Infinity, repeats: false };
  return {
    at(time) {
      const cycle = repeats ? Math.floor((time / period) * (1 + NEAR)) : 0;
      const began = cycle > 0 ? cycle * period : 0;
      const within = time - began;
      const window = windows.find((w) => within < w.until * (1 - NEAR)) ?? windows.at(-1)!;
      const ends = windows.length > 1 ? began + window.until : Infinity;
      const hourly = warmth !== undefined || repeats;
      const until = Math.min(ends, hourly ? time + SECONDS_PER_HOUR : Infinity);
      const kelvin = warmth?.daily?.at((time + until) / 2) ?? 0;
      return { until, draws: window.draws, switches: repeats, kelvin };
    },
  };
}

/** Parts of a cycle, about an hour long each, with the mean of what is drawn in them; alike ones in a row are one. */
function windowsOf(schedule: Schedule): { until: number; draws: Draws }[] {
  const { period, stretches, repeats, first } = schedule;
  const count = Math.max(1, Math.round(period / SECONDS_PER_HOUR));
  const windows: { until: number; draws: Draws }[] = [];
  const from = repeats ? edgesOf(first).at(-1)! : 0;
  for (let k = 1; k <= count; k++) {
    const until = (k * period) / count;
    const draws = rounded(
      meanDraws(stretchesBetween(schedule, from + ((k - 1) * period) / count, from + until)),
    );
    const last = windows.at(-1);
    if (last?.draws.name === draws.name) last.until = until;
    else windows.push({ until, draws });
  }
  if (!repeats) windows.push({ until: Infinity, draws: stretches.at(-1)!.draws });
  return windows;
}

/** Means that differ by rounding alone are one. */
function rounded(draws: Draws): Draws {
  return drawsOf(lawsOf(draws).map((l) => ({ ...l, factor: Number(l.factor.toPrecision(DIGITS)) })));
}

const DIGITS = 12;
/** Relative distance in time below which two instants are one. */
const NEAR = 1e-11;

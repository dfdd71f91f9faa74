import type { Ledger } from './account.ts';
import type { Counts, RangeInterval } from './result.ts';
import type { Series } from './series.ts';

/** Mains that is gone. [s] */
export interface Gone {
  /** [s] */
  from: number;
  to: number;
}

/** Who carries the loads. */
export type Who = 'adapter' | 'both' | 'battery' | 'nobody';

/** Something that is so for a while. [s] */
export interface Stretched<T> {
  what: T;
  /** [s] */
  from: number;
  to: number;
}

/** [s] in which nothing was carried, all in all. */
export function darkSeconds({ dark }: Pick<OutageResult, 'dark'>): number {
  return dark.reduce((sum, { from, to }) => sum + to - from, 0);
}

/** A timeline of mains. Plain values: it can cross to and from a worker. */
export interface OutageResult {
  /** [s] up to where it was worked out, whether that is all of it, and whether the cells are over-charged there */
  end: { time: number; whole: boolean; overCharged?: boolean };
  who: Stretched<Who>[];
  /** [s] in which nothing was carried */
  dark: Gone[];
  /** [J] that the loads did not get meanwhile, by their mean draw */
  unserved: number;
  /** whether a programme that is too fast to be followed was taken by its mean draw */
  byMean: boolean;
  /** of a programme that repeats fast and was followed: where its rows are, cycle by cycle. [s] */
  cycles?: { begins: number[]; period: number };
  /** state of charge at its lowest, with [s] when */
  lowest: { soc: number; time: number };
  ledger: Ledger;
  loadRanges: Record<string, RangeInterval[]>;
  counts: Counts;
  series: Series;
}

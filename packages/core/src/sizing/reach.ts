import type { CellRecord } from '../model/cell.ts';

/** How a pack gets to a rail: straight, by a stage that steps down, up, or both ways; or not at all. */
export type Way = 'direct' | 'buck' | 'boost' | 'buckBoost' | 'not';

/** What a rail wants. */
export interface RailWish {
  /** [V] it is held at where a stage holds it */
  volts: number;
  /** [V] what hangs on it stands */
  min: number;
  max: number;
  /** [W] it takes at the most */
  watts: number;
}

/** A pack before a rail. */
export interface Crossing {
  way: Way;
  /** `full`: the pack's full volts decide, `empty`: those at its end, `amps`: what a cell would have to give, `ratio` */
  why: 'both' | 'full' | 'empty' | 'amps' | 'ratio';
  /** [V] of the pack, full and at its end */
  full: number;
  empty: number;
  /** [A] of one cell at its end, and what it may give */
  cellAmps: number;
  mostAmps: number;
}

/** Share of what a stage takes that reaches its rail, for a first look. Common practice, no source. */
const EFFICIENCY = 0.88;
/** Share of its input a buck can still give, and the largest ratio of a boost. Common practice, no source. */
const BUCK_SHARE = 0.95;
const BOOST_RATIO = 6;

/**
 * Which way a pack of so many cells in series reaches a rail, from its whole range of volts, full to end.
 * A pack that lies in what the rail stands needs no stage; one that is above it even at its end is stepped down, one below
 * even when full is stepped up; between them only a stage for both ways holds. A cell that would have to give more than
 * its rated current, or a boost by more than six, is none.
 */
export function reach(cell: CellRecord, series: number, parallel: number, rail: RailWish): Crossing {
  const full = series * cell.fullVolts;
  const empty = series * cell.endVolts;
  const by = converts(full, empty, rail);
  const direct = by.way === 'direct';
  const cellAmps = rail.watts / (direct ? 1 : EFFICIENCY) / empty / parallel;
  const mostAmps = cell.dischargeRate * cell.capacityAh;
  const found = { full, empty, cellAmps, mostAmps };
  if (cellAmps > mostAmps) return { way: 'not', why: 'amps', ...found };
  if (!direct && rail.volts > BOOST_RATIO * empty) return { way: 'not', why: 'ratio', ...found };
  return { ...by, ...found };
}

/** A way that there is. */
type Converts = { way: Exclude<Way, 'not'>; why: 'both' | 'full' | 'empty' };

/** By volts alone, which way there is from a pack that stands between two volts to a rail. @param full, empty [V] */
export function converts(full: number, empty: number, rail: Omit<RailWish, 'watts'>): Converts {
  if (full <= rail.max && empty >= rail.min) return { way: 'direct', why: 'both' };
  if (BUCK_SHARE * empty >= rail.volts) return { way: 'buck', why: 'empty' };
  // A boost passes its input on where that is above its set volts: the rail must stand it.
  if (full <= Math.max(rail.volts, rail.max)) return { way: 'boost', why: 'full' };
  return { way: 'buckBoost', why: 'both' };
}

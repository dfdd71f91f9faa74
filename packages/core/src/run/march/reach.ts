import { LOOK } from '../../plant/cellTable.ts';
import type { PackPlant } from '../../plant/pack.ts';
import { drainRate, resistanceAt, type CellState } from '../step/state.ts';

/** [s] Shortest step behind a jump. */
export const FIRST_STEP = 0.1;
/** [s] of a branch below which it is followed within any step. */
const FASTEST = 0.5;
/** [s] of a first step's measure where no branch is slower than that. */
const NO_BRANCH = 600;
/** Share of the volts that the branches may have to follow behind a jump for steps to be as long as if there were none. */
const SLIGHT = 1e-4;
/** Share of a step by which one may be longer, rather than one more be taken before a knot. */
const STRETCH = 0.25;
/** Share of the charge below which nothing lies between here and a knot. */
const SLIVER = 1e-12;
/** Share of a step up to which a knot belongs to it rather than to one of its own. */
const NEAR_KNOT = 0.04;

/**
 * [s] a first step behind a jump: a part of the fastest branch; Infinity where the branches have next to nothing to follow.
 * @param first that part
 */
export function openingStep(pack: PackPlant, state: CellState, first: number): number {
  const { cell } = pack;
  const looked = cell.room();
  cell.look(state.soc, looked);
  const warm = resistanceAt(pack, state.slow);
  let least = Infinity;
  let behind = 0;
  for (let k = 0; k < cell.branches; k++) {
    const ohms = looked[LOOK.branches + k]!;
    const tau = ohms * looked[LOOK.branches + cell.branches + k]!;
    if (tau > FASTEST) least = Math.min(least, tau);
    behind += Math.abs(ohms * warm * state.amps - state.slow[k]!);
  }
  if (behind * pack.series < SLIGHT * state.volts) return Infinity;
  return Math.max(FIRST_STEP, first * (least < Infinity ? least : NO_BRANCH));
}

/** [s] A step of about h, of which a whole number reach the next knot of the curves, or the edge where that is nearer. */
export function wholeStep(pack: PackPlant, state: CellState, h: number, toEdge: number): number {
  const reach = Math.min(toEdge, toKnot(pack, state, h));
  return reach / Math.max(1, Math.ceil(reach / h - STRETCH));
}

/** [s] to the next knot of the curves; h where there is none. */
function toKnot(pack: PackPlant, { soc, amps, charge }: CellState, h: number): number {
  const { knots } = pack.cell;
  const rate = drainRate(pack, charge, amps, soc);
  // Nothing flows: nothing is reached.
  if (rate === 0) return Infinity;
  let k = pack.cell.interval(soc);
  if (rate < 0) return toKnotAbove(knots, soc, k, -rate, h);
  // the next knot that is clearly below: a step never ends on a sliver
  const near = Math.max(NEAR_KNOT * h * rate, SLIVER);
  while (k > 0 && soc - knots[k]! < near) k--;
  // Nothing but rounding left above the lowest: step across, and meet the end as any other event.
  if (!(soc - knots[k]! > SLIVER)) return h;
  return (soc - knots[k]!) / rate;
}

/** The same while the cells fill. @param k interval they are in @param rate [1/s] */
function toKnotAbove(knots: Float64Array, soc: number, k: number, rate: number, h: number): number {
  const near = Math.max(NEAR_KNOT * h * rate, SLIVER);
  const last = knots.length - 1;
  let above = k + 1;
  while (above < last && knots[above]! - soc < near) above++;
  return knots[above]! - soc > SLIVER ? (knots[above]! - soc) / rate : h;
}

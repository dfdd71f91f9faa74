import type { Lane } from './model.ts';

/** [px] of the lanes: names on the left, heads, a lane, its tallest block, the sum below. */
export const NAMES = 132;
export const HEAD = 46;
export const LANE = 84;
export const BLOCK = 54;
export const SUM = 96;
/** [px] height of a block from which its words stand in it rather than above. */
export const HOLDS_WORDS = 34;
/** [px] an edge is dragged for ten times the time. */
export const DECADE = 130;

/** [px] width of a peak on the score: it lasts far shorter than its stretch. */
export const SPIKE = 12;

/** A value as it is shown while it is dragged. */
export type Shown = (what: string, value: number) => number;

/** [px] height of a block: straight in watts, the largest of its lane full. */
export function tall(lane: Lane, watts: number): number {
  const most = Math.max(...lane.blocks.map((b) => b.watts), ...lane.peaks.map((p) => p.watts));
  return watts > 0 ? Math.max(2, (BLOCK * watts) / most) : 0;
}

import { brent } from '../numeric/root.ts';
import { modeIndex } from '../stages/point.ts';
import type { CellState } from './cellState.ts';

/** Modes in which a stage no longer gives what it is set to for want of power. */
const GIVEN_UP = [modeIndex('collapsed'), modeIndex('currentLimit')];

/** The most a pack can give into this tree at one state of charge. */
export interface Nose {
  /** [V] where the path begins */
  volts: number;
  /** [A] */
  amps: number;
  /** [W] into the path */
  watts: number;
  /** [W] to all loads together */
  loadWatts: number;
  /** how many times the loads' present draw that is */
  scale: number;
}

/** Relative tolerance on the scale: near the nose volts move as its square root, so 1e-10 gives 1e-5 of them. */
const SCALE_TOLERANCE = 1e-10;
/** Where the nose is a smooth crest, its volts are looked for this far around [relative], to this width. */
const CREST_ROOM = 1e-4;
const CREST_WIDTH = 1e-8;

/**
 * Nose point: scale all loads together and find the largest scale for which an operating point exists with
 * no stage in its current limit.
 * For one constant-power load behind R this is P = E²/(4R) at V = E/2.
 *
 * @param state the instant; its tree is left as it was
 * @returns undefined when the loads draw nothing, or where no limit was found up to a million times the draw
 */
export function nosePoint(state: CellState): Nose | undefined {
  const { tree } = state;
  let best: Omit<Nose, 'scale'> | undefined;
  const read = (volts: number) => {
    let loadWatts = 0;
    for (let l = 0; l < tree.loads.length; l++) loadWatts += tree.loadVolts[l]! * tree.loadAmps[l]!;
    best = { volts, amps: tree.lastAmps, watts: volts * tree.lastAmps, loadWatts };
  };
  const alive = () => !tree.points.some((p) => GIVEN_UP.includes(p.mode));
  const exists = (scale: number) => {
    tree.setLoadScale(scale);
    const found = state.solveInstant(NaN);
    const there = found.status === 'converged' && alive();
    if (there) read(found.volts);
    return there;
  };
  try {
    let low = 0;
    let high = 1;
    while (exists(high)) {
      low = high;
      high *= 2;
      if (high > 1e6) return undefined;
    }
    const edge = brent((s) => (exists(s) ? 1 : -1), low, high, SCALE_TOLERANCE * high, 0.5);
    if (low === 0 && edge.x === 0) return undefined;
    exists(edge.x);
    if (!best) return undefined;
    // Two roots merge at the crest of the residual: just above the largest scale it stands alone.
    const near = best.volts;
    tree.setLoadScale(edge.x * (1 + 4 * SCALE_TOLERANCE));
    const crest = state.crest(near * (1 - CREST_ROOM), near * (1 + CREST_ROOM), near * CREST_WIDTH);
    if (Math.abs(crest / near - 1) < 0.9 * CREST_ROOM && alive()) read(crest);
    return { ...best, scale: edge.x };
  } finally {
    tree.setLoadScale(1);
  }
}

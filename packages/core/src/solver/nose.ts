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

/** Relative tolerance on the scale: near the nose volts move as its square root, so 1e-9 gives 3e-5 of them. */
const SCALE_TOLERANCE = 1e-10;

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
  const exists = (scale: number) => {
    tree.setLoadScale(scale);
    const found = state.solveInstant(NaN);
    const alive = found.status === 'converged' && !tree.points.some((p) => GIVEN_UP.includes(p.mode));
    if (alive) {
      let loadWatts = 0;
      for (let l = 0; l < tree.loads.length; l++) loadWatts += tree.loadVolts[l]! * tree.loadAmps[l]!;
      const amps = state.packAmps();
      best = { volts: found.volts, amps, watts: found.volts * amps, loadWatts };
    }
    return alive;
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
    return best && { ...best, scale: edge.x };
  } finally {
    tree.setLoadScale(1);
  }
}

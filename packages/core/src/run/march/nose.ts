import { scaled } from '../../loads/draws.ts';
import { brent, climb } from '../../numeric/root.ts';
import type { Plant } from '../../plant/compile.ts';
import { GIVES_UP } from '../../stages/modes.ts';
import type { Nose } from '../account/result.ts';
import { Instant } from '../step/instant.ts';
import type { CellState } from '../step/state.ts';

/** Relative tolerance on the scale: near the nose volts move as its square root, so 1e-10 gives 1e-5 of them. */
const SCALE_TOLERANCE = 1e-10;
/** Where the nose is a smooth crest, its volts are looked for this far around [relative], to this width. */
const CREST_ROOM = 1e-4;
const CREST_WIDTH = 1e-8;
/** Demands of rails the search may take. */
const EFFORT = 200_000;
/** Times the draw beyond which nothing is looked for. */
const LARGEST = 1e6;

/**
 * Nose point: scale all loads together and find the largest scale for which an operating point exists with
 * no stage in its current limit.
 * For one constant-power load behind R this is P = E²/(4R) at V = E/2.
 *
 * @param state the instant; the path's draws are left as they were
 * @returns undefined when the loads draw nothing, where no limit was found up to a million times the draw, and where
 *   the search would take too long
 */
export function nosePoint(plant: Plant, state: CellState): Nose | undefined {
  const { network } = plant.path;
  const instant = new Instant(plant, { demand: (volts) => network.demand(0, volts) });
  const was = network.draws;
  let best: Omit<Nose, 'scale'> | undefined;
  const read = (volts: number) => {
    const amps = network.settle(0, volts);
    if (network.points.some((p) => GIVES_UP[p.mode])) return false;
    let loadWatts = 0;
    network.loadVolts.forEach((v, l) => (loadWatts += v * network.loadAmps[l]!));
    best = { volts, amps, watts: volts * amps, loadWatts };
    return true;
  };
  const exists = (scale: number) => {
    network.setDraws(scaled(was, scale));
    const { status, volts } = instant.search(state, NaN);
    if (network.effort.spent) return false;
    return status === 'converged' && read(volts);
  };
  const search = () => {
    let low = 0;
    let high = 1;
    while (exists(high)) {
      low = high;
      high *= 2;
      if (high > LARGEST) return undefined;
    }
    const edge = brent((s) => (exists(s) ? 1 : -1), low, high, SCALE_TOLERANCE * high, 0.5);
    if (low === 0 && edge.x === 0) return undefined;
    exists(edge.x);
    if (!best || network.effort.spent) return undefined;
    // Two roots merge at the crest of the residual: just above the largest scale it stands alone.
    const near = best.volts;
    network.setDraws(scaled(was, edge.x * (1 + 4 * SCALE_TOLERANCE)));
    const crest = climb(
      (volts) => instant.excess(volts),
      near * (1 - CREST_ROOM),
      near * (1 + CREST_ROOM),
      near * CREST_WIDTH,
    ).x;
    if (Math.abs(crest / near - 1) < 0.9 * CREST_ROOM) read(crest);
    return { ...best, scale: edge.x };
  };
  try {
    return network.effort.aside(EFFORT, search);
  } finally {
    network.setDraws(was);
  }
}

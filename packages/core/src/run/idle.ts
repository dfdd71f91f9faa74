import { isRegulated } from '../model/kinds/registry.ts';
import { allOff, drawsIn } from '../loads/draws.ts';
import type { Plant } from '../plant/compile.ts';
import { HELD, type Network } from '../plant/network.ts';
import { drainId, drainsOf } from '../model/pack.ts';
import type { Idle } from './account/result.ts';
import { Shelf } from './shelf.ts';
import { firstAt } from './step/state.ts';

/** Share of the idle current below which an element is not named. */
const LEAST_SHARE = 1e-6;

/** Demands of rails it may take; a few hundred are the rule. */
const EFFORT = 20_000;

/**
 * Idle draw and shelf life of a thread: every load off, a disconnect open; or asleep in a mode, as long as its cells are
 * above their end.
 * @param plant of it; its path is left as it was @param mode id of the mode it sleeps in; absent: everything off
 */
export function idleDraw(plant: Plant, mode?: string): Idle {
  const off = plant.path.network;
  const { draws: was } = off;
  const held = off.held.slice();
  const { loads } = plant.path;
  return off.effort.apart(EFFORT, () => {
    try {
      off.held.fill(HELD.on);
      off.setDraws(mode === undefined ? allOff(was) : drawsIn(loads, mode));
      return flow(plant, off, mode === undefined);
    } finally {
      off.held.set(held);
      off.setDraws(was);
    }
  });
}

/** @param open whether a disconnect is */
function flow({ doc, pack, conditions }: Plant, off: Network, open: boolean): Idle {
  const { protection, cell } = doc.pack;
  const disconnect = open ? doc.pack.disconnect : undefined;
  const soc = conditions.startSoc;
  const volts = pack.series * pack.cell.ocv(soc);
  if (open) shutDown(off);
  const atCells: Idle['items'] = [];
  if (protection && !disconnect?.beforeProtection)
    atCells.push({ element: 'protection', amps: protection.quiescentCurrent });
  drainsOf(doc.pack).forEach((d, k) => {
    if (!(disconnect && d.switched)) atCells.push({ element: drainId(k), amps: d.current });
  });
  const own = atCells.reduce((sum, i) => sum + i.amps, 0);
  const drawAt = (v: number): number => {
    if (disconnect) return disconnect.leakage + own;
    return v > 0 ? lockOut(off, v) + own : own;
  };
  const amps = drawAt(volts);
  const items = atCells;
  if (disconnect) items.push({ element: 'disconnect', amps: disconnect.leakage });
  else items.push(...shares(off, volts));
  items.sort((a, b) => b.amps - a.amps);
  const shelf = new Shelf(pack, drawAt, off);
  const end = Math.min(soc, firstAt(pack, cell.endVolts));
  const hoursToEnd = shelf.hours(soc, end);
  return {
    amps,
    items: items.filter((i) => i.amps > LEAST_SHARE * amps),
    hoursToEnd,
    hoursToDamage: hoursToEnd + shelf.hours(end, firstAt(pack, cell.damageVolts)),
  };
}

/** Shut down what shuts down with its loads. */
function shutDown(off: Network): void {
  off.stages.forEach((stage, k) => {
    if (isRegulated(stage) && stage.shutdownCurrent !== undefined) off.hold(k, HELD.lockedOut);
  });
}

/** Lock out, for good, what stands below its lock-out: the shelf only drains. @returns [A] drawn */
function lockOut(off: Network, volts: number): number {
  for (;;) {
    const amps = off.settle(0, volts);
    let low = -1;
    for (let k = 0; k < off.stages.length && low < 0; k++) {
      const vin = off.points[k]!.inputVolts;
      if (off.held[k] === HELD.on && vin > 0 && vin < off.rails.limits[k]!.minInput) low = k;
    }
    if (low < 0) return amps;
    off.hold(low, HELD.lockedOut);
  }
}

/** [A] at the pack that each stage's own loss stands for, and each load, where they have settled. */
function shares(off: Network, volts: number): Idle['items'] {
  off.settle(0, volts);
  const stages = off.points.map((p, k) => {
    const watts = p.inputVolts * p.inputAmps - p.outputVolts * p.outputAmps;
    return { element: off.stages[k]!.id, amps: watts / volts };
  });
  const loads = off.loads.map(({ id }, l) => ({
    element: id,
    amps: (off.loadVolts[l]! * off.loadAmps[l]!) / volts,
  }));
  return [...stages, ...loads];
}

import { isRegulated } from '../model/kinds/registry.ts';
import type { Plant } from '../plant/compile.ts';
import { HELD, Network } from '../plant/network.ts';
import { Shelf } from './shelf.ts';

/** What flows with every load off. */
export interface Idle {
  /** [A] out of the pack at the start of the run, everything off */
  amps: number;
  /** [A] by element, largest first */
  items: { element: string; amps: number }[];
  /** [h] on the shelf until the cells rest at their end voltage; Infinity when nothing drains them */
  hoursToEnd: number;
  /** [h] on the shelf until the cells rest at the voltage that damages them */
  hoursToDamage: number;
}

/** Share of the idle current below which an element is not named. */
const LEAST_SHARE = 1e-6;

/** Demands of rails it may take; a few hundred are the rule. */
const EFFORT = 100_000;

/** Idle draw and shelf life of a thread. @param plant of it; its path is left as it was */
export function idleDraw(plant: Plant): Idle {
  const off = plant.path.network;
  const factors = off.factors();
  const held = off.held.slice();
  const { allowed, spent } = off;
  // What the run has spent is not held against it.
  off.allowed = off.work + EFFORT;
  off.spent = false;
  try {
    off.held.fill(HELD.on);
    off.setFactors(factors.map(() => 0));
    return draws(plant, off);
  } finally {
    off.held.set(held);
    off.setFactors(factors);
    off.allowed = allowed;
    off.spent = spent;
  }
}

function draws({ doc, pack, conditions }: Plant, off: Network): Idle {
  const { disconnect, protection, cell } = doc.pack;
  const soc = conditions.startSoc;
  const volts = pack.series * pack.cell.ocv(soc);
  shutDown(off);
  const drawAt = (v: number): number => {
    if (disconnect) return disconnect.leakage + (disconnect.beforeProtection ? 0 : pack.quiescent);
    return v > 0 ? lockOut(off, v) + pack.quiescent : pack.quiescent;
  };
  const amps = drawAt(volts);
  const items: Idle['items'] = [];
  if (disconnect) items.push({ element: 'disconnect', amps: disconnect.leakage });
  if (protection && !disconnect?.beforeProtection)
    items.push({ element: 'protection', amps: pack.quiescent });
  if (!disconnect) items.push(...stageShares(off, volts));
  items.sort((a, b) => b.amps - a.amps);
  const shelf = new Shelf(pack, drawAt, off);
  const end = Math.min(soc, pack.cell.socAt(cell.endVolts));
  const hoursToEnd = shelf.hours(soc, end);
  return {
    amps,
    items: items.filter((i) => i.amps > LEAST_SHARE * amps),
    hoursToEnd,
    hoursToDamage: hoursToEnd + shelf.hours(end, pack.cell.socAt(cell.damageVolts)),
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
    for (let k = 0; k < off.count && low < 0; k++) {
      const vin = off.points[k]!.inputVolts;
      if (off.held[k] === HELD.on && vin > 0 && vin < off.limits[k]!.minInput) low = k;
    }
    if (low < 0) return amps;
    off.hold(low, HELD.lockedOut);
  }
}

/** [A] at the pack that each stage's own loss stands for, where it has settled. */
function stageShares(off: Network, volts: number): Idle['items'] {
  off.settle(0, volts);
  return off.points.map((p, k) => {
    const watts = p.inputVolts * p.inputAmps - p.outputVolts * p.outputAmps;
    return { element: off.stages[k]!.id, amps: watts / volts };
  });
}

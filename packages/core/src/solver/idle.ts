import { isRegulated } from '../model/kinds/registry.ts';
import { gaussPanels } from '../numeric/quadrature.ts';
import type { Plant } from '../plant/compile.ts';
import { HELD, Network } from '../plant/network.ts';
import { monthlyRate } from '../plant/pack.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';

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

/**
 * Gauss panels over the charge, down to the end and from there to damage, in each stretch between the volts at which a
 * stage on the pack locks out: the idle current steps there and bends with the curve of the cells elsewhere.
 */
const PANELS = { toEnd: 4, toDamage: 2 };

/** Share of the idle current below which an element is not named. */
const LEAST_SHARE = 1e-6;

/** Demands of rails it may take; a few hundred are the rule. */
const EFFORT = 100_000;

/** State of charge that counts as empty: the logarithm of none has no end. */
const DUST = 1e-9;

/**
 * Hours for a store of charge to fall from one state of charge to another under an idle current and
 * exponential self-discharge: t = ∫ ds / (I(s)/Q + λ·s), λ = −ln(1 − x) per month.
 *
 * @param charge [C] of the pack's cells in parallel
 * @param amps [A] drawn at a state of charge; asked from the top down
 * @param selfDischarge fraction of what is left lost per month, 0…1
 * @param from state of charge at the start; @param to at the end, below `from`; @param panels of the quadrature
 * @returns [h]; Infinity when nothing draws
 * Elementary; month = 730.5 h.
 */
export function shelfHours(
  charge: number,
  amps: (soc: number) => number,
  selfDischarge: number,
  from: number,
  to: number,
  panels: number,
): number {
  if (to >= from) return 0;
  const lambda = monthlyRate(selfDischarge);
  const rate = (s: number) => amps(s) / charge + lambda * s;
  if (rate(from) <= 0) return Infinity;
  // In ln s the integrand stays smooth where self-discharge dominates near empty.
  const low = Math.log(Math.max(to, DUST));
  const seconds = gaussPanels((x) => Math.exp(x) / rate(Math.exp(x)), Math.log(from), low, panels);
  if (to <= 0 && rate(0) <= 0) return Infinity;
  return Number.isFinite(seconds) ? -seconds / SECONDS_PER_HOUR : Infinity;
}

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
  const volts = (s: number) => pack.series * pack.cell.ocv(s);
  shutDown(off);
  const draw = (s: number): number => {
    if (disconnect) return disconnect.leakage + (disconnect.beforeProtection ? 0 : pack.quiescent);
    const v = volts(s);
    return v > 0 ? lockOut(off, v) + pack.quiescent : pack.quiescent;
  };
  const amps = draw(soc);
  const items: Idle['items'] = [];
  if (disconnect) items.push({ element: 'disconnect', amps: disconnect.leakage });
  if (protection && !disconnect?.beforeProtection)
    items.push({ element: 'protection', amps: pack.quiescent });
  if (!disconnect) items.push(...stageShares(off, volts(soc)));
  items.sort((a, b) => b.amps - a.amps);
  const steps = lockOuts(off)
    .map((v) => pack.cell.socAt(v / pack.series))
    .sort((a, b) => b - a);
  const until = (from: number, to: number, panels: number) => {
    const edges = [from, ...steps.filter((s) => s < from && s > to), to];
    return edges
      .slice(1)
      .reduce(
        (hours, edge, n) =>
          hours +
          shelfHours(pack.parallel * pack.charge, draw, cell.selfDischargePerMonth, edges[n]!, edge, panels),
        0,
      );
  };
  const end = Math.min(soc, pack.cell.socAt(cell.endVolts));
  const hoursToEnd = until(soc, end, PANELS.toEnd);
  return {
    amps,
    items: items.filter((i) => i.amps > LEAST_SHARE * amps),
    hoursToEnd,
    hoursToDamage: hoursToEnd + until(end, pack.cell.socAt(cell.damageVolts), PANELS.toDamage),
  };
}

/** Shut down what shuts down with its loads. */
function shutDown(off: Network): void {
  off.stages.forEach((stage, k) => {
    if (isRegulated(stage) && stage.shutdownCurrent !== undefined) off.hold(k, HELD.lockedOut);
  });
}

/** [V] of the pack at which a stage on it locks out; further in, none is known beforehand. */
function lockOuts(off: Network): number[] {
  return [...off.limits].filter((_, k) => off.stageRail[k] === 0).map((l) => l.minInput);
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

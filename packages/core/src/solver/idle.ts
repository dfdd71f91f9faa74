import type { ThreadDocument } from '../model/thread.ts';
import { isRegulated } from '../model/kinds/registry.ts';
import { socFromVoltage } from '../cells/socFromVoltage.ts';
import { gauss } from '../numeric/quadrature.ts';
import type { PackSource } from '../pack/source.ts';
import { HOURS_PER_MONTH, SECONDS_PER_HOUR } from '../units/constants.ts';
import { LOCKED_OUT, ON, Tree } from './tree.ts';

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

/** Gauss panels over the charge: the idle current steps only where a stage locks out. */
const PANELS = 24;

/** Share of the idle current below which an element is not named. */
const LEAST_SHARE = 1e-6;

/**
 * Hours for a store of charge to fall from one state of charge to another under an idle current and
 * exponential self-discharge: t = ∫ ds / (I(s)/Q + λ·s), λ = −ln(1 − x) per month.
 *
 * @param charge [C] of the pack's cells in parallel
 * @param amps [A] drawn at a state of charge
 * @param selfDischarge fraction of what is left lost per month, 0…1
 * @param from state of charge at the start; @param to at the end, below `from`
 * @returns [h]; Infinity when nothing draws
 * Elementary; month = 730.5 h.
 */
export function shelfHours(
  charge: number,
  amps: (soc: number) => number,
  selfDischarge: number,
  from: number,
  to: number,
): number {
  if (to >= from) return 0;
  const lambda = -Math.log(1 - selfDischarge) / (HOURS_PER_MONTH * SECONDS_PER_HOUR);
  const rate = (s: number) => amps(s) / charge + lambda * s;
  if (rate(from) <= 0 || (to <= 0 && rate(0) <= 0)) return Infinity;
  // In ln s the integrand stays smooth where self-discharge dominates near empty.
  const low = Math.log(Math.max(to, 1e-9));
  const seconds = gauss((x) => Math.exp(x) / rate(Math.exp(x)), low, Math.log(from), PANELS);
  return seconds / SECONDS_PER_HOUR;
}

/** Idle draw and shelf life of a thread. @param soc state of charge it goes onto the shelf with */
export function idleDraw(doc: ThreadDocument, source: PackSource, soc: number): Idle {
  const tree = new Tree(doc);
  tree.setLoadScale(0);
  const { disconnect, protection, cell } = doc.pack;
  const draw = (s: number): number => {
    if (disconnect) return disconnect.leakage + (disconnect.beforeProtection ? 0 : source.quiescent);
    settle(tree, source.series * source.ocv.at(s));
    return tree.amps(source.series * source.ocv.at(s)) + source.quiescent;
  };
  const amps = draw(soc);
  const items: Idle['items'] = [];
  if (disconnect) items.push({ element: 'disconnect', amps: disconnect.leakage });
  if (protection && !disconnect?.beforeProtection) {
    items.push({ element: 'protection', amps: source.quiescent });
  }
  if (!disconnect) items.push(...stageShares(tree, source.series * source.ocv.at(soc)));
  items.sort((a, b) => b.amps - a.amps);
  const charge = source.parallel * source.charge;
  const until = (volts: number) =>
    shelfHours(charge, draw, cell.selfDischargePerMonth, soc, socFromVoltage(source.ocv, volts));
  const hoursToEnd = until(cell.endVolts);
  return {
    amps,
    items: items.filter((i) => i.amps > LEAST_SHARE * amps),
    hoursToEnd,
    hoursToDamage: until(cell.damageVolts),
  };
}

/** Shut down what shuts down with its loads, and lock out what stands below its lock-out. */
function settle(tree: Tree, volts: number): void {
  tree.stages.forEach((_, k) => tree.hold(k, ON));
  tree.stages.forEach((stage, k) => {
    if (!isRegulated(stage)) return;
    tree.amps(volts);
    const low = tree.points[k]!.inputVolts < tree.limits[k]!.minInput;
    if (stage.shutdownCurrent !== undefined || low) tree.hold(k, LOCKED_OUT);
  });
}

/** [A] at the pack that each stage's own loss stands for. */
function stageShares(tree: Tree, volts: number): Idle['items'] {
  settle(tree, volts);
  tree.amps(volts);
  return tree.stages.map((stage, k) => {
    const p = tree.points[k]!;
    const watts = p.inputVolts * p.inputAmps - p.outputVolts * p.outputAmps;
    return { element: stage.id, amps: watts / volts };
  });
}

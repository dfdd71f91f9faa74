import { allOff, type Draws } from '../loads/draws.ts';
import type { Regulated } from '../model/kinds/registry.ts';
import { surroundingsOf, type ThreadDocument } from '../model/thread.ts';
import { fullAtRest } from '../model/pack.ts';
import { halve } from '../numeric/halve.ts';
import { HELD, Network } from '../plant/network.ts';
import { seriesElements } from '../plant/pack.ts';
import { scheduleOf } from '../run/timeline/schedule.ts';
import { highestVoltage } from '../stages/highestVoltage.ts';
import { limitsOf } from '../stages/limits.ts';
import { FAILS, MODE, MODES, type Mode } from '../stages/modes.ts';

/** Why what hangs on a rail is not held over all volts of a pack. */
export type Misfit =
  /** [V] a stage on the way gets more than it stands */
  | { why: 'input'; stage: string; volts: number; stands: number }
  /** [V] a load gets more than it stands, the pack full and nothing drawn */
  | { why: 'high'; load: string; volts: number; stands: number }
  /** [V] a load gets less than it needs with its cells at their end; and the stage that lets it down, and how */
  | { why: 'low'; load: string; volts: number; needs: number; stage?: { id: string; mode: Mode } };

/** How what hangs on a rail fares over a pack's volts. */
export interface RailHeld {
  /** [V] of the pack, full and at rest, and with its cells at their end */
  full: number;
  empty: number;
  /** [V] of the cells together down to which every load on it gets what it needs; NaN where a full pack is too low */
  downTo: number;
  /** what does not fit; absent where it is held from full to the end */
  misfit?: Misfit;
  /** [A] asked of a cell at its end, at the most, and what it may give */
  asks: number;
  may: number;
}

/** Halvings of a pack's volts: to a millivolt and less. */
const HALVINGS = 20;

/** Nearness, relative, to an operating point; and how far below a jump the stages are looked at. */
const CLOSE = 1e-6;
const BELOW = 1e-7;

/** [V] of a pack with its cells at their end: the record's, or where its board opens, whichever is first. */
export function packAtEnd({ pack: { cell, series, protection } }: Pick<ThreadDocument, 'pack'>): number {
  return series * Math.max(cell.endVolts, protection?.cutoffVolts ?? 0);
}

/** [V] of a full pack as it stands with nothing drawn. */
export function packWhenFull({ pack }: Pick<ThreadDocument, 'pack'>): number {
  return Math.max(fullAtRest(pack), pack.series * pack.cell.fullVolts);
}

/** Everything outside the cells at a pack's volts, whatever its charge: the operating point of a run, without a run. */
export class AtVolts {
  readonly network: Network;
  private readonly ohms: number;
  /** every set of draws that ever is */
  private readonly draws: readonly Draws[];

  constructor(readonly doc: ThreadDocument) {
    this.network = new Network(doc.stages, doc.loads, surroundingsOf(doc).air);
    this.ohms = seriesElements(doc.pack).reduce((sum, e) => sum + e.ohms, 0);
    const schedule = scheduleOf(doc);
    const all = schedule
      ? [...schedule.first, ...schedule.stretches].map((s) => s.draws)
      : [this.network.draws];
    this.draws = [...new Set(all)];
  }

  /** [A] drawn where the cells together stand at `volts`, with some draws; stages beyond their limits are held off, as in a run. */
  put(volts: number, draws: Draws): number {
    const { network, ohms, doc } = this;
    const { bounds } = network.rails;
    network.setDraws(draws);
    doc.stages.forEach((_, k) => network.hold(k, HELD.on));
    // Each turn holds off one more, from the pack outwards.
    for (let turn = 0; turn <= doc.stages.length; turn++) {
      const rail = ohms > 0 ? highestVoltage((v) => volts - ohms * network.demand(0, v), volts) : volts;
      let amps = network.settle(0, rail > 0 ? rail : 0);
      // Where a stage gives up on the way there is no such point: it is seen just below, as in a run.
      if (rail > 0 && Math.abs(volts - ohms * amps - rail) > CLOSE * volts) {
        amps = network.settle(0, rail * (1 - BELOW));
      }
      const off = doc.stages.findIndex((_, k) => {
        const { inputVolts, mode } = network.points[k]!;
        if (network.held[k] !== HELD.on || !(inputVolts > 0)) return false;
        return inputVolts < bounds.least[k]! || inputVolts > bounds.most[k]! || mode === MODE.collapsed;
      });
      if (off < 0) return amps;
      const { inputVolts } = network.points[off]!;
      const why =
        inputVolts > bounds.most[off]!
          ? HELD.overInput
          : inputVolts < bounds.least[off]!
            ? HELD.lockedOut
            : HELD.collapsed;
      network.hold(off, why);
    }
    return 0;
  }

  /** [V] of each load where the pack is full and nothing is drawn. */
  open(): Float64Array {
    this.put(packWhenFull(this.doc), allOff(this.network.draws));
    return this.network.loadVolts;
  }

  /** What of some loads and stages gets too much then. */
  tooHigh(loads: readonly number[], stages: readonly number[]): Misfit | undefined {
    const { network, doc } = this;
    this.open();
    for (const k of stages) {
      const { inputVolts: volts } = network.points[k]!;
      if (network.held[k] !== HELD.overInput) continue;
      return { why: 'input', stage: doc.stages[k]!.id, volts, stands: network.rails.limits[k]!.maxInput };
    }
    for (const l of loads) {
      const volts = network.loadVolts[l]!;
      if (volts > network.rails.bounds.highs[l]!)
        return { why: 'high', load: doc.loads[l]!.id, volts, stands: doc.loads[l]!.range.max };
    }
    return undefined;
  }

  /** What of some loads gets too little where the cells together stand at `volts`, whatever is drawn. */
  tooLow(volts: number, loads: readonly number[]): Misfit | undefined {
    const { network, doc } = this;
    for (const draws of this.draws) {
      this.put(volts, draws);
      for (const l of loads) {
        const { below, range, id } = doc.loads[l]!;
        const has = network.loadVolts[l]!;
        if (draws.factors[l] === 0 || has >= network.rails.bounds.lows[l]!) continue;
        // What dims takes what it gets.
        if (below === 'dims' && network.loadAmps[l]! > 0) continue;
        const stage = this.culprit(network.rails.ofLoad[l]!);
        return { why: 'low', load: id, volts: has, needs: range.min, ...(stage && { stage }) };
      }
    }
    return undefined;
  }

  /** [A] into and out of a stage at the most where the cells together stand at `volts`. */
  mostThrough(volts: number, stage: number): { input: number; output: number } {
    const found = { input: 0, output: 0 };
    for (const draws of this.draws) {
      this.put(volts, draws);
      const { inputAmps, outputAmps } = this.network.points[stage]!;
      found.input = Math.max(found.input, inputAmps);
      found.output = Math.max(found.output, outputAmps);
    }
    return found;
  }

  /** [A] the most that is drawn where the cells together stand at `volts`. */
  most(volts: number): number {
    return Math.max(...this.draws.map((d) => this.put(volts, d)));
  }

  /** The stage nearest the pack that lets a rail down. */
  private culprit(rail: number): { id: string; mode: Mode } | undefined {
    let found: { id: string; mode: Mode } | undefined;
    const { network, doc } = this;
    for (let at = rail; at > 0; at = network.rails.ofStage[at - 1]!) {
      const { mode } = network.points[at - 1]!;
      if (FAILS[mode]) found = { id: doc.stages[at - 1]!.id, mode: MODES[mode]! };
    }
    return found;
  }
}

/** The loads that a rail feeds, and the stages on the way to it and below it, by their places. */
export function fedBy({ stages, loads }: ThreadDocument, id: string): { loads: number[]; stages: number[] } {
  const above = (from: string): string[] => {
    const stage = stages.find((s) => s.id === from);
    return stage ? [stage.id, ...above(stage.from)] : [];
  };
  const load = loads.findIndex((l) => l.id === id);
  const way = above(load >= 0 ? loads[load]!.from : id);
  const places = (on: (id: string, from: string) => boolean) =>
    stages.flatMap((s, k) => (on(s.id, s.from) ? [k] : []));
  if (load >= 0) return { loads: [load], stages: places((own) => way.includes(own)) };
  const below = new Set([id]);
  for (let n = 0; n < stages.length; n++) for (const s of stages) if (below.has(s.from)) below.add(s.id);
  return {
    loads: loads.flatMap((l, k) => (below.has(l.from) ? [k] : [])),
    stages: places((own) => way.includes(own) || below.has(own)),
  };
}

/**
 * Whether what hangs on a rail stays within what it stands, from the full pack at rest to its cells' end at the heaviest that is drawn: the
 * load's range decides, by the operating points that a run would have. The one rule of whether a rail is held.
 * @param rail id of the stage whose output it is, or of a load on the pack itself
 */
export function railHeld(doc: ThreadDocument, rail: string): RailHeld {
  const at = new AtVolts(doc);
  const { loads, stages } = fedBy(doc, rail);
  const full = packWhenFull(doc);
  const empty = packAtEnd(doc);
  const high = at.tooHigh(loads, stages);
  // Full it is a linear stage that may be too hot to give what it does near the end.
  const first = at.tooLow(full, loads);
  const low = first ?? at.tooLow(empty, loads);
  const holds = (volts: number) => at.tooLow(volts, loads) === undefined;
  const downTo = first ? NaN : low ? halve(empty, full, holds, HALVINGS)[1] : empty;
  const { cell, parallel } = doc.pack;
  const may = cell.dischargeRate * cell.capacityAh;
  const asks = at.most(empty) / parallel;
  const misfit = high ?? low;
  return { full, empty, downTo, asks, may, ...(misfit && { misfit }) };
}

/** [V] the least that all that hangs on a stage's output gets along with, up to what the stage is set to. */
export function leastOn({ stages, loads }: ThreadDocument, { id, outputVolts }: Regulated): number {
  const wanted = [
    ...loads.flatMap((l) => (l.from === id ? [l.range.min] : [])),
    ...stages.flatMap((s) => (s.from === id ? [limitsOf(s).minInput] : [])),
  ];
  return Math.min(outputVolts, wanted.length > 0 ? Math.max(...wanted) : outputVolts);
}

import { MECHANISMS } from '../stages/point.ts';
import type { CellState } from './cellState.ts';

/** What took energy in a run: an element (`cells`, `protection`, a stage's or load's id) by one mechanism. */
export interface LedgerEntry {
  element: string;
  /** `delivered` for loads; `resistance`, `fast branch`, `slow branch`, `own draw` or a stage's mechanism. */
  mechanism: string;
  /** [J] */
  joules: number;
}

/** Where the energy went up to an instant. Every term is computed on its own, none as the remainder. */
export interface Ledger {
  /** [J] in the cells at the start: integral of the OCV over the charge held */
  stored: number;
  /** [J] integral of the OCV over the charge that remains */
  left: number;
  /** [J] held in the branches' capacitances */
  polarisation: number;
  /** [J] to loads while in their range; part of their `delivered` */
  usable: number;
  entries: LedgerEntry[];
  /** |stored − everything else| / stored */
  closure: number;
}

const PER_STAGE = MECHANISMS.length;

/** What stands behind the loads. */
const REST = ['polarisation', 'usable', 'ownDraw'] as const;
const POLARISATION = REST.indexOf('polarisation');
const USABLE = REST.indexOf('usable');
const OWN_DRAW = REST.indexOf('ownDraw');

/** Sums the energies of each step: `stage` notes a step that may still be taken back, `commit` books it. */
export class LedgerSum {
  private readonly sum: Float64Array;
  private readonly staged: Float64Array;
  private readonly inRange: Uint8Array;
  private readonly stored: number;
  // Where each group begins in the two arrays.
  private readonly elements: number;
  private readonly stages: number;
  private readonly loads: number;
  private readonly rest: number;

  constructor(private readonly state: CellState) {
    const { source, tree } = state;
    this.elements = 1 + source.branches.length;
    this.stages = this.elements + source.elements.length;
    this.loads = this.stages + tree.stages.length * PER_STAGE;
    this.rest = this.loads + tree.loads.length;
    this.sum = new Float64Array(this.rest + REST.length);
    this.staged = new Float64Array(this.sum.length);
    this.inRange = new Uint8Array(tree.loads.length).fill(1);
    this.stored = this.energyHeld();
  }

  /** [J] in all cells. */
  private energyHeld(): number {
    const { source, soc } = this.state;
    return source.series * source.parallel * source.charge * this.state.ocvIntegral(soc);
  }

  /** Say which loads are in their range from now on; 1 is in. */
  setRanges(ranges: Uint8Array): void {
    for (let l = 0; l < ranges.length; l++) this.inRange[l] = ranges[l] === 1 ? 1 : 0;
  }

  /** Note the mean step solved last, before its end is solved. @param h [s] */
  stage(h: number): void {
    const { source, tree, cellAmps, stepR0 } = this.state;
    const { staged } = this;
    const count = source.series * source.parallel;
    staged[0] = count * cellAmps * cellAmps * stepR0 * h;
    let stored = 0;
    for (let k = 0; k < source.branches.length; k++) {
      staged[k + 1] = count * this.state.branchHeat(k);
      stored += count * this.state.branchStored(k);
    }
    const path = this.state.packAmps();
    for (let k = 0; k < source.elements.length; k++) {
      staged[this.elements + k] = path * path * source.elements[k]!.ohms * h;
    }
    let at = this.stages;
    for (let k = 0; k < tree.points.length; k++) {
      const { loss } = tree.points[k]!;
      for (let m = 0; m < PER_STAGE; m++) staged[at++] = loss[m]! * h;
    }
    let usable = 0;
    for (let l = 0; l < tree.loads.length; l++) {
      const energy = tree.loadVolts[l]! * tree.loadAmps[l]! * h;
      staged[at++] = energy;
      if (this.inRange[l] === 1) usable += energy;
    }
    staged[at + POLARISATION] = stored;
    staged[at + USABLE] = usable;
    staged[at + OWN_DRAW] = (this.state.volts + source.seriesOhms * path) * source.quiescent * h;
  }

  /** Book what was staged last. */
  commit(): void {
    for (let k = 0; k < this.sum.length; k++) this.sum[k]! += this.staged[k]!;
  }

  /** The account at this instant. */
  close(): Ledger {
    const { source, tree } = this.state;
    const entries: LedgerEntry[] = [];
    const put = (element: string, mechanism: string, joules: number) => {
      if (joules !== 0) entries.push({ element, mechanism, joules });
    };
    const { sum } = this;
    tree.loads.forEach((load, l) => put(load.id, 'delivered', sum[this.loads + l]!));
    put('cells', 'resistance', sum[0]!);
    source.branches.forEach((_, k) => put('cells', k === 0 ? 'fast branch' : 'slow branch', sum[k + 1]!));
    source.elements.forEach((e, k) => put(e.id, 'resistance', sum[this.elements + k]!));
    put('protection', 'own draw', sum[this.rest + OWN_DRAW]!);
    tree.stages.forEach((stage, k) =>
      MECHANISMS.forEach((name, m) => put(stage.id, name, sum[this.stages + k * PER_STAGE + m]!)),
    );
    const polarisation = sum[this.rest + POLARISATION]!;
    const usable = sum[this.rest + USABLE]!;
    const left = this.energyHeld();
    const spent = entries.reduce((total, e) => total + e.joules, 0) + polarisation + left;
    const closure = this.stored > 0 ? Math.abs(this.stored - spent) / this.stored : 0;
    const { stored } = this;
    return { stored, left, polarisation, usable, entries, closure };
  }
}

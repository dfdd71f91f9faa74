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

/** Sums the energies of each step. */
export class LedgerSum {
  private readonly cells: Float64Array;
  private readonly elements: Float64Array;
  private readonly stageLoss: Float64Array;
  private readonly delivered: Float64Array;
  private polarisation = 0;
  private usable = 0;
  private ownDraw = 0;
  private readonly stored: number;

  constructor(private readonly state: CellState) {
    const { source, tree } = state;
    this.cells = new Float64Array(1 + source.branches.length);
    this.elements = new Float64Array(source.elements.length);
    this.stageLoss = new Float64Array(tree.stages.length * PER_STAGE);
    this.delivered = new Float64Array(tree.loads.length);
    this.stored = this.energyHeld();
  }

  /** [J] in all cells. */
  private energyHeld(): number {
    const { source, soc } = this.state;
    return source.series * source.parallel * source.charge * this.state.ocvIntegral(soc);
  }

  /** Add the step solved last. @param h [s] @param inRange for each load whether it is in its range */
  add(h: number, inRange: Uint8Array): void {
    const { source, tree, cellAmps, stepR0 } = this.state;
    const count = source.series * source.parallel;
    this.cells[0]! += count * cellAmps * cellAmps * stepR0 * h;
    for (let k = 0; k < source.branches.length; k++) {
      this.cells[k + 1]! += count * this.state.branchHeat(k);
      this.polarisation += count * this.state.branchStored(k);
    }
    const path = this.state.packAmps();
    for (let k = 0; k < this.elements.length; k++) {
      this.elements[k]! += path * path * source.elements[k]!.ohms * h;
    }
    this.ownDraw += (this.state.volts + source.seriesOhms * path) * source.quiescent * h;
    for (let k = 0; k < tree.points.length; k++) {
      const { loss } = tree.points[k]!;
      for (let m = 0; m < PER_STAGE; m++) this.stageLoss[k * PER_STAGE + m]! += loss[m]! * h;
    }
    for (let l = 0; l < this.delivered.length; l++) {
      const energy = tree.loadVolts[l]! * tree.loadAmps[l]! * h;
      this.delivered[l]! += energy;
      if (inRange[l]) this.usable += energy;
    }
  }

  /** The account at this instant. */
  close(): Ledger {
    const { source, tree } = this.state;
    const entries: LedgerEntry[] = [];
    const put = (element: string, mechanism: string, joules: number) => {
      if (joules !== 0) entries.push({ element, mechanism, joules });
    };
    tree.loads.forEach((load, l) => put(load.id, 'delivered', this.delivered[l]!));
    put('cells', 'resistance', this.cells[0]!);
    ['fast branch', 'slow branch'].forEach((name, k) => put('cells', name, this.cells[k + 1] ?? 0));
    source.elements.forEach((e, k) => put(e.id, 'resistance', this.elements[k]!));
    put('protection', 'own draw', this.ownDraw);
    tree.stages.forEach((stage, k) =>
      MECHANISMS.forEach((name, m) => put(stage.id, name, this.stageLoss[k * PER_STAGE + m]!)),
    );
    const left = this.energyHeld();
    const spent = entries.reduce((sum, e) => sum + e.joules, 0) + this.polarisation + left;
    const closure = this.stored > 0 ? Math.abs(this.stored - spent) / this.stored : 0;
    const { stored, polarisation, usable } = this;
    return { stored, left, polarisation, usable, entries, closure };
  }
}

import { LOOK } from '../plant/cellTable.ts';
import type { Plant } from '../plant/compile.ts';
import { loadAt, LOAD_COLUMN, lossAt, PER_LOAD, STAGE_COLUMN, stageAt } from '../plant/layout.ts';
import { MECHANISMS } from '../stages/point.ts';
import { pathAmps, type CellState } from './state.ts';
import type { Node, Step } from './step.ts';

/** What took energy in a run: an element (`cells`, `protection`, a stage's or load's id) by one mechanism. */
export interface LedgerEntry {
  element: string;
  /**
   * `delivered` for loads; `resistance`, `fast branch`, `slow branch`, `self-discharge`, `own draw` or a stage's
   * mechanism
   */
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
  /** [J] put into the branches' capacitances: ∫ v·(i − v/R) dt */
  polarisation: number;
  /** [J] to loads while in their range; part of their `delivered` */
  usable: number;
  entries: LedgerEntry[];
  /** [J] into each stage, by its id */
  intake: Record<string, number>;
  /** |stored − everything else| / stored */
  closure: number;
}

/** What stands behind the elements. */
const REST = ['polarisation', 'usable', 'ownDraw', 'selfDischarge'] as const;
const POLARISATION = 0;
const USABLE = 1;
const OWN_DRAW = 2;
const SELF_DISCHARGE = 3;

/** Sums the energies of steps, node by node. */
export class LedgerSum {
  /** [J] heat of R0 and of each branch in one cell, then of each series element, then the rest */
  private readonly sum: Float64Array;
  /** [J] integrals of the path's columns, by column: losses and loads are among them */
  private readonly columns: Float64Array;
  private readonly inRange: Uint8Array;
  private readonly stored: number;
  // Where each group begins.
  private readonly elements: number;
  private readonly rest: number;

  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
  ) {
    const { pack, path } = plant;
    this.elements = 1 + pack.cell.branches;
    this.rest = this.elements + pack.elements.length;
    this.sum = new Float64Array(this.rest + REST.length);
    this.columns = new Float64Array(path.columns.length);
    this.inRange = new Uint8Array(path.loads.length).fill(1);
    this.stored = this.energyHeld();
  }

  /** [J] in all cells. */
  private energyHeld(): number {
    const { series, parallel, charge, cell } = this.plant.pack;
    return series * parallel * charge * cell.area(this.state.soc);
  }

  /** Say whether a load is in its range from now on. */
  setRange(load: number, inRange: boolean): void {
    this.inRange[load] = inRange ? 1 : 0;
  }

  /** Book one node of a step, half of its time. */
  book(step: Step, node: Node): void {
    const { pack, path } = this.plant;
    const { sum } = this;
    const { volts, amps, looked, branches, columns } = node;
    const half = step.h / 2;
    const cells = pack.series * pack.parallel * half;
    sum[0]! += cells * amps * amps * looked[LOOK.r0]!;
    let kept = 0;
    for (let k = 0; k < branches.length; k++) {
      const ohms = looked[LOOK.branches + k]!;
      if (!(ohms > 0)) continue;
      const v = branches[k]!;
      sum[1 + k]! += (cells * v * v) / ohms;
      kept += cells * v * (amps - v / ohms);
    }
    const into = pathAmps(pack, amps);
    for (let k = this.elements; k < this.rest; k++) {
      sum[k]! += half * into * into * pack.elements[k - this.elements]!.ohms;
    }
    const integral = this.columns;
    for (let c = 0; c < integral.length; c++) integral[c]! += half * columns[c]!;
    let usable = 0;
    const first = loadAt(path.stages.length, 0) + LOAD_COLUMN.watts;
    for (let l = 0; l < this.inRange.length; l++) {
      if (this.inRange[l] === 1) usable += columns[first + l * PER_LOAD]!;
    }
    const at = this.rest;
    sum[at + POLARISATION]! += kept;
    sum[at + USABLE]! += half * usable;
    sum[at + OWN_DRAW]! += half * (volts + pack.seriesOhms * into) * pack.quiescent;
    const lost = pack.selfDischarge * pack.charge * (node.soc > 0 ? node.soc : 0);
    sum[at + SELF_DISCHARGE]! += cells * node.ocv * lost;
  }

  /** The account at this instant. */
  close(): Ledger {
    const { pack, path } = this.plant;
    const entries: LedgerEntry[] = [];
    const put = (element: string, mechanism: string, joules: number) => {
      if (joules !== 0) entries.push({ element, mechanism, joules });
    };
    const { sum, columns } = this;
    path.loads.forEach((load, l) => {
      put(load.id, 'delivered', columns[loadAt(path.stages.length, l) + LOAD_COLUMN.watts]!);
    });
    put('cells', 'resistance', sum[0]!);
    for (let k = 0; k < pack.cell.branches; k++) {
      put('cells', k === 0 ? 'fast branch' : 'slow branch', sum[k + 1]!);
    }
    put('cells', 'self-discharge', sum[this.rest + SELF_DISCHARGE]!);
    pack.elements.forEach((e, k) => put(e.id, 'resistance', sum[this.elements + k]!));
    put('protection', 'own draw', sum[this.rest + OWN_DRAW]!);
    path.stages.forEach((stage, k) =>
      MECHANISMS.forEach((name, m) =>
        put(stage.id, name, columns[lossAt(path.stages.length, path.loads.length, k) + m]!),
      ),
    );
    const polarisation = sum[this.rest + POLARISATION]!;
    const usable = sum[this.rest + USABLE]!;
    const left = this.energyHeld();
    const spent = entries.reduce((total, e) => total + e.joules, 0) + polarisation + left;
    const closure = this.stored > 0 ? Math.abs(this.stored - spent) / this.stored : 0;
    const intake = Object.fromEntries(
      path.stages.map((s, k) => [s.id, columns[stageAt(k) + STAGE_COLUMN.inputWatts]!]),
    );
    return { stored: this.stored, left, polarisation, usable, entries, intake, closure };
  }
}

import { descend, highestRoot, type RootStatus } from '../../numeric/root.ts';
import { LOOK } from '../../plant/cellTable.ts';
import type { Plant } from '../../plant/compile.ts';
import { cellAmps, lookAt, type CellState } from './state.ts';

/** Share of the open-circuit voltage below which no operating point is looked for. */
const FLOOR = 0.02;
/** Relative tolerance on the pack's volts where an instant is searched for. */
const SEARCH = 1e-11;
/** |f| [relative to the open voltage] on both sides of a bracket that counts as a jump. */
const JUMP = 1e-8;
/** Newton steps before a search takes over; two are the rule. */
const NEWTON = 8;
/** Slope of source less demand, less steep than which Newton is not trusted: the nose is near. */
const FLAT = -1e-2;

/** How an instant was solved. `none`: the pack cannot meet the demand. */
export interface Found {
  status: RootStatus;
  /** [V] */
  volts: number;
}

/**
 * Operating point of cells, series resistance and path at an instant: the highest V with
 * E(z) − Σv − R0·I, times the cells in series, − Rs·I = V. Newton on the chart follows the branch; where it strays the
 * whole range is searched exactly, from the top.
 */
export class Instant {
  /** [V] [Ω] of the pack as a source, at the state prepared last */
  open = 0;
  ohms = 0;
  /** [V] OCV of one cell there */
  ocv = 0;
  private readonly looked: Float64Array;

  /** @param asked [A] of the path, by searches that stray over the whole range */
  constructor(
    private readonly plant: Plant,
    private readonly asked: { demand(volts: number): number } = plant.path,
  ) {
    this.looked = plant.pack.cell.room();
  }

  /** Set the source: no current limit, only E and R. @param slow see `CellState` */
  prepare(soc: number, slow: Float64Array): void {
    const { pack } = this.plant;
    lookAt(pack, soc, slow, this.looked);
    const r0 = this.looked[LOOK.r0]!;
    let cell = this.looked[LOOK.ocv]! - this.ownDrop(r0);
    for (let k = 0; k < pack.cell.branches; k++) cell -= slow[k]!;
    this.set(cell, r0);
  }

  /** [V] of one cell by what is taken of it at all times. */
  private ownDrop(ohms: number): number {
    const { pack } = this.plant;
    return (ohms * pack.quiescent) / pack.parallel;
  }

  /** @param volts [V] of one cell without the path @param ohms [Ω] of it */
  private set(volts: number, ohms: number): void {
    const { pack } = this.plant;
    this.ocv = this.looked[LOOK.ocv]!;
    this.open = pack.series * volts;
    this.ohms = (pack.series * ohms) / pack.parallel + pack.seriesOhms;
  }

  /**
   * Newton from a point near the root; the path is left evaluated there. Not bounded by the open voltage: a source on
   * the path's side would lift the root above it.
   * @param tolerance relative @returns [V], NaN where it strays
   */
  newton(near: number, tolerance: number): number {
    const { open, ohms } = this;
    const { path } = this.plant;
    const small = tolerance * open;
    let v = near > 0 ? near : open;
    for (let n = 0; n < NEWTON; n++) {
      if (!(v > FLOOR * open)) return NaN;
      path.evaluate(v);
      const f = open - ohms * path.amps - v;
      if (Math.abs(f) <= small) return v;
      const slope = -ohms * path.slope - 1;
      if (!(slope < FLAT)) return NaN;
      v = path.onTheWay(v, v - f / slope);
    }
    return NaN;
  }

  /** The state's operating point by every search there is. @param near [V]; NaN: from the top */
  search(state: CellState, near: number): Found {
    this.prepare(state.soc, state.slow);
    return this.find(near);
  }

  /** The same, and leave the state and the path there. */
  solve(state: CellState, near: number): Found {
    return this.leave(state, this.search(state, near));
  }

  private leave(state: CellState, found: Found): Found {
    this.plant.path.evaluate(found.volts);
    state.volts = found.volts;
    state.amps = cellAmps(this.plant.pack, this.plant.path.amps);
    return found;
  }

  /**
   * The operating point with every branch settled at what flows: as so many ohms more. The state and the path are left there, but for
   * the branches. @param looked the cell's curves are left in it
   */
  solveSettled(state: CellState, near: number, looked: Float64Array): Found {
    const { pack } = this.plant;
    lookAt(pack, state.soc, state.slow, this.looked);
    let ohms = this.looked[LOOK.r0]!;
    for (let k = 0; k < pack.cell.branches; k++) ohms += this.looked[LOOK.branches + k]!;
    this.set(this.looked[LOOK.ocv]! - this.ownDrop(ohms), ohms);
    looked.set(this.looked);
    return this.leave(state, this.find(near));
  }

  /** Source less demand at V, exactly. */
  excess(volts: number): number {
    return this.open - this.ohms * this.asked.demand(volts) - volts;
  }

  private find(near: number): Found {
    if (near > 0) {
      const volts = this.newton(near, SEARCH);
      if (!Number.isNaN(volts)) return { status: 'converged', volts };
    }
    // What feeds the path may lift it above the cells' own.
    const open = Math.max(this.open, 1e-6, this.plant.charger?.ceiling ?? 0);
    // Made here: one that lives with the run keeps all of it from being cleared away early.
    const excess = (volts: number) => this.excess(volts);
    const fast = descend(excess, FLOOR * open, open, open, SEARCH * open);
    if (!Number.isNaN(fast)) return { status: 'converged', volts: fast };
    const root = highestRoot(excess, FLOOR * open, open, SEARCH * open, JUMP * open);
    if (root.status !== 'jump') return { status: root.status, volts: root.x };
    // The chart bridges it: one hunts there.
    const between = this.newton(root.x, SEARCH);
    return Number.isNaN(between)
      ? { status: 'jump', volts: root.x }
      : { status: 'converged', volts: between };
  }
}

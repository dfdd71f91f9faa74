import { CHARGE_COLUMN, chargerAt } from '../../plant/chargerLayout.ts';
import { floats } from '../../numeric/floats.ts';
import { LOOK } from '../../plant/cellTable.ts';
import type { Plant } from '../../plant/compile.ts';
import { POINTS } from '../../plant/fit.ts';
import { DELIVERED, loadAt, LOAD_COLUMN, lossAt, STAGE_COLUMN, stageAt } from '../../plant/layout.ts';
import type { Path } from '../../plant/path.ts';
import type { Piece } from '../../plant/piece.ts';
import { RANGE, rangeIn } from '../../plant/railState.ts';
import { MECHANISMS } from '../../stages/point.ts';
import { areaAt, fullerAt, pathAmps, type CellState } from '../step/state.ts';
import type { Node } from '../step/node.ts';
import type { Step } from '../step/step.ts';

/** What took energy in a run: an element (`cells`, `protection`, a stage's or load's id) by one mechanism. */
export interface LedgerEntry {
  element: string;
  /**
   * `delivered` for loads; `resistance`, `fast branch`, `slow branch`, `self-discharge`, `between cells`, `own draw` or a stage's
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
  /** [J] that the cells came to hold more as they warmed, less as they cooled; of cells that warm themselves */
  warmed?: number;
  /** [J] from the wall or from an ideal source, while the pack is charged */
  supplied?: number;
  /** [C] out of the charger meanwhile */
  charged?: number;
  /** [J] to loads while in their range; part of their `delivered` */
  usable: number;
  entries: LedgerEntry[];
  /** [J] into each stage, by its id */
  intake: Record<string, number>;
  /** |stored − everything else| / stored */
  closure: number;
}

/** What stands behind the elements. */
const REST = ['polarisation', 'ownDraw', 'selfDischarge', 'warmed', 'between', 'bled'] as const;
const POLARISATION = 0;
const OWN_DRAW = 1;
const SELF_DISCHARGE = 2;
const WARMED = 3;
const BETWEEN = 4;
const BLED = 5;

/** Elements on the way from the source to the pack; no stage or load can have such an id. */
export const CHARGE = {
  source: 'charge:source',
  cable: 'charge:cable',
  charger: 'charge:charger',
  diode: 'charge:diode',
  path: 'charge:path',
} as const;

const ASTRAY = [
  [CHARGE.source, 'conversion', CHARGE_COLUMN.wallLoss],
  [CHARGE.source, 'resistance', CHARGE_COLUMN.droopLoss],
  [CHARGE.cable, 'resistance', CHARGE_COLUMN.cableLoss],
  [CHARGE.diode, 'rectifier', CHARGE_COLUMN.diodeLoss],
  [CHARGE.path, 'resistance', CHARGE_COLUMN.pathLoss],
] as const;

/** Numbers kept for each mode. */
const MODE_SUMS = 3;

/** What a piece of the chart has carried: ∫ t^k dt over the places t it was passed at, one for each power. [s] */
interface Share {
  piece: Piece;
  moments: Float64Array;
}

/** What the path does at some volts, past its chart. */
export interface Exactly {
  columns: Float64Array;
  /** [W] to loads in their range */
  usable: number;
}

/** Read what the path does at some volts, past its chart. @param into overwritten; a new one where none is given */
export function readExactly(
  path: Path,
  volts: number,
  into: Exactly = { columns: floats(path.columns.length), usable: 0 },
): Exactly {
  path.readExactly(volts);
  into.columns.set(path.columns);
  into.usable = 0;
  path.loads.forEach((_, l) => {
    if (path.rangeOf(l) === RANGE.in) into.usable += path.columns[wattsOf(path, l)]!;
  });
  return into;
}

/** Column of what a load takes. */
function wattsOf({ stages }: Path, load: number): number {
  return loadAt(stages.length, load) + LOAD_COLUMN.watts;
}

/**
 * Sums the energies of steps, node by node. What the path does is a polynomial of the volts within a piece of its chart:
 * a few moments of the time spent there give every column's integral at the end, however many columns there are.
 */
export class LedgerSum {
  /** [J] heat of R0 and of each branch in one cell, then of each series element, then the rest */
  private readonly sum: Float64Array;
  /** [J] that each branch of all cells keeps of the step booked last, by its nodes */
  private readonly kept: Float64Array;
  private readonly shares = new Map<Piece, Share>();
  private last: Share | undefined;
  /** [J] integrals of the path's columns where its chart has no piece, and the part of what is delivered in range */
  private readonly exact: Float64Array;
  private usableExact = 0;
  /** what was read at the nodes of the step under way */
  private readonly exactly: readonly [Exactly, Exactly];
  /** how often each step counts: cycles of a programme that are skipped are booked by a few of them */
  weight = 1;
  /** index of the mode the loads are in */
  mode = 0;
  /** [J] into the path so far */
  joules = 0;
  /** [s], [J] into the path and [J] to the loads in each mode, one after the other */
  private readonly modes: Float64Array;
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
    this.sum = floats(this.rest + REST.length);
    this.exact = floats(path.columns.length);
    const exactly = (): Exactly => ({ columns: floats(path.columns.length), usable: 0 });
    this.exactly = [exactly(), exactly()];
    this.kept = new Float64Array(pack.cell.branches);
    // A steady run is in none of them.
    const { programme, modes } = plant.doc;
    this.modes = new Float64Array(programme && modes ? MODE_SUMS * modes.length : 0);
    this.stored = this.energyHeld();
  }

  /** [J] in all cells. */
  private energyHeld(): number {
    const { series, parallel } = this.plant.pack;
    return series * parallel * this.state.charge * this.area();
  }

  /** [V] integral of the OCV over the charge held at the state. */
  private area(): number {
    const { state, plant } = this;
    return areaAt(plant.pack, state.soc, state.slow[fullerAt(plant.pack)]!);
  }

  /**
   * Book a step, before the state moves to its end.
   * @param sudden whether its branches have moved before the first of its nodes
   * @returns false where reading what no piece of the chart says took the last of what a run may take: nothing is booked
   */
  book(step: Step, sudden = false): boolean {
    if (this.weight === 0) return true;
    this.kept.fill(0);
    const [one, two] = step.nodes;
    // Once all is spent, what is read is nothing that the path does: everything is read before anything is booked.
    if (!one.piece) readExactly(this.plant.path, one.volts, this.exactly[0]);
    if (!two.piece) readExactly(this.plant.path, two.volts, this.exactly[1]);
    if ((!one.piece || !two.piece) && this.plant.path.network.spent) return false;
    this.warm(step.charge);
    this.bookNode(step, one, this.exactly[0]);
    this.bookNode(step, two, this.exactly[1]);
    if (sudden) this.bookKept(step);
    return true;
  }

  /** What the cells hold more, or less, at the same state of charge as they warm or cool. @param charge [C] one cell now */
  warm(charge: number): void {
    const { plant, state, sum } = this;
    if (charge === state.charge) return;
    const { series, parallel } = plant.pack;
    const cells = this.weight * series * parallel;
    sum[this.rest + WARMED]! += cells * (charge - state.charge) * this.area();
    state.charge = charge;
  }

  /** What the capacitance of a branch has given up to its resistance while nothing was drawn. [J] of one cell */
  relax(branch: number, joules: number): void {
    const { pack } = this.plant;
    const all = this.weight * pack.series * pack.parallel * joules;
    this.sum[1 + branch]! += all;
    this.sum[this.rest + POLARISATION]! -= all;
  }

  /** What has gone to heat between unlike cells that came level at rest. @param from, to by how much odd ones are fuller */
  level(from: number, to: number): void {
    const { plant, state } = this;
    const { pack } = plant;
    const lost = areaAt(pack, state.soc, from) - areaAt(pack, state.soc, to);
    this.sum[this.rest + BETWEEN]! += this.weight * pack.series * pack.parallel * state.charge * lost;
  }

  /** What a board has bled off a group. [J] */
  bleed(joules: number): void {
    this.sum[this.rest + BLED]! += joules;
  }

  /** So many seconds around an instant that is looked up. @param charge [C] one cell holds there */
  bookInstant(node: Node, charge: number, seconds: number, exactly: Exactly | undefined): void {
    this.bookNode({ h: 2 * seconds, charge }, node, exactly ?? this.exactly[0]);
  }

  /** Half of a step's time at one of its nodes. @param exactly what was read there, where no piece says it */
  private bookNode(step: { h: number; charge: number }, node: Node, exactly: Exactly): void {
    const { weight } = this;
    const { pack } = this.plant;
    const { sum } = this;
    const { volts, amps, looked, branches, piece, share } = node;
    const half = (weight * step.h) / 2;
    const cells = pack.series * pack.parallel * half;
    sum[0]! += cells * amps * amps * looked[LOOK.r0]!;
    let kept = 0;
    for (let k = 0; k < branches.length; k++) {
      const ohms = looked[LOOK.branches + k]!;
      if (!(ohms > 0)) continue;
      const v = branches[k]!;
      const own = cells * v * (amps - v / ohms);
      sum[1 + k]! += (cells * v * v) / ohms;
      this.kept[k]! += own;
      kept += own;
    }
    const into = pathAmps(pack, amps);
    for (let k = this.elements; k < this.rest; k++) {
      sum[k]! += half * into * into * pack.elements[k - this.elements]!.ohms;
    }
    const { modes } = this;
    this.joules += half * volts * into;
    if (modes.length > 0) {
      const at = MODE_SUMS * this.mode;
      modes[at]! += half;
      modes[at + 1]! += half * volts * into;
      modes[at + 2]! += half * (piece ? piece.leading(DELIVERED, volts) : exactly.columns[DELIVERED]!);
    }
    if (piece) this.bookPiece(piece, piece.place(volts), half);
    else this.bookExactly(exactly, share * half);
    const at = this.rest;
    sum[at + POLARISATION]! += kept;
    sum[at + OWN_DRAW]! += half * (volts + pack.seriesOhms * into) * pack.quiescent;
    const lost = pack.selfDischarge * step.charge * (node.soc > 0 ? node.soc : 0);
    sum[at + SELF_DISCHARGE]! += cells * (node.ocv + node.leak) * lost;
    sum[at + BETWEEN]! += cells * node.between;
  }

  /**
   * Of what a branch has taken, the part that its capacitance keeps, where it has moved before the first node: ½·C·v² with C
   * as in the middle of the step, in the place of what the nodes say. Only behind a slight jump: over a whole run C moves.
   */
  private bookKept({ end, capacitances }: Step): void {
    const { sum, state, plant } = this;
    const cells = this.weight * plant.pack.series * plant.pack.parallel;
    for (let k = 0; k < capacitances.length; k++) {
      const from = state.slow[k]!;
      const to = end.slow[k]!;
      const more = (cells * capacitances[k]! * (to - from) * (to + from)) / 2 - this.kept[k]!;
      sum[1 + k]! -= more;
      sum[this.rest + POLARISATION]! += more;
    }
  }

  /** @param t −1…1, the place in the piece @param seconds spent there */
  private bookPiece(piece: Piece, t: number, seconds: number): void {
    const { moments } = this.last?.piece === piece ? this.last : this.shareOf(piece);
    let power = seconds;
    for (let k = 0; k < POINTS; k++) {
      moments[k]! += power;
      power *= t;
    }
  }

  private shareOf(piece: Piece): Share {
    let share = this.shares.get(piece);
    if (!share) this.shares.set(piece, (share = { piece, moments: new Float64Array(POINTS) }));
    return (this.last = share);
  }

  private bookExactly({ columns, usable }: Exactly, seconds: number): void {
    const { exact } = this;
    for (let c = 0; c < exact.length; c++) exact[c]! += seconds * columns[c]!;
    this.usableExact += seconds * usable;
  }

  /** [J] integrals of all columns of the path, and the part of what is delivered in range. */
  private integrals(): { columns: Float64Array; usable: number } {
    const { path } = this.plant;
    const n = this.exact.length;
    const columns = floats(n);
    columns.set(this.exact);
    let usable = this.usableExact;
    for (const { piece, moments } of this.shares.values()) {
      const { values, grid, state } = piece;
      const weights = grid.weights(moments);
      for (let k = 0, at = 0; k < grid.points; k++) {
        const weight = weights[k]!;
        for (let c = 0; c < n; c++) columns[c]! += weight * values[at++]!;
      }
      for (let l = 0; l < path.loads.length; l++) {
        if (rangeIn(state.signature, path.stages.length, l) !== RANGE.in) continue;
        const watts = wattsOf(path, l);
        for (let k = 0; k < grid.points; k++) usable += weights[k]! * values[k * n + watts]!;
      }
    }
    return { columns, usable };
  }

  /** What each mode has had up to this instant; nothing of a thread without modes. */
  byMode(): { seconds: number; joules: number; delivered: number }[] {
    const { modes } = this;
    return Array.from({ length: modes.length / MODE_SUMS }, (_, k) => {
      const at = k * MODE_SUMS;
      return { seconds: modes[at]!, joules: modes[at + 1]!, delivered: modes[at + 2]! };
    });
  }

  /** The account at this instant. */
  close(): Ledger {
    const { pack, path } = this.plant;
    const entries: LedgerEntry[] = [];
    const put = (element: string, mechanism: string, joules: number) => {
      if (joules !== 0) entries.push({ element, mechanism, joules });
    };
    const { sum } = this;
    const { columns, usable } = this.integrals();
    path.loads.forEach((load, l) => put(load.id, 'delivered', columns[wattsOf(path, l)]!));
    put('cells', 'resistance', sum[0]!);
    for (let k = 0; k < pack.cell.branches; k++) {
      put('cells', k === 0 ? 'fast branch' : 'slow branch', sum[k + 1]!);
    }
    put('cells', 'self-discharge', sum[this.rest + SELF_DISCHARGE]!);
    put('cells', 'between cells', sum[this.rest + BETWEEN]!);
    pack.elements.forEach((e, k) => put(e.id, 'resistance', sum[this.elements + k]!));
    put('protection', 'balance', sum[this.rest + BLED]!);
    for (const { element, share } of pack.alwaysOn)
      put(element, 'own draw', share * sum[this.rest + OWN_DRAW]!);
    path.stages.forEach((stage, k) =>
      MECHANISMS.forEach((name, m) =>
        put(stage.id, name, columns[lossAt(path.stages.length, path.loads.length, k) + m]!),
      ),
    );
    const supplied = this.charged(columns, put);
    const polarisation = sum[this.rest + POLARISATION]!;
    const left = this.energyHeld();
    const spent = entries.reduce((total, e) => total + e.joules, 0) + polarisation + left;
    const warmed = sum[this.rest + WARMED]!;
    const given = this.stored + supplied;
    const closure = given > 0 ? Math.abs(given + warmed - spent) / given : 0;
    const intake = Object.fromEntries(
      path.stages.map((s, k) => [s.id, columns[stageAt(k) + STAGE_COLUMN.inputWatts]!]),
    );
    const warm = pack.warmth ? { warmed } : {};
    const fed = this.plant.charger ? { supplied, charged: this.chargeGiven(columns) } : {};
    return { stored: this.stored, left, polarisation, usable, entries, intake, closure, ...warm, ...fed };
  }

  /** [C] the charger has given. */
  private chargeGiven(columns: Float64Array): number {
    const { path } = this.plant;
    return columns[chargerAt(path.stages.length, path.loads.length) + CHARGE_COLUMN.outAmps]!;
  }

  /** What went astray on the way to the pack. @returns [J] that came from the source */
  private charged(
    columns: Float64Array,
    put: (element: string, mechanism: string, joules: number) => void,
  ): number {
    const { path, charger } = this.plant;
    if (!charger) return 0;
    const at = chargerAt(path.stages.length, path.loads.length);
    for (const [element, mechanism, column] of ASTRAY) put(element, mechanism, columns[at + column]!);
    MECHANISMS.forEach((name, m) => put(CHARGE.charger, name, columns[at + CHARGE_COLUMN.losses + m]!));
    return columns[at + CHARGE_COLUMN.supplied]!;
  }
}

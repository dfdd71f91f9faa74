import { floats } from '../../numeric/floats.ts';
import { LOOK } from '../../plant/cellTable.ts';
import type { Plant } from '../../plant/compile.ts';
import { DELIVERED } from '../../plant/layout.ts';
import type { Node } from '../step/node.ts';
import { areaAt, fullerAt, pathAmps, type CellState } from '../step/state.ts';
import type { Step } from '../step/step.ts';
import { accountOf, REST, RESTS, type Ledger } from './account.ts';
import { PathSums, readExactly, type Exactly } from './pathSums.ts';

/** Numbers kept for each mode. */
const MODE_SUMS = 3;

/**
 * Sums the energies of steps, node by node.
 */
export class LedgerSum {
  /** [J] heat of R0 and of each branch in one cell, then of each series element, then the rest */
  private readonly sum: Float64Array;
  /** [J] that each branch of all cells keeps of the step booked last, by its nodes */
  private readonly kept: Float64Array;
  /** [J] of all that the path's columns say */
  private readonly ofPath: PathSums;
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
    this.sum = floats(this.rest + RESTS);
    this.ofPath = new PathSums(path);
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
    if ((!one.piece || !two.piece) && this.plant.path.network.effort.spent) return false;
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
    sum[this.rest + REST.warmed]! += cells * (charge - state.charge) * this.area();
    state.charge = charge;
  }

  /** What the capacitance of a branch has given up to its resistance while nothing was drawn. [J] of one cell */
  relax(branch: number, joules: number): void {
    const { pack } = this.plant;
    const all = this.weight * pack.series * pack.parallel * joules;
    this.sum[1 + branch]! += all;
    this.sum[this.rest + REST.polarisation]! -= all;
  }

  /** What has gone to heat between unlike cells that came level at rest. @param from, to by how much odd ones are fuller */
  level(from: number, to: number): void {
    const { plant, state } = this;
    const { pack } = plant;
    const lost = areaAt(pack, state.soc, from) - areaAt(pack, state.soc, to);
    this.sum[this.rest + REST.between]! += this.weight * pack.series * pack.parallel * state.charge * lost;
  }

  /** What a board has bled off a group. [J] */
  bleed(joules: number): void {
    this.sum[this.rest + REST.bled]! += joules;
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
    if (piece) this.ofPath.bookPiece(piece, piece.place(volts), half);
    else this.ofPath.bookExactly(exactly, share * half);
    const at = this.rest;
    sum[at + REST.polarisation]! += kept;
    sum[at + REST.ownDraw]! += half * (volts + pack.seriesOhms * into) * pack.quiescent;
    const lost = pack.selfDischarge * step.charge * (node.soc > 0 ? node.soc : 0);
    sum[at + REST.selfDischarge]! += cells * (node.ocv + node.leak) * lost;
    sum[at + REST.between]! += cells * node.between;
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
      sum[this.rest + REST.polarisation]! += more;
    }
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
    const { plant, stored, sum } = this;
    return accountOf(plant, { stored, sum, left: this.energyHeld(), ...this.ofPath.integrals() });
  }
}

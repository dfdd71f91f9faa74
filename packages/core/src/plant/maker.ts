import { floats } from '../numeric/floats.ts';
import { EDGE, edge, same } from './edge.ts';
import { FEW, NODES, POINTS, TRIALS, type Grid } from './fit.ts';
import { Piece, placeIn, type PieceState } from './piece.ts';
import type { Sampled } from './sampled.ts';

/** Relative error of a fit, of the power in a row, or of a column's own value. Rows and ledgers rest on it. */
const NEAR = 3e-10;
/** Width of the first piece tried, of the widest and of the narrowest [relative to the volts]. */
const FIRST = 0.3;
const WIDEST = 0.6;
const NARROWEST = 1e-3;
/** Share of a new piece that lies below the volts asked for: packs fall. */
const BELOW = 0.9;
/** Narrower than this a stretch between two edges is kept by the power it has in its middle. */
const SLIVER = 1e-10;
/** Relative width of the way across a jump, and the least jump of the current that is worth one. */
const RAMP = 1e-7;
const JUMP = 1e-6;
/** Edges and shorter tries before a stretch is left exact. */
const ROUNDS = 200;

/** Whether two neighbours lie so close that only a jump is between them. */
export function meet(lower: Piece, upper: Piece): boolean {
  return upper.lo - lower.hi <= RAMP * upper.lo;
}

/** Makes the pieces of a chart: finds how far one reaches, and what holds in it. */
export class PieceMaker {
  samples = 0;
  private readonly bends: readonly number[];
  private readonly states: PieceState[] = [];
  private events = 0;
  private width = FIRST;
  /** rows of the nodes sampled, and one more */
  private readonly rows: readonly Float64Array[];
  private readonly spare: Float64Array;
  private readonly said: Float64Array;
  private readonly has = new Uint8Array(POINTS);
  // Of the piece being made: [V] it must hold at, its ends, and the state it has.
  private volts = 0;
  private lo = 0;
  private hi = 0;
  private readonly state: Int32Array;
  /** which of its ends are where its state ends */
  private readonly cut = { below: false, above: false };
  /** whether an end has moved to an edge */
  private moved = false;

  constructor(private readonly of: Sampled) {
    this.bends = of.bends();
    this.rows = NODES.map(() => floats(of.columns));
    this.spare = floats(of.columns);
    this.said = floats(of.columns);
    this.state = of.signature.slice();
  }

  /**
   * A piece around `volts` between its neighbours; undefined where none holds: then `tried` says which stretch was
   * tried last.
   */
  make(volts: number, below?: Piece, above?: Piece): Piece | undefined {
    this.volts = volts;
    this.reach(below, above);
    if (this.narrow()) return this.sliver();
    this.samples++;
    this.of.look(volts);
    this.state.set(this.of.signature);
    this.has.fill(0);
    for (let round = 0; this.hi - this.lo > EDGE * volts && round < ROUNDS; round++) {
      this.moved = false;
      const grid = this.fitting();
      if (grid) return this.keep(grid);
      if (this.moved) {
        if (this.narrow()) return this.sliver();
      } else if (this.hi - this.lo < (this.of.narrowest ?? NARROWEST) * volts || !this.shorten()) break;
    }
    return undefined;
  }

  /**
   * The jump where a piece ends as a steep way from one side to the other, over a hair of the lower one, which then ends
   * where it begins: what stands there hunts between both sides, and its mean is a mix of them. None where the demand
   * does not rise with the volts: a side then holds by itself.
   * @param lower, upper of the neighbours at least one; where the other side has no piece it is asked
   */
  bridge(lower: Piece | undefined, upper: Piece | undefined): Piece | undefined {
    const { of } = this;
    const volts = upper ? upper.lo : lower!.hi * (1 + 2 * EDGE);
    const foot = volts * (1 - RAMP);
    if (lower && (lower.hi < foot || lower.lo > volts * (1 - 2 * RAMP))) return undefined;
    // Mostly nothing jumps: the power alone says so, where there is a piece to ask.
    const before = lower ? lower.leading(0, foot) : this.rowAt(foot, this.said)[0]!;
    const state = lower ? lower.state : this.known();
    const behind = upper ? upper.leading(0, volts) : this.rowAt(volts, this.spare)[0]!;
    if (!(behind / volts - before / foot > JUMP * Math.abs(behind / volts))) return undefined;
    const from = this.said;
    const to = this.spare;
    lower?.read(foot, from, from.length, false);
    upper?.read(volts, to, to.length, false);
    if (lower) lower.hi = foot;
    const values = new Float64Array(FEW.points * of.columns);
    from.forEach((x, c) => {
      values[c] = x;
      values[of.columns + c] = (x + to[c]!) / 2;
      values[2 * of.columns + c] = to[c]!;
    });
    const both = { below: true, above: true };
    return new Piece(foot, volts, FEW, values, of.leading, { ...state, event: this.events++ }, both, true);
  }

  /** A row by asking. */
  private rowAt(volts: number, row: Float64Array): Float64Array {
    this.samples++;
    this.of.sample(volts, row);
    return row;
  }

  /** [V] the stretch tried last. */
  get tried(): { lo: number; hi: number } {
    return { lo: this.lo, hi: this.hi };
  }

  /** A state by its number; equal in what counts as an event, equal in number. */
  known(): PieceState {
    const { signature, extended, events } = this.of;
    let before: PieceState | undefined;
    for (const state of this.states) {
      if (!same(state.signature, signature, events)) continue;
      before ??= state;
      if (same(state.signature, signature) && same(state.extended, extended)) return state;
    }
    const state = {
      event: before ? before.event : this.events++,
      signature: signature.slice(),
      extended: extended.slice(),
    };
    this.states.push(state);
    return state;
  }

  /** How far a piece may reach at most: to its neighbours, and to the next bend on either side. */
  private reach(below?: Piece, above?: Piece): void {
    const { volts, width } = this;
    let lo = below?.hi ?? 0;
    let hi = above?.lo ?? Infinity;
    // A neighbour that ends where its state does: so does this one, a hair apart.
    this.cut.below = below?.cut.above === true && volts - lo > SLIVER * volts;
    this.cut.above = above?.cut.below === true && hi - volts > SLIVER * volts;
    if (this.cut.below) lo *= 1 + 2 * EDGE;
    if (this.cut.above) hi *= 1 - 2 * EDGE;
    for (const bend of this.bends) {
      if (bend < volts) lo = Math.max(lo, bend);
      else {
        hi = Math.min(hi, bend);
        break;
      }
    }
    this.lo = Math.max(lo, volts * (1 - BELOW * width));
    this.hi = Math.min(hi, volts * (1 + (1 - BELOW) * width));
    if (this.lo > lo) this.cut.below = false;
    if (this.hi < hi) this.cut.above = false;
  }

  private narrow(): boolean {
    return this.hi - this.lo <= SLIVER * this.volts;
  }

  /** The grid whose polynomials hold from end to end; none where an end had to move or no grid holds. */
  private fitting(): Grid | undefined {
    for (let n = 0; n < TRIALS.length; n++) {
      const { grid, nodes, checks } = TRIALS[n]!;
      for (let k = 0; k < nodes.length; k++) if (!this.sampleNode(nodes[k]!)) return undefined;
      let held = true;
      for (let k = 0; k < checks.length && held; k++) {
        const { t, weights, node } = checks[k]!;
        if (!(node >= 0 ? this.sampleNode(node) : this.sample(t, this.spare))) return undefined;
        held = this.near(grid, weights, node >= 0 ? this.rows[node]! : this.spare);
      }
      if (held) return grid;
    }
    return undefined;
  }

  private sampleNode(k: number): boolean {
    if (this.has[k] === 1) return true;
    if (!this.sample(NODES[k]!, this.rows[k]!)) return false;
    this.has[k] = 1;
    return true;
  }

  /** Sample at −1…1. @returns false where the state is another: then the end on that side has moved to its edge */
  private sample(t: number, row: Float64Array): boolean {
    const { of, state, volts } = this;
    const at = placeIn(this.lo, this.hi, t);
    this.samples++;
    of.sample(at, row);
    if (same(of.signature, state)) return true;
    const found = edge(of, volts, at, state);
    this.samples += found.looks;
    if (at < volts) {
      this.lo = found.volts;
      this.cut.below = true;
    } else {
      this.hi = found.volts;
      this.cut.above = true;
    }
    // The other end is where it was.
    this.has.fill(0, 1, POINTS - 1);
    this.has[at < volts ? 0 : POINTS - 1] = 0;
    this.moved = true;
    return false;
  }

  /** Whether a row is what the polynomials say by these weights. */
  private near({ nodes, points }: Grid, weights: Float64Array, row: Float64Array): boolean {
    const { said, rows } = this;
    // The power alone says no to most that do not hold.
    let first = 0;
    for (let k = 0; k < points; k++) first += weights[k]! * rows[nodes[k]!]![0]!;
    const power = NEAR * Math.max(Math.abs(row[0]!), this.of.scale ?? 0);
    if (!(Math.abs(first - row[0]!) <= power)) return false;
    said.fill(0);
    for (let k = 0; k < points; k++) {
      const weight = weights[k]!;
      const values = rows[nodes[k]!]!;
      for (let c = 0; c < said.length; c++) said[c]! += weight * values[c]!;
    }
    for (let c = 0; c < said.length; c++) {
      const off = Math.abs(said[c]! - row[c]!);
      if (!(off <= power || off <= NEAR * Math.abs(row[c]!))) return false;
    }
    return true;
  }

  private keep(grid: Grid): Piece {
    const { of, lo, hi, volts } = this;
    this.width = Math.min(WIDEST, Math.max(this.width, (2 * (hi - lo)) / volts));
    const values = floats(grid.points * of.columns);
    let at = 0;
    for (let k = 0; k < grid.points; k++) {
      const row = this.rows[grid.nodes[k]!]!;
      for (let c = 0; c < row.length; c++) values[at++] = row[c]!;
    }
    const { below, above } = this.cut;
    return new Piece(lo, hi, grid, values, of.leading, this.known(), { below, above });
  }

  /** A piece between two edges so close that nothing moves from one to the other. */
  private sliver(): Piece {
    const { of, volts, spare } = this;
    this.samples++;
    of.sample(volts, spare);
    const room = 1e-13 * volts;
    const values = new Float64Array(FEW.points * of.columns);
    for (let k = 0; k < FEW.points; k++) values.set(spare, k * of.columns);
    const lo = Math.min(this.lo, volts - room);
    const hi = Math.max(this.hi, volts + room);
    return new Piece(lo, hi, FEW, values, of.leading, this.known(), { below: false, above: false });
  }

  /** Try shorter, the volts where they are in it. @returns false where it would be nothing */
  private shorten(): boolean {
    const { lo, hi, volts } = this;
    const share = hi - lo > 0.02 * volts ? 0.5 : 0.25;
    this.lo = Math.max(lo, volts - share * (volts - lo));
    this.hi = Math.min(hi, volts + share * (hi - volts));
    this.has.fill(0);
    this.cut.below = this.cut.above = false;
    this.width = Math.max(4 * NARROWEST, (this.hi - this.lo) / volts);
    return volts - this.lo >= 1e-12 * volts || this.hi - volts >= 1e-12 * volts;
  }
}

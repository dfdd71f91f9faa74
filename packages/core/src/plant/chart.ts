import { CHECKS, NODES, POINTS } from './fit.ts';
import { Piece } from './piece.ts';

/** What a chart is made of: something that can be asked at any voltage, at a price. */
export interface Sampled {
  /** numbers in a row; the first is the power, which moves most */
  readonly columns: number;
  /** stages, for what left its table */
  readonly stages: number;
  /** Fill a row at `volts`, from place `at` on, and the two below for it. */
  sample(volts: number, rows: Float64Array, at: number): void;
  /** state at the sample taken last: first what an event is, then what merely bends */
  readonly signature: Int32Array;
  /** how many of its numbers are events */
  readonly events: number;
  readonly extended: Uint8Array;
  /**
   * How far, at the sample taken last, an entry of the signature is from leaving a value it had: positive while it has
   * it, falling through zero where it changes. NaN where that is not known.
   */
  distance(entry: number, value: number): number;
  /** [V] where it is known to bend, rising */
  bends(): readonly number[];
}

/** Relative error of a fit, of the power in a row, or of a column's own value. Rows and ledgers rest on it. */
const NEAR = 3e-10;
/** Columns count as standing still within this. */
const STILL = 1e-13;
/** Width of the first piece tried, of the widest and of the narrowest [relative to the volts]. */
const FIRST = 0.3;
const WIDEST = 0.6;
const NARROWEST = 1e-3;
/** Share of a new piece that lies below the volts asked for: packs fall. */
const BELOW = 0.9;
/** Relative width to which an edge is closed in on: the power of either side may be continued that far. */
const EDGE = 1e-11;
/** Narrower than this a stretch between two edges is kept by the power it has in its middle. */
const SLIVER = 1e-10;
/** Stretches without a polynomial after which no more pieces are tried: the demand is rough there. */
const ROUGH = 24;

/**
 * A demand over its volts as pieces, made as they are asked for and kept: the characteristic at the terminals while
 * nothing is switched. Where no polynomial holds, it is asked exactly.
 */
export class Chart {
  /** [A] at the volts evaluated last, and [A/V] its slope */
  amps = NaN;
  slope = NaN;
  /** number of the state there */
  event = -1;
  signature: Int32Array;
  extended: Uint8Array;
  /** pieces made and stretches left exact, for the curious */
  readonly counts = { pieces: 0, exact: 0, samples: 0 };
  private readonly pieces: Piece[] = [];
  private readonly exact: { lo: number; hi: number }[] = [];
  private bends: readonly number[] | undefined;
  private readonly states = new Map<string, number>();
  private last: Piece | undefined;
  private width = FIRST;
  /** rows of a piece's nodes, and one more */
  private readonly rows: Float64Array;
  private readonly spare: Float64Array;
  private readonly tried: Float64Array;

  constructor(private readonly of: Sampled) {
    this.rows = new Float64Array(POINTS * of.columns);
    this.spare = new Float64Array(of.columns);
    this.tried = new Float64Array(of.columns);
    this.signature = of.signature;
    this.extended = of.extended;
  }

  /** Amps, slope and state at `volts` > 0. */
  evaluate(volts: number): void {
    const piece = this.at(volts);
    if (!piece) return this.ask(volts);
    const amps = piece.power(volts) / volts;
    this.amps = amps;
    this.slope = (piece.rise(volts) - amps) / volts;
    this.event = piece.event;
    this.signature = piece.signature;
    this.extended = piece.extended;
  }

  /** The same, and every column before the one of number `until`. */
  read(volts: number, into: Float64Array, until: number): void {
    const piece = this.at(volts);
    if (!piece) return this.sample(volts, into);
    piece.read(volts, into, until);
    this.event = piece.event;
    this.signature = piece.signature;
    this.extended = piece.extended;
  }

  /** [A] alone. */
  demand(volts: number): number {
    const piece = this.at(volts);
    if (piece) return piece.power(volts) / volts;
    this.sample(volts, this.spare);
    return this.spare[0]! / volts;
  }

  private at(volts: number): Piece | undefined {
    const { last } = this;
    if (last !== undefined && volts >= last.lo && volts <= last.hi) return last;
    return this.find(volts);
  }

  private find(volts: number): Piece | undefined {
    const { pieces } = this;
    let low = 0;
    let high = pieces.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (pieces[middle]!.hi < volts) low = middle + 1;
      else high = middle;
    }
    const above = pieces[low];
    if (above && volts >= above.lo) return (this.last = above);
    if (this.exact.some((e) => volts >= e.lo && volts <= e.hi)) return undefined;
    if (this.exact.length >= ROUGH) return undefined;
    const made = this.make(volts, pieces[low - 1]?.hi ?? 0, above?.lo ?? Infinity);
    if (!made) return undefined;
    pieces.splice(low, 0, made);
    this.counts.pieces++;
    return (this.last = made);
  }

  /** A piece around `volts` that lies between its neighbours; undefined where none holds. */
  private make(volts: number, floor: number, ceiling: number): Piece | undefined {
    let lo = floor;
    let hi = ceiling;
    for (const bend of (this.bends ??= this.of.bends())) {
      if (bend < volts) lo = Math.max(lo, bend);
      else {
        hi = Math.min(hi, bend);
        break;
      }
    }
    lo = Math.max(lo, volts * (1 - BELOW * this.width));
    hi = Math.min(hi, volts * (1 + (1 - BELOW) * this.width));
    if (hi - lo <= SLIVER * volts) return this.sliver(volts, lo, hi);
    let state: Int32Array | undefined;
    for (let round = 0; hi - lo > EDGE * volts && round < 200; round++) {
      if (!state) {
        this.sample(volts, this.spare);
        state = this.of.signature.slice();
      }
      const edges = this.sampleAll(lo, hi, volts, state);
      if (edges) {
        if (edges.below > lo) lo = this.edge(volts, edges.below, state);
        if (edges.above < hi) hi = this.edge(volts, edges.above, state);
        if (hi - lo <= SLIVER * volts) return this.sliver(volts, lo, hi);
        continue;
      }
      const piece = new Piece(lo, hi, this.rows, this.known(state), STILL);
      if (this.holds(piece)) {
        this.width = Math.min(WIDEST, Math.max(this.width, (2 * (hi - lo)) / volts));
        return piece;
      }
      if (hi - lo < NARROWEST * volts) break;
      const shrink = hi - lo > 0.02 * volts ? 0.5 : 0.25;
      lo = Math.max(lo, volts - shrink * (volts - lo));
      hi = Math.min(hi, volts + shrink * (hi - volts));
      if (volts - lo < 1e-12 * volts && hi - volts < 1e-12 * volts) break;
      this.width = Math.max(4 * NARROWEST, (hi - lo) / volts);
    }
    this.exact.push({ lo, hi });
    this.counts.exact++;
    return undefined;
  }

  /** A piece between two edges so close that nothing moves from one to the other. */
  private sliver(volts: number, lo: number, hi: number): Piece {
    const { rows, of } = this;
    this.sampleInto(volts, rows, 0);
    for (let k = 1; k < POINTS; k++) rows.copyWithin(k * of.columns, 0, of.columns);
    const room = 1e-13 * volts;
    return new Piece(
      Math.min(lo, volts - room),
      Math.max(hi, volts + room),
      rows,
      this.known(of.signature),
      STILL,
    );
  }

  /** Sample every node; where the state differs, say the nearest such volts on either side. */
  private sampleAll(lo: number, hi: number, volts: number, state: Int32Array) {
    let below = -Infinity;
    let above = Infinity;
    for (let k = 0; k < POINTS; k++) {
      const v = Piece.node(lo, hi, NODES[k]!);
      this.sampleInto(v, this.rows, k * this.of.columns);
      if (same(this.of.signature, state)) continue;
      if (v < volts) below = Math.max(below, v);
      else above = Math.min(above, v);
    }
    return below > -Infinity || above < Infinity ? { below, above } : undefined;
  }

  /**
   * [V] the last that has the state of `volts` on the way to one that has not. Where what differs is a threshold
   * crossed, by the secant of its distance (Illinois); a change of formula by halving alone.
   */
  private edge(volts: number, other: number, state: Int32Array): number {
    let good = volts;
    let bad = other;
    this.sample(other, this.spare);
    const at = firstDifference(this.of.signature, state);
    let gBad = this.of.distance(at, state[at]!);
    this.sample(volts, this.spare);
    let gGood = this.of.distance(at, state[at]!);
    for (let round = 0; Math.abs(good - bad) > EDGE * volts && round < 200; round++) {
      const share = gGood / (gGood - gBad);
      // Every third time the middle: a distance may be kinked.
      const middle =
        round % 3 < 2 && share > 0 && share < 1 ? aim(good, bad, share, EDGE * volts) : (good + bad) / 2;
      this.sample(middle, this.spare);
      const d = this.of.distance(at, state[at]!);
      if (same(this.of.signature, state)) {
        good = middle;
        gGood = d;
        gBad /= 2;
      } else {
        bad = middle;
        gBad = d < 0 ? d : NaN;
        gGood /= 2;
      }
    }
    return good;
  }

  private holds(piece: Piece): boolean {
    const tried = this.tried;
    for (const t of CHECKS) {
      const v = Piece.node(piece.lo, piece.hi, t);
      this.sample(v, this.spare);
      if (!same(this.of.signature, piece.signature)) return false;
      piece.read(v, tried, tried.length);
      const power = Math.abs(this.spare[0]!);
      for (let c = 0; c < tried.length; c++) {
        const exact = this.spare[c]!;
        if (!(Math.abs(tried[c]! - exact) <= NEAR * Math.max(power, Math.abs(exact)))) return false;
      }
    }
    return true;
  }

  private sample(volts: number, row: Float64Array): void {
    this.sampleInto(volts, row, 0);
  }

  private sampleInto(volts: number, rows: Float64Array, at: number): void {
    this.counts.samples++;
    this.of.sample(volts, rows, at);
    this.signature = this.of.signature;
    this.extended = this.of.extended;
  }

  /** Exactly, with the slope from a neighbour. */
  private ask(volts: number): void {
    const near = volts * (1 - SIDE);
    this.sample(near, this.spare);
    const beside = this.spare[0]! / near;
    this.sample(volts, this.spare);
    this.amps = this.spare[0]! / volts;
    this.slope = (this.amps - beside) / (volts - near);
    this.event = this.known(this.of.signature).event;
  }

  /** A state by its number; equal in what counts as an event, equal in number. */
  private known(signature: Int32Array) {
    const name = signature.subarray(0, this.of.events).join();
    let event = this.states.get(name);
    if (event === undefined) this.states.set(name, (event = this.states.size));
    return { event, signature: signature.slice(), extended: this.of.extended.slice() };
  }
}

/** Relative distance of the neighbour a slope is taken from. */
const SIDE = 1e-7;

/** [V] at a share of the way, but a little beyond the crossing so that the bracket closes from both sides. */
function aim(good: number, bad: number, share: number, width: number): number {
  const x = good + share * (bad - good);
  const nudge = Math.min(0.3 * width, 0.1 * Math.abs(bad - good));
  return Math.abs(x - good) < Math.abs(x - bad)
    ? x + Math.sign(bad - good) * nudge
    : x - Math.sign(bad - good) * nudge;
}

function firstDifference(a: Int32Array, b: Int32Array): number {
  for (let k = 0; k < a.length; k++) if (a[k] !== b[k]) return k;
  return 0;
}

function same(a: Int32Array, b: Int32Array): boolean {
  for (let k = 0; k < a.length; k++) if (a[k] !== b[k]) return false;
  return true;
}

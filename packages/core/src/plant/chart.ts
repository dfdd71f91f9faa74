import { slope, value } from './fit.ts';
import { meet, PieceMaker } from './maker.ts';
import type { Piece } from './piece.ts';
import type { Sampled } from './sampled.ts';

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
  /** the piece they lie in; none where it was asked exactly */
  piece: Piece | undefined;
  private readonly pieces: Piece[] = [];
  private readonly ramps: Piece[] = [];
  private readonly exact: { lo: number; hi: number }[] = [];
  private maker: PieceMaker | undefined;
  private last: Piece | undefined;
  private spare: Float64Array | undefined;

  constructor(private readonly of: Sampled) {}

  /** State at the volts evaluated or read last. */
  get signature(): Int32Array {
    return this.piece ? this.piece.state.signature : this.of.signature;
  }

  get extended(): Uint8Array {
    return this.piece ? this.piece.state.extended : this.of.extended;
  }

  /** Pieces made, stretches left exact and samples taken, for the curious. */
  get counts() {
    return { pieces: this.pieces.length, exact: this.exact.length, samples: this.maker?.samples ?? 0 };
  }

  /** Amps, slope and state at `volts` > 0. */
  evaluate(volts: number): void {
    const piece = this.at(volts);
    this.piece = piece;
    if (!piece) return this.ask(volts);
    const t = piece.place(volts);
    const { c } = piece;
    let power: number;
    let rise: number;
    if (piece.parabola) {
      const linear = c[1]! + t * c[2]!;
      power = c[0]! + t * linear;
      rise = linear + t * c[2]!;
    } else {
      power = value(c, 0, t);
      rise = slope(c, 0, t);
    }
    const amps = power / volts;
    this.amps = amps;
    this.slope = (rise * piece.per - amps) / volts;
    this.event = piece.event;
  }

  /**
   * State and every column before the one of number `until`.
   * @param holds the piece whose columns at other volts `into` holds
   */
  read(volts: number, into: Float64Array, until: number, holds?: Piece): void {
    const piece = this.at(volts);
    this.piece = piece;
    if (!piece) return this.readExactly(volts, into);
    piece.read(volts, into, until, piece === holds);
    this.event = piece.event;
  }

  /** State and all columns, past the pieces. */
  readExactly(volts: number, into: Float64Array): void {
    this.making.samples++;
    this.of.sample(volts, into);
    this.piece = undefined;
    this.event = this.making.known().event;
  }

  /** [A] alone. */
  demand(volts: number): number {
    return this.leading(0, volts) / volts;
  }

  /** A leading column alone. */
  leading(column: number, volts: number): number {
    const piece = this.at(volts);
    if (piece) return piece.leading(column, volts);
    return this.sampleSpare(volts)[column]!;
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
    const made = this.making.make(volts, pieces[low - 1], above);
    if (!made) {
      this.exact.push(this.making.tried);
      return undefined;
    }
    pieces.splice(low, 0, made);
    if (!this.of.bridged) return (this.last = made);
    const below = pieces[low - 1];
    const up = above && meet(made, above) ? above : undefined;
    const under = below && meet(below, made) ? below : undefined;
    if (up || made.cut.above) this.bridge(low + 1, made, up);
    if (under || made.cut.below) this.bridge(low, under, made);
    // The hair asked for may be on a bridge by now.
    return (this.last = pieces.find((p) => volts >= p.lo && volts <= p.hi));
  }

  private bridge(place: number, lower: Piece | undefined, upper: Piece | undefined): void {
    const ramp = this.making.bridge(lower, upper);
    if (!ramp) return;
    this.pieces.splice(place, 0, ramp);
    this.ramps.push(ramp);
  }

  /** [V] where to look on the way from one voltage to another: not across a jump that is bridged, but on its bridge. */
  onTheWay(from: number, to: number): number {
    for (const { lo, hi } of this.ramps) {
      if ((from > hi && to < lo) || (from < lo && to > hi)) return (lo + hi) / 2;
    }
    return to;
  }

  /** Exactly, with the slope from a neighbour. */
  private ask(volts: number): void {
    const row = this.sampleSpare(volts * (1 - SIDE));
    const beside = row[0]! / (volts * (1 - SIDE));
    this.sampleSpare(volts);
    this.amps = row[0]! / volts;
    this.slope = (this.amps - beside) / (volts * SIDE);
    this.event = this.making.known().event;
  }

  private sampleSpare(volts: number): Float64Array {
    const row = (this.spare ??= new Float64Array(this.of.columns));
    this.making.samples++;
    this.of.sample(volts, row);
    return row;
  }

  private get making(): PieceMaker {
    return (this.maker ??= new PieceMaker(this.of));
  }
}

/** Relative distance of the neighbour a slope is taken from. */
const SIDE = 1e-7;

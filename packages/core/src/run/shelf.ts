import { gaussPanels } from '../numeric/quadrature.ts';
import { fitOver } from '../plant/fit.ts';
import { bendsOn } from '../plant/bends.ts';
import type { Network } from '../plant/network.ts';
import type { PackPlant } from '../plant/pack.ts';
import { placeIn } from '../plant/piece.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';

/** Gauss panels in a stretch. */
const PANELS = 4;

/** Relative error of a polynomial that stands for the idle power: far below what self-discharge is known to. */
const SMOOTH = 3e-5;

/** Share of the charge below which a stretch is not split any more, and splits after which none is. */
const NARROW = 1 / 4096;
const SPLITS = 80;

/** State of charge that counts as empty: the logarithm of none has no end. */
const DUST = 1e-9;

/**
 * Hours for a store of charge to fall from one state of charge to another under an idle current and
 * exponential self-discharge: t = ∫ ds / (I(s)/Q + λ·s).
 *
 * @param charge [C] of the pack's cells in parallel
 * @param amps [A] drawn at a state of charge; asked from the top down
 * @param lambda [1/s] share of what is left that drains away by itself
 * @param from state of charge at the start; @param to at the end, below `from`; @param panels of the quadrature
 * @returns [h]; Infinity when nothing draws
 * Elementary.
 */
export function shelfHours(
  charge: number,
  amps: (soc: number) => number,
  lambda: number,
  from: number,
  to: number,
  panels: number,
): number {
  if (to >= from) return 0;
  const rate = (s: number) => amps(s) / charge + lambda * s;
  if (rate(from) <= 0) return Infinity;
  // In ln s the integrand stays smooth where self-discharge dominates near empty.
  const low = Math.log(Math.max(to, DUST));
  const seconds = gaussPanels((x) => Math.exp(x) / rate(Math.exp(x)), Math.log(from), low, panels);
  if (to <= 0 && rate(0) <= 0) return Infinity;
  return Number.isFinite(seconds) ? -seconds / SECONDS_PER_HOUR : Infinity;
}

/**
 * Time on the shelf of a pack before a path that draws what it draws with every load off. That steps where a stage locks
 * out, which only the outermost do at volts known beforehand, and bends elsewhere: stretches are split until what is
 * drawn in each is a polynomial of the volts.
 */
export class Shelf {
  /** [V] at which something is known to bend */
  private bends: readonly number[] | undefined;
  private splits = 0;

  /**
   * @param amps [A] drawn at volts at rest; asked from the top down, since what locks out stays so
   * @param path that draws, put back where a stretch was tried in vain
   */
  constructor(
    private readonly pack: PackPlant,
    private readonly amps: (volts: number) => number,
    private readonly path: Network,
  ) {}

  /** [h] from one state of charge to another, below it. */
  hours(from: number, to: number): number {
    if (!(from > to)) return 0;
    const [high, low] = [this.volts(from), this.volts(to)];
    const amps = this.polynomial(high, low);
    if (amps || from - to < NARROW || this.splits++ >= SPLITS)
      return this.integral(amps ?? this.amps, from, to);
    const middle = this.middle(from, to);
    const upper = this.hours(from, middle);
    return upper + this.hours(middle, to);
  }

  /** Where to split a stretch: at the bend nearest to the middle of its volts, or in its middle where none is known. */
  private middle(from: number, to: number): number {
    const { pack, path } = this;
    this.bends ??= bendsOn(path, 0);
    const [high, low] = [this.volts(from), this.volts(to)];
    const off = (v: number) => Math.abs(2 * v - high - low);
    let best = NaN;
    for (const v of this.bends) if (v < high && v > low && !(off(v) >= off(best))) best = v;
    const soc = best > 0 ? pack.cell.socAt(best / pack.series) : NaN;
    return soc < from - NARROW && soc > to + NARROW ? soc : (from + to) / 2;
  }

  /** [V] at rest. */
  private volts(soc: number): number {
    return this.pack.series * this.pack.cell.ocv(soc);
  }

  private integral(amps: (volts: number) => number, from: number, to: number): number {
    const { charge, parallel, selfDischarge } = this.pack;
    return shelfHours(charge * parallel, (s) => amps(this.volts(s)), selfDischarge, from, to, PANELS);
  }

  /** What is drawn between two volts, where its power is a polynomial and nothing locks out. */
  private polynomial(high: number, low: number): ((volts: number) => number) | undefined {
    if (!(high > low && low > 0)) return undefined;
    const { path } = this;
    const held = path.held.slice();
    const power = fitOver((t) => {
      const volts = placeIn(low, high, t);
      return volts * this.amps(volts);
    }, SMOOTH);
    if (power && held.every((why, k) => path.held[k] === why)) {
      return (volts) => power((2 * volts - low - high) / (high - low)) / volts;
    }
    held.forEach((why, k) => path.hold(k, why));
    return undefined;
  }
}

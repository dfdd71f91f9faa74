import { leadResistance } from '../conductors/lead.ts';
import type { Charging } from '../model/charging.ts';
import type { ContractSource, Offer, Source, SourceReading, Wall } from '../model/source.ts';

/** A source as plain numbers: open volts, what they lose per ampere, and where that ends. */
export interface SourceCurve {
  /** [V] with nothing connected */
  open: number;
  /** [Ω] droop of the source itself */
  droop: number;
  /** [A] */
  limit: number;
  beyond: Source['beyond'];
  /** [Ω] more beyond the limit, where it sags */
  sag: number;
  wall?: Wall;
}

/** [Ω] Sag beyond the limit where none is stated: an ampere too much takes two volts. Common practice, no source. */
const USUAL_SAG = 2;

/** What a source is behind what is asked of it. */
export function sourceCurve(source: Source): SourceCurve {
  const { beyond, sag = USUAL_SAG, wall } = source;
  const rest = { beyond, sag, ...(wall ? { wall } : {}) };
  if (source.kind === 'supply') {
    return { open: source.volts, droop: source.droop, limit: source.limit, ...rest };
  }
  if (source.kind === 'contracts') {
    const { volts, amps } = contractOf(source);
    return { open: volts, droop: source.droop, limit: amps, ...rest };
  }
  const { volts, droop } = throughReadings(source.readings);
  return { open: volts, droop, limit: source.limit, ...rest };
}

/** What a source offers at the volts asked for. */
export interface Contract {
  /** [V] [A] that it gives */
  volts: number;
  amps: number;
  /** whether that is what was asked for */
  asAsked: boolean;
}

/** Relative distance of volts that count as those asked for. */
const NEAR = 1e-6;

/**
 * What is had of a source for the volts asked: that offer, or a programmable one that reaches them, down to its step.
 * Where nobody offers them, the highest below, else its lowest offer. Common practice of triggers, no source.
 */
export function contractOf({ offers, asks }: Pick<ContractSource, 'offers' | 'asks'>): Contract {
  const fixed = offers.filter((o) => o.least === undefined);
  const exact = fixed.find((o) => Math.abs(o.volts - asks) <= NEAR * asks);
  if (exact) return { volts: exact.volts, amps: exact.amps, asAsked: true };
  const programmable = offers.find((o) => reaches(o, asks));
  if (programmable) {
    const { least = 0, step = 0, amps } = programmable;
    const volts = step > 0 ? least + step * Math.floor((asks - least) / step + NEAR) : asks;
    return { volts, amps, asAsked: true };
  }
  const below = offers.filter((o) => o.volts < asks).sort((a, b) => b.volts - a.volts)[0];
  const lowest = [...offers].sort((a, b) => a.volts - b.volts)[0]!;
  const had = below ?? lowest;
  return { volts: had.volts, amps: had.amps, asAsked: false };
}

function reaches({ volts, least }: Offer, asks: number): boolean {
  return least !== undefined && asks >= least * (1 - NEAR) && asks <= volts * (1 + NEAR);
}

/**
 * Open volts and droop of an adapter by its readings: least squares. A droop that rises with the current is noise and counts
 * as none.
 * @returns [V] [Ω], and [V] the largest reading beside the line
 */
export function throughReadings(readings: readonly SourceReading[]): {
  volts: number;
  droop: number;
  off: number;
} {
  const n = readings.length;
  const mean = readings.reduce((s, r) => s + r.amps, 0) / n;
  const level = readings.reduce((s, r) => s + r.volts, 0) / n;
  const square = readings.reduce((s, r) => s + (r.amps - mean) ** 2, 0);
  const product = readings.reduce((s, r) => s + (r.amps - mean) * (r.volts - level), 0);
  const droop = square > 0 ? Math.max(0, -product / square) : 0;
  const volts = level + droop * mean;
  const off = Math.max(...readings.map((r) => Math.abs(volts - droop * r.amps - r.volts)));
  return { volts, droop, off };
}

/** [V] at its terminals at a current; falls below nothing where it gives no more. */
export function sourceVolts({ open, droop, limit, beyond, sag }: SourceCurve, amps: number): number {
  const over = Math.max(0, amps - limit);
  return open - droop * amps - (beyond === 'soft' ? sag * over : over > 0 ? Infinity : 0);
}

/** [A] it gives at most, whatever its volts. */
export function mostAmps({ open, droop, limit, beyond, sag }: SourceCurve): number {
  if (beyond !== 'soft') return limit;
  return limit + Math.max(0, open - droop * limit) / (droop + sag);
}

/** [Ω] of cable and contacts between source and charger, there and back. */
export function cableOhms({ cable, contacts }: Pick<Charging, 'cable' | 'contacts'>): number {
  const touching = contacts ? contacts.contacts * contacts.contactResistance : 0;
  return (cable ? leadResistance(cable) : 0) + touching;
}

/** [W] an adapter takes from the wall for what it gives. */
export function wallWatts(wall: Wall | undefined, watts: number): number {
  if (!wall) return watts;
  return watts + wall.standby + watts * (wall.perWatt + watts * wall.perSquareWatt);
}

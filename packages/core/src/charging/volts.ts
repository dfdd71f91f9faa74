import { sourceLaw } from './source.ts';
import { dividerSpread } from '../design/divider.ts';
import type { ChargeControl, Charging } from '../model/charging.ts';
import type { Divider } from '../model/parts.ts';

/** Tolerance of a charger's volts where nothing is said of them: common for its chips. Common practice, no source. */
export const USUAL_TOLERANCE = 0.01;

/** Where a charge may stop: what it is set to, and how far off that may be. [V] of the pack */
export interface StopVolts {
  /** [V] of the whole pack: as it is set, and within what */
  set: number;
  least: number;
  most: number;
  /** root of the sum of squares of all limits, both ways */
  likelyLeast: number;
  likelyMost: number;
  /** what the spread comes from */
  from: 'trimmed' | 'divider' | 'fixed' | 'assumed';
}

type Charger = Pick<Charging, 'stage' | 'control'>;

/** What sets its volts: a chip that nothing trims, a meter and a hand, its divider, or what it is said to be set to. */
export function setBy(control: ChargeControl): StopVolts['from'] {
  if (control.fixed !== undefined) return 'fixed';
  if (control.trimmed) return 'trimmed';
  return control.divider ? 'divider' : 'assumed';
}

/**
 * [V] of the pack a charger holds: of one with a divider that nobody trims what its pair comes to, whatever was asked of it.
 * Undefined where nothing holds the volts.
 */
export function setVolts({ stage, control }: Charger): number | undefined {
  if (!control || !('outputVolts' in stage)) return undefined;
  return setBy(control) === 'divider' ? spreadOf(control.divider!).nominal : stage.outputVolts;
}

/** Volts a charger stops at as it is: fixed, trimmed, else by its divider, else within the usual tolerance. */
export function stopVolts(charging: Charger): StopVolts | undefined {
  const set = setVolts(charging);
  if (set === undefined) return undefined;
  const { trimmed } = charging.control!;
  const from = setBy(charging.control!);
  if (from !== 'trimmed') return asBought(charging);
  const likely = Math.hypot(trimmed!.meter, trimmed!.drift);
  return around(set, trimmed!.meter + trimmed!.drift, likely, from);
}

/** The same as if it had not been trimmed. */
export function asBought({ stage, control }: Charger): StopVolts | undefined {
  if (!control || !('outputVolts' in stage)) return undefined;
  const set = stage.outputVolts;
  const { divider, fixed } = control;
  if (fixed !== undefined) return around(set, fixed, fixed, 'fixed');
  if (!divider) return around(set, USUAL_TOLERANCE, USUAL_TOLERANCE, 'assumed');
  const { least, most, nominal, likely } = spreadOf(divider);
  return {
    set: nominal,
    least,
    most,
    likelyLeast: nominal - likely,
    likelyMost: nominal + likely,
    from: 'divider',
  };
}

function around(set: number, most: number, likely: number, from: StopVolts['from']): StopVolts {
  return {
    set,
    least: set * (1 - most),
    most: set * (1 + most),
    likelyLeast: set * (1 - likely),
    likelyMost: set * (1 + likely),
    from,
  };
}

/** Corners and likely spread of a divider and its reference. */
export function spreadOf({
  reference,
  referenceTolerance,
  top,
  bottom,
  resistorTolerance,
  pinBias,
}: Divider) {
  return dividerSpread(reference, referenceTolerance, top, bottom, resistorTolerance, pinBias);
}

/** [V] of one cell below what it is charged to at which chips begin anew. Common practice, no source. */
const USUAL_ANEW = 0.1;

/**
 * [V] of one cell below which a charge begins anew. At or above what the cells are charged to it would follow its own end at
 * once, for ever: there the usual is taken, and `told` says so.
 */
export function beginsAnew(charging: Charger, series: number): { volts: number; told: boolean } | undefined {
  const stated = charging.control?.recharge;
  if (stated === undefined) return undefined;
  const set = (setVolts(charging) ?? Infinity) / series;
  return stated < set
    ? { volts: stated, told: false }
    : { volts: set - Math.min(USUAL_ANEW, set / 2), told: true };
}

/**
 * [V] of one cell above full up to which volts are not what they should be, but what half the world charges by: what makers
 * allow a charger to be off by, 4.20 ± 0.05 V. Beyond, it is dangerous. Common practice, no source.
 */
export const ALLOWED_OVER = 0.05;

/** What volts of a cell are against those it is full at. [V] of one cell */
export function againstFull(volts: number, fullVolts: number): 'within' | 'tight' | 'danger' {
  if (volts <= fullVolts * (1 + 1e-6)) return 'within';
  return volts <= (fullVolts + ALLOWED_OVER) * (1 + 1e-6) ? 'tight' : 'danger';
}

/**
 * [V] the whole pack may be lifted to at worst: where the charger stops, tolerances and all, else the source's own volts. A diode
 * behind it takes nothing off: its drop goes as the current does.
 */
export function mostVolts(charging: Pick<Charging, 'stage' | 'control' | 'source'>): number {
  return stopVolts(charging)?.most ?? sourceLaw(charging.source).open;
}

/** Share of full volts that a charger is set to, so that what it may be off by is within: 4.15 V of 4.2. Common practice, no source. */
export const TRIMMED = 4.15 / 4.2;

/** [V] to set so that the highest it may be is `limit`. */
export function setForWorst({ set, most }: Pick<StopVolts, 'set' | 'most'>, limit: number): number {
  return (limit * set) / most;
}

/**
 * Shares of the variance of what a divider sets, all tolerances uniform: of the reference, the upper and the lower resistor.
 * First order.
 */
export function varianceShares({ reference, referenceTolerance, top, bottom, resistorTolerance }: Divider): {
  deviation: number;
  shares: [reference: number, top: number, bottom: number];
} {
  const ratio = top / bottom;
  const parts = [
    reference * referenceTolerance * (1 + ratio),
    reference * ratio * resistorTolerance,
    reference * ratio * resistorTolerance,
  ].map((d) => (d * d) / 3);
  const sum = parts.reduce((a, b) => a + b);
  return { deviation: Math.sqrt(sum), shares: parts.map((p) => p / sum) as [number, number, number] };
}

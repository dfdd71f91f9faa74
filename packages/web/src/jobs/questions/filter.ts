import {
  filteredRipple,
  filterGain,
  filterPeak,
  quietDamping,
  type FilterPlace,
} from '@mile-thread/core/design';
import type { OutputFilter } from '@mile-thread/core/model';

/** What an output filter does. */
export interface FilterFigures {
  /** [V/V] at the switching frequency and its third harmonic */
  gain: number;
  gain3: number;
  /** [V] peak to peak left */
  ripple: number;
  peak: { gain: number; frequency: number };
  /** with which it no longer rings: [Ω] [F] */
  damping: { resistance: number; capacitance: number };
}

/** @param frequency [Hz] of the switching @param ripple [V] peak to peak before it */
export function filter(
  f: OutputFilter,
  place: FilterPlace,
  frequency: number,
  ripple: number,
): FilterFigures {
  return {
    gain: filterGain(f, place, frequency),
    gain3: filterGain(f, place, 3 * frequency),
    // The worst shape for what is left: a square wave of equal halves has the largest fundamental.
    ripple: filteredRipple(f, place, frequency, ripple, 0.5),
    peak: filterPeak(f, place),
    damping: quietDamping(f, place),
  };
}

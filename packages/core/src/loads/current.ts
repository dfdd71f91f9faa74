import { DRAWS, type Draw } from '../model/draw.ts';
import type { Load } from '../model/load.ts';

/** Index of a law in DRAWS, as the solver stores it. */
export const POWER = DRAWS.indexOf('power');
export const CURRENT = DRAWS.indexOf('current');
export const RESISTANCE = DRAWS.indexOf('resistance');

/**
 * [A] what a load draws at a voltage: P/V, I, V/R, or (V − knee)/slope above the knee of a string. The law holds at all
 * volts above zero, in range or not.
 * @param law index in DRAWS
 * @param value [W], [A], [Ω] or [V] of the knee, by the law
 * @param slope [Ω] of a string
 * @param volts [V] at the load; 0 A at or below 0 V
 * Elementary; a string as a diode's straight line.
 */
export function loadAmps(law: number, value: number, slope: number, volts: number): number {
  if (!(volts > 0)) return 0;
  if (law === POWER) return value / volts;
  if (law === CURRENT) return value;
  if (law === RESISTANCE) return volts / value;
  return volts > value ? (volts - value) / slope : 0;
}

/** One load's law as numbers: its draw at a voltage is `factor` times what `loadAmps` says. */
export interface LoadLaw {
  /** place in DRAWS; its value in W, A, Ω or V, the slope of a string in A/V, and a factor on all of it */
  law: number;
  value: number;
  slope: number;
  factor: number;
}

/** The usual draw of a load. */
export function loadLaw(load: Load): LoadLaw {
  return {
    law: DRAWS.indexOf(load.draw),
    value: load[load.draw]!,
    slope: load.slope ?? 1,
    factor: 1,
  };
}

/** A draw stated by itself: in a mode, while a peak lasts. @param value 0 is off; of a string the share of its time */
export function statedLaw(load: Load, draw: Draw, value: number): LoadLaw {
  if (value === 0) return { ...loadLaw(load), factor: 0 };
  if (draw === 'string')
    return { ...loadLaw(load), law: DRAWS.indexOf(draw), value: load.string!, factor: value };
  return { law: DRAWS.indexOf(draw), value, slope: 1, factor: 1 };
}

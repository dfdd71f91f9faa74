import { DRAWS, type Load } from '../model/load.ts';

/** Index of a law in DRAWS, as the solver stores it. */
export const POWER = DRAWS.indexOf('power');
export const CURRENT = DRAWS.indexOf('current');

/**
 * [A] what a load draws at a voltage: P/V, I or V/R. The law holds at all volts above zero, in range or not.
 * @param law index in DRAWS
 * @param value [W], [A] or [Ω] by the law
 * @param volts [V] at the load; 0 A at or below 0 V
 */
export function loadAmps(law: number, value: number, volts: number): number {
  if (!(volts > 0)) return 0;
  return law === POWER ? value / volts : law === CURRENT ? value : volts / value;
}

/** The law and value of a load as numbers, for tables. */
export function loadLaw(load: Load): { law: number; value: number } {
  return { law: DRAWS.indexOf(load.draw), value: load[load.draw]! };
}

import { brent } from '../numeric/root.ts';

/** Current a diode path lets through at a voltage across supply resistance and diode together. [V] → [A] */
export type DiodePath = (across: number) => number;

/** A constant drop and a slope. @param ohms [Ω] supply and diode together */
export function knee(forwardVolts: number, ohms: number): DiodePath {
  return (across) => Math.max(0, (across - forwardVolts) / ohms);
}

/** [V] thermal voltage k·T/q at a temperature [°C]. CODATA 2018 (from memory). */
export function thermalVolts(celsius: number): number {
  return (1.380649e-23 / 1.602176634e-19) * (celsius + 273.15);
}

/**
 * Shockley diode I = Is·(exp(V/(n·VT)) − 1) behind a resistance.
 * @param saturation [A] @param n emission coefficient @param ohms [Ω] @param celsius [°C]
 */
export function shockley(saturation: number, n: number, ohms: number, celsius: number): DiodePath {
  const scale = n * thermalVolts(celsius);
  return (across) => {
    if (across <= 0) return 0;
    // The current lies between none and what the resistance alone would let through.
    const left = (i: number) => across - scale * Math.log1p(i / saturation) - ohms * i;
    return brent(left, 0, across / ohms, 1e-12 * (across / ohms)).x;
  };
}

/** What reaches a shared rail. */
export interface Ored {
  /** [V] */
  volts: number;
  /** [A] of each source */
  amps: number[];
}

/**
 * Rail of several supplies, each behind its diode, under a constant load: the volts at which the currents sum to
 * the load, by bisection; every path is monotone in them. Kirchhoff.
 * @param amps [A] load > 0
 * @returns undefined where the supplies cannot carry the load
 */
export function oredRail(
  volts: readonly number[],
  paths: readonly DiodePath[],
  amps: number,
): Ored | undefined {
  const at = (rail: number) => paths.map((path, k) => path(volts[k]! - rail));
  const sum = (rail: number) => at(rail).reduce((a, b) => a + b, 0);
  const top = Math.max(...volts);
  if (sum(0) < amps) return undefined;
  const rail = brent((v) => sum(v) - amps, 0, top, 1e-12 * top).x;
  return { volts: rail, amps: at(rail) };
}

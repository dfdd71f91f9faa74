import { awgArea, COPPER_RESISTIVITY, copperFactor } from './awg.ts';

/** [m] thickness of copper of one ounce per square foot. */
export const OUNCE = 35e-6;
/** [m] */
const MIL = 25.4e-6;
export interface Trace {
  /** [m²] [m] */
  area: number;
  width: number;
  /** [Ω] [V] at the temperature it reaches */
  resistance: number;
  drop: number;
}

/**
 * Width of a board trace for a current and a temperature rise: I = k·ΔT^0.44·A^0.725, A in square mils, k 0.048
 * outside and 0.024 inside. Source: IPC-2221 (from memory). Meant for up to 35 A and 100 K.
 * @param amps [A] @param rise [K] @param ounces copper thickness [oz/ft²] @param length [m] @param air [°C]
 */
export function traceFor(
  amps: number,
  rise: number,
  ounces: number,
  inside: boolean,
  length: number,
  air: number,
): Trace {
  const k = inside ? 0.024 : 0.048;
  const area = (amps / (k * rise ** 0.44)) ** (1 / 0.725) * MIL * MIL;
  const resistance = (COPPER_RESISTIVITY * 1e-6 * copperFactor(air + rise) * length) / area;
  return { area, width: area / (ounces * OUNCE), resistance, drop: resistance * amps };
}

/**
 * Thinnest wire by gauge for a current: its drop and its load per area within limits.
 * @param amps [A] @param length [m] one way @param mostDrop [V] there and back
 * @param density [A/m²] most; 5 A/mm² in open wiring is common practice, no source
 */
export function gaugeFor(amps: number, length: number, mostDrop: number, density = 5e6): number | undefined {
  for (let gauge = 36; gauge >= 0; gauge--) {
    const area = awgArea(gauge) * 1e-6;
    const drop = (2 * length * COPPER_RESISTIVITY * 1e-6 * amps) / area;
    if (amps / area <= density && drop <= mostDrop) return gauge;
  }
  return undefined;
}

/** [Ω·mm²/m] Annealed copper at 20 °C, 100 % IACS. Source: IEC 60028 (from memory). */
export const COPPER_RESISTIVITY = 0.017241;

/** [1/K] Temperature coefficient of copper at 20 °C. Source: IEC 60028 (from memory). */
export const COPPER_COEFFICIENT = 0.00393;

/**
 * [mm] Diameter of a solid AWG conductor: d = 0.127 · 92^((36 − n)/39).
 * @param gauge AWG number; −3 is 0000
 * Source: ASTM B258, the geometric series (from memory).
 */
export function awgDiameter(gauge: number): number {
  return 0.127 * 92 ** ((36 - gauge) / 39);
}

/** [mm²] Cross-section of a solid AWG conductor. */
export function awgArea(gauge: number): number {
  return (Math.PI / 4) * awgDiameter(gauge) ** 2;
}

/** [Ω/m] Resistance of solid AWG copper at 20 °C. */
export function awgResistance(gauge: number): number {
  return COPPER_RESISTIVITY / awgArea(gauge);
}

/** Factor on a copper resistance at 20 °C. @param temperature [°C] */
export function copperFactor(temperature: number): number {
  return 1 + COPPER_COEFFICIENT * (temperature - 20);
}

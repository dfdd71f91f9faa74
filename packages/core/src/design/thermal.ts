/** Heat of a part. Source: thermal resistance chain, JEDEC JESD51 definitions (from memory). */

/** [°C] junction of `watts` behind `resistance` [K/W] in `air` [°C]. */
export function junction(air: number, resistance: number, watts: number): number {
  return air + resistance * watts;
}

/** [W] the junction may take. */
export function mostWatts(air: number, resistance: number, maxJunction: number): number {
  return (maxJunction - air) / resistance;
}

/**
 * [K/W] heat sink needed, (Tj − Ta)/P − θjc − θcs; undefined where none is needed. Not above zero where none helps.
 * @param open [K/W] junction to air without one
 */
export function heatSink(
  air: number,
  watts: number,
  maxJunction: number,
  open: number,
  toCase: number,
  toSink: number,
): number | undefined {
  return junction(air, open, watts) <= maxJunction
    ? undefined
    : (maxJunction - air) / watts - toCase - toSink;
}

/** How a resistance that rises with its own heat settles. */
export interface SelfHeating {
  /** [°C] [W]; absent where it runs away */
  settled?: { junction: number; watts: number };
  /** [A] at which it runs away */
  runaway: number;
}

/**
 * P = I²·R25·(1 + α(Ta − 25))/(1 − I²·R25·α·θ): a switch's resistance over its own temperature; it runs away where
 * the denominator vanishes. Elementary.
 * @param amps [A] RMS @param r25 [Ω] at 25 °C @param alpha [1/K] @param resistance [K/W]
 */
export function selfHeating(
  amps: number,
  r25: number,
  alpha: number,
  air: number,
  resistance: number,
): SelfHeating {
  const runaway = Math.sqrt(1 / (r25 * alpha * resistance));
  const left = 1 - amps * amps * r25 * alpha * resistance;
  if (left <= 0) return { runaway };
  const watts = (amps * amps * r25 * (1 + alpha * (air - 25))) / left;
  return { settled: { junction: air + resistance * watts, watts }, runaway };
}

/** Resistors and capacitors that set a controller. Elementary. */

export interface SenseLimit {
  /** [A] peak at which it acts: nominal, least, most */
  peak: number;
  least: number;
  most: number;
  /** [A] inductor's mean while the limit acts on its peak */
  mean: number;
  /** [W] upper bound in the resistor */
  watts: number;
}

/**
 * Limit of a current-sense resistor, I = Vsense/R, with corners of both tolerances.
 * @param volts [V] threshold @param ohms [Ω] @param ripple [A] peak to peak of the inductor
 */
export function senseLimit(
  volts: number,
  voltsTolerance: number,
  ohms: number,
  ohmsTolerance: number,
  ripple: number,
): SenseLimit {
  const peak = volts / ohms;
  return {
    peak,
    least: (peak * (1 - voltsTolerance)) / (1 + ohmsTolerance),
    most: (peak * (1 + voltsTolerance)) / (1 - ohmsTolerance),
    mean: peak - ripple / 2,
    watts: peak * peak * ohms,
  };
}

/** [Ω] sense resistor whose least limit still is `peak`, tolerances counted. */
export function senseResistor(
  volts: number,
  voltsTolerance: number,
  ohmsTolerance: number,
  peak: number,
): number {
  return (volts * (1 - voltsTolerance)) / (peak * (1 + ohmsTolerance));
}

/** [A] set by a programming resistor, I = K/R. @param k [V] @param ohms [Ω] */
export function programmedAmps(k: number, ohms: number): number {
  return k / ohms;
}

/** [Ω] programming resistor for a current. */
export function programmingResistor(k: number, amps: number): number {
  return k / amps;
}

/** [F] soft-start capacitor: the pin's current charges it to the reference in the time wanted. */
export function softStartCapacitor(pinAmps: number, seconds: number, reference: number): number {
  return (pinAmps * seconds) / reference;
}

/** [A] the output capacitance alone draws while it is charged to `volts` in `seconds`. */
export function startCurrent(farads: number, volts: number, seconds: number): number {
  return (farads * volts) / seconds;
}

/** What a gate resistor makes of a transistor's edges. [s] */
export interface Edges {
  currentRise: number;
  voltageFall: number;
  voltageRise: number;
  currentFall: number;
}

/**
 * Edge times of a square-law transistor behind a gate resistor. The plateau is Vth + √(2·I/kp); currents move with
 * (Cgs + Cgd)·Rg, the drain with Cgd·Rg.
 * Source: common application notes on switching times of power transistors (from memory).
 */
export function edgeTimes(t: {
  /** [V] [A] that is switched */
  volts: number;
  amps: number;
  /** [V] [V] [A/V²] */
  drive: number;
  threshold: number;
  gain: number;
  /** [F] [F] [Ω] */
  gateSource: number;
  gateDrain: number;
  gateOhms: number;
}): Edges {
  const plateau = t.threshold + Math.sqrt((2 * t.amps) / t.gain);
  const tau = t.gateOhms * (t.gateSource + t.gateDrain);
  const miller = t.gateOhms * t.gateDrain * t.volts;
  return {
    currentRise: tau * Math.log((t.drive - t.threshold) / (t.drive - plateau)),
    voltageFall: miller / (t.drive - plateau),
    voltageRise: miller / plateau,
    currentFall: tau * Math.log(plateau / t.threshold),
  };
}

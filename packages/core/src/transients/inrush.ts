/** What rushes into a capacitance when it is connected. */
export interface Inrush {
  /** [A] and [s] when */
  peak: number;
  peakTime: number;
  /** [A²s] of all of it */
  i2t: number;
  /** [J] of heat in what is in series */
  heat: number;
  /** [V] highest at the capacitance */
  highest: number;
}

/**
 * Connecting a capacitance to a stiff source through R and L: the series RLC circuit, or RC without L. Whatever the
 * damping, ½·C·ΔV² turns to heat, so that ∫i²dt = C·ΔV²/(2R).
 * @param volts [V] of the source above those the capacitance has
 * @param ohms [Ω] all in series, above 0 @param farads [F] @param henries [H] of the wires, 0 for none
 * Textbook, from memory.
 */
export function inrush(volts: number, ohms: number, farads: number, henries = 0): Inrush {
  const heat = (farads * volts * volts) / 2;
  const always = { i2t: heat / ohms, heat };
  if (henries === 0) return { ...always, peak: volts / ohms, peakTime: 0, highest: volts };
  const alpha = ohms / (2 * henries);
  const square = alpha * alpha - 1 / (henries * farads);
  if (square > 0) {
    const root = Math.sqrt(square);
    // The slower pole by the product of both: their difference would cancel.
    const fast = alpha + root;
    const slow = 1 / (henries * farads) / fast;
    const peakTime = Math.log(fast / slow) / (fast - slow);
    const peak = (volts / (2 * henries * root)) * (Math.exp(-slow * peakTime) - Math.exp(-fast * peakTime));
    return { ...always, peak, peakTime, highest: volts };
  }
  const omega = Math.sqrt(-square);
  const peakTime = omega > 0 ? Math.atan2(omega, alpha) / omega : 1 / alpha;
  const sine = omega > 0 ? Math.sin(omega * peakTime) / omega : peakTime;
  const peak = (volts / henries) * Math.exp(-alpha * peakTime) * sine;
  const over = omega > 0 ? Math.exp((-alpha * Math.PI) / omega) : 0;
  return { ...always, peak, peakTime, highest: volts * (1 + over) };
}

/** A load switch that lets the volts rise evenly into a capacitance and a load. */
export interface Ramp {
  /** [A] while it rises, [s] how long, [A²s] of it, [J] in the switch */
  amps: number;
  seconds: number;
  i2t: number;
  heat: number;
}

/**
 * @param volts [V] to rise to @param slew [V/s] @param farads [F] @param loadAmps [A] drawn from the start
 * Elementary: C·dV/dt + I; the switch has (V − v)·i.
 */
export function ramp(volts: number, slew: number, farads: number, loadAmps: number): Ramp {
  const amps = farads * slew + loadAmps;
  const seconds = volts / slew;
  return { amps, seconds, i2t: amps * amps * seconds, heat: (amps * volts * seconds) / 2 };
}

/** [V/s] at which such a ramp draws a limit [A]. */
export function slewAt(limit: number, farads: number, loadAmps: number): number {
  return (limit - loadAmps) / farads;
}

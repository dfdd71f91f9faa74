/** A capacitor's current over a period in straight pieces. */
export interface Pieces {
  /** shares of the period, summing to 1 */
  share: number[];
  /** [A] at the beginning and end of each */
  from: number[];
  to: number[];
}

/**
 * [V] peak to peak across a capacitor with series resistance, v = q/C + R·i, exact for straight pieces: at their
 * ends, on both sides of a jump, and where dv/dt = i/C + R·di/dt = 0 inside one.
 * Source: definition of charge (own derivation).
 */
export function rippleVolts(
  { share, from, to }: Pieces,
  period: number,
  farads: number,
  ohms: number,
): number {
  let charge = 0;
  let least = Infinity;
  let most = -Infinity;
  const look = (volts: number) => {
    if (volts < least) least = volts;
    if (volts > most) most = volts;
  };
  for (let k = 0; k < share.length; k++) {
    const time = share[k]! * period;
    if (!(time > 0)) continue;
    const a = from[k]!;
    const slope = (to[k]! - a) / time;
    const at = (t: number) => (charge + a * t + (slope * t * t) / 2) / farads + ohms * (a + slope * t);
    look(at(0));
    look(at(time));
    const turn = -a / slope - ohms * farads;
    if (turn > 0 && turn < time) look(at(turn));
    charge += ((a + to[k]!) / 2) * time;
  }
  return most - least;
}

/** A source behind a resistance, with a capacitance (and its series resistance) on its rail. SI units. */
export interface Rail {
  /** [V] behind the resistance */
  volts: number;
  /** [Ω] */
  ohms: number;
  /** [F] [Ω] */
  farads: number;
  esr: number;
}

/** What a burst of current does to a rail. */
export interface Dip {
  /** [V] before it, at its first instant, and at its end, the lowest */
  before: number;
  first: number;
  lowest: number;
  /** [s] below the limit, until the rail is back */
  below: number;
  /** [F] with which it stays above the limit, by the same series resistance; Infinity where none does */
  needed: number;
}

/**
 * A burst of constant current on such a rail. It splits between the source and the capacitance as R ∥ ESR, then falls
 * by τ = C·(R + ESR) to what the source alone would hold; afterwards the same way back.
 * @param base [A] drawn before @param step [A] more @param seconds of it @param limit [V] below which something gives up
 * Textbook, from memory.
 */
export function dip(rail: Rail, base: number, step: number, seconds: number, limit: number): Dip {
  const { volts, ohms, farads, esr } = rail;
  const before = volts - ohms * base;
  const jump = (step * ohms * esr) / (ohms + esr);
  const first = before - jump;
  const settles = before - ohms * step;
  const tau = farads * (ohms + esr);
  const lowest = settles + (first - settles) * Math.exp(-seconds / tau);
  return {
    before,
    first,
    lowest,
    below: secondsBelow({ before, first, settles, lowest, jump, tau }, seconds, limit),
    needed: neededFarads({ first, settles }, rail, seconds, limit),
  };
}

interface Course {
  before: number;
  first: number;
  settles: number;
  lowest: number;
  jump: number;
  tau: number;
}

function secondsBelow(c: Course, seconds: number, limit: number): number {
  if (!(c.lowest < limit)) return 0;
  const reached = c.first <= limit ? 0 : c.tau * Math.log((c.first - c.settles) / (limit - c.settles));
  const after = c.lowest + c.jump;
  if (limit >= c.before) return Infinity;
  const back = after >= limit ? 0 : c.tau * Math.log((c.before - after) / (c.before - limit));
  return seconds - reached + back;
}

function neededFarads(
  c: Pick<Course, 'first' | 'settles'>,
  rail: Rail,
  seconds: number,
  limit: number,
): number {
  if (c.settles >= limit) return 0;
  if (c.first <= limit) return Infinity;
  return seconds / Math.log((c.first - c.settles) / (limit - c.settles)) / (rail.ohms + rail.esr);
}

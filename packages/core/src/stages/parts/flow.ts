import type { Bridge } from './bridge.ts';
import type { Period, Switching } from './period.ts';

/** In which phases each way conducts, one bit a phase. */
const CONDUCTS: Record<Switching, { a: number; b: number; c: number; d: number }> = {
  buck: { a: 0b001, b: 0b010, c: 0, d: 0b011 },
  boost: { a: 0b011, b: 0, c: 0b001, d: 0b010 },
  both: { a: 0b011, b: 0b100, c: 0b001, d: 0b110 },
  simultaneous: { a: 0b001, b: 0b010, c: 0b001, d: 0b010 },
  sepic: { a: 0, b: 0, c: 0b001, d: 0b010 },
};

/** In which phases each way of the bridge conducts, bit k for phase k. */
export function conducts(switching: Switching) {
  return CONDUCTS[switching];
}

/** Means and mean squares of a period's currents, by way. [A] [A²] */
export class Flow {
  meanA = 0;
  meanB = 0;
  meanC = 0;
  meanD = 0;
  squareA = 0;
  squareB = 0;
  squareC = 0;
  squareD = 0;
  /** of the inductor; of both in a SEPIC, each by itself */
  mean = 0;
  square = 0;
  mean2 = 0;
  square2 = 0;
  /** mean square of the input's and the output capacitor's current */
  squareIn = 0;
  squareOut = 0;
  /** mean square of a SEPIC's coupling capacitor's current */
  squareCoupling = 0;
}

/**
 * Currents of every way over a period, exact for its straight pieces: mean square of a piece from a to b is
 * (a² + ab + b²)/3. Capacitors carry what differs from the mean.
 * @param iout [A] mean output current
 */
export function flowOf(bridge: Bridge, p: Period, iout: number, f: Flow): void {
  const { share, current } = p;
  const on = CONDUCTS[p.switching];
  const shift = p.discontinuous ? 0 : bow(bridge, p);
  f.meanA = f.meanB = f.meanC = f.meanD = 0;
  f.squareA = f.squareB = f.squareC = f.squareD = 0;
  f.mean = f.square = 0;
  for (let k = 0; k < p.phases; k++) {
    const from = current[k]!;
    const to = current[k + 1]!;
    // A parabola of mean `off` upon the chord has a mean square of 6/5 of its own.
    const off = p.discontinuous ? 0 : BOW[k]! - shift;
    const m = share[k]! * ((from + to) / 2 + off);
    const s = share[k]! * ((from * from + from * to + to * to) / 3 + off * (from + to) + 1.2 * off * off);
    const bit = 1 << k;
    f.mean += m;
    f.square += s;
    if (on.a & bit) {
      f.meanA += m;
      f.squareA += s;
    }
    if (on.b & bit) {
      f.meanB += m;
      f.squareB += s;
    }
    if (on.c & bit) {
      f.meanC += m;
      f.squareC += s;
    }
    if (on.d & bit) {
      f.meanD += m;
      f.squareD += s;
    }
  }
  f.squareOut = Math.max(0, f.squareD - f.meanD * f.meanD);
  f.squareIn = Math.max(0, f.squareA - f.meanA * f.meanA);
  f.mean2 = f.square2 = 0;
  if (bridge.windings) splitSepic(bridge, p, iout, f);
}

/** [A] how far each phase's current stands above its chord, in the mean; filled by `bow`. */
const BOW = new Float64Array(3);

/**
 * Resistance bends the current: di/dt = (u − r·i)/L, so that in a phase of duration t it stands r·Δi·t/(12·L) above
 * the chord in the mean. Where the ripple is large against the load this is what carries its loss: without it the means
 * of the ways give less power than goes in. First order in r·t/L; own derivation.
 * @returns [A] their mean over the phases that feed the output, by which all stand lower: what reaches it is given
 */
function bow(bridge: Bridge, p: Period): number {
  const { a, b, c, d, winding, inductance } = bridge;
  const on = CONDUCTS[p.switching];
  const per = 1 / (12 * inductance * p.frequency);
  let sum = 0;
  let feeding = 0;
  for (let k = 0; k < p.phases; k++) {
    const bit = 1 << k;
    let ohms = winding;
    if (on.a & bit) ohms += a.ohms;
    if (on.b & bit) ohms += b.ohms;
    if (on.c & bit) ohms += c.ohms;
    if (on.d & bit) ohms += d.ohms;
    BOW[k] = ohms * (p.current[k + 1]! - p.current[k]!) * p.share[k]! * per;
    if (!(on.d & bit)) continue;
    sum += BOW[k]! * p.share[k]!;
    feeding += p.share[k]!;
  }
  return feeding > 0 ? sum / feeding : 0;
}

/** A SEPIC's two currents: each its own triangle of the common shape on its own floor. */
function splitSepic(bridge: Bridge, p: Period, iout: number, f: Flow): void {
  const { first, second } = bridge.windings!;
  // [V·s] that the sum of both currents rose by, through both inductances in parallel
  const rise = p.ripple * bridge.inductance;
  const live = p.share[0]! + p.share[1]!;
  const rise1 = rise / first.henries;
  const rise2 = rise / second.henries;
  const one = triangle(f.mean - iout, rise1, live);
  const two = triangle(iout, rise2, live);
  // The coupling capacitor carries the second inductor's current while the switch is on, the first's while off.
  const floor1 = f.mean - iout - (rise1 * live) / 2;
  const floor2 = iout - (rise2 * live) / 2;
  f.squareCoupling =
    p.share[0]! * (floor2 * floor2 + floor2 * rise2 + (rise2 * rise2) / 3) +
    p.share[1]! * (floor1 * floor1 + floor1 * rise1 + (rise1 * rise1) / 3) +
    (1 - live) * floor1 * floor1;
  f.mean2 = iout;
  f.square2 = two;
  f.mean -= iout;
  f.square = one;
  f.meanA = f.mean;
  f.squareA = one;
  f.squareIn = one - f.mean * f.mean;
}

/** Mean square of a current that is a triangle of height `ripple` over a share of the period, upon a constant. */
function triangle(mean: number, ripple: number, live: number): number {
  const floor = mean - (ripple * live) / 2;
  return floor * floor + floor * ripple * live + (ripple * ripple * live) / 3;
}

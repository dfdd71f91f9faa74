import type { OutputFilter } from '../model/parts.ts';

/** Inductor and capacitor behind a stage. Complex divider Z/(Rs + jωL + R + Z). Elementary. */

/** [H] of a toroid, L = A_L·N². @param al [H] per turn squared @param turns whole turns */
export function toroidInductance(al: number, turns: number): number {
  return al * turns * turns;
}

/** Turns for at least an inductance. */
export function toroidTurns(al: number, henries: number): number {
  return Math.ceil(Math.sqrt(henries / al) - 1e-9);
}

/** Where the filter stands. */
export interface FilterPlace {
  /** [Ω] of the stage, and of the load */
  source: number;
  load: number;
}

/** [V/V] magnitude of the filter's transfer at `frequency` [Hz]. */
export function filterGain(f: OutputFilter, place: FilterPlace, frequency: number): number {
  return polar(f, place, frequency).gain;
}

function polar(f: OutputFilter, place: FilterPlace, frequency: number): { gain: number; phase: number } {
  const w = 2 * Math.PI * frequency;
  let g = 1 / place.load;
  let b = 0;
  // Admittance behind the inductor: load, capacitor with its ESR, damping branch.
  for (const [ohms, farads] of [
    [f.esr, f.capacitance],
    [f.dampingResistance ?? 0, f.dampingCapacitance ?? 0],
  ] as const) {
    if (!farads) continue;
    const x = 1 / (w * farads);
    const square = ohms * ohms + x * x;
    g += ohms / square;
    b += x / square;
  }
  const r = place.source + f.resistance;
  const x = w * f.inductance;
  // 1/(1 + Zs·Y)
  const re = 1 + r * g - x * b;
  const im = r * b + x * g;
  return { gain: 1 / Math.hypot(re, im), phase: -Math.atan2(im, re) };
}

/** [Hz] of inductance with capacitance, undamped. */
export function resonance(f: Pick<OutputFilter, 'inductance' | 'capacitance'>): number {
  return 1 / (2 * Math.PI * Math.sqrt(f.inductance * f.capacitance));
}

/** [Ω] of a stage that regulates, seen by the filter above its loop. Common practice, no source. */
export const REGULATED_SOURCE = 0.01;

/** Gain above which a filter rings for several periods; 3 dB. Common practice, no source. */
export const RINGS = Math.SQRT2;

/** Highest gain and where: scanned over two decades about the resonance, then narrowed by golden section. */
export function filterPeak(f: OutputFilter, place: FilterPlace): { gain: number; frequency: number } {
  const f0 = resonance(f);
  const at = (e: number) => filterGain(f, place, f0 * 10 ** e);
  const LOOKS = 400;
  let best = 0;
  for (let k = 1; k <= LOOKS; k++) if (at(-1 + (2 * k) / LOOKS) > at(-1 + (2 * best) / LOOKS)) best = k;
  let low = -1 + (2 * (best - 1)) / LOOKS;
  let high = -1 + (2 * (best + 1)) / LOOKS;
  const golden = (Math.sqrt(5) - 1) / 2;
  for (let k = 0; k < 40; k++) {
    const a = high - golden * (high - low);
    const b = low + golden * (high - low);
    if (at(a) > at(b)) high = b;
    else low = a;
  }
  const e = (low + high) / 2;
  return { gain: at(e), frequency: f0 * 10 ** e };
}

/** Harmonics summed in what is left of a ripple: the next would change it by far less than a per mille. */
const HARMONICS = 60;

/**
 * [V] peak to peak left of a square ripple of `volts` peak to peak and `duty` at the switching frequency: its
 * Fourier series through the filter, summed with phase over one period.
 */
export function filteredRipple(
  f: OutputFilter,
  place: FilterPlace,
  frequency: number,
  volts: number,
  duty: number,
): number {
  const LOOKS = 256;
  const wave = new Float64Array(LOOKS);
  for (let n = 1; n <= HARMONICS; n++) {
    const amplitude = ((2 * volts) / (Math.PI * n)) * Math.sin(Math.PI * n * duty);
    const { gain, phase } = polar(f, place, n * frequency);
    for (let k = 0; k < LOOKS; k++) {
      wave[k]! += amplitude * gain * Math.cos((2 * Math.PI * n * k) / LOOKS + phase);
    }
  }
  return Math.max(...wave) - Math.min(...wave);
}

/** Best damping with a capacitor of n times the filter's, in series with a resistor. */
export interface Damping {
  /** [Ω] √(L/C) */
  characteristic: number;
  /** [Ω] resistor that makes the peak of the output impedance least */
  resistance: number;
  /** [Ω] that peak */
  peak: number;
}

/**
 * Ro/R0 = √((2 + n)(4 + 3n)/(2n²(4 + n))), |Z|max = R0·√(2(2 + n))/n.
 * Source: Erickson and Maksimović, Fundamentals of Power Electronics, input filter design (from memory).
 */
export function bestDamping(inductance: number, capacitance: number, n: number): Damping {
  const characteristic = Math.sqrt(inductance / capacitance);
  return {
    characteristic,
    resistance: characteristic * Math.sqrt(((2 + n) * (4 + 3 * n)) / (2 * n * n * (4 + n))),
    peak: (characteristic * Math.sqrt(2 * (2 + n))) / n,
  };
}

/** Times the filter's own capacitor that a damping one usually has, and has at most. Common practice, no source. */
const USUAL_DAMPER = 4;
const MOST_DAMPER = 20;

/**
 * The smallest damping branch, from the usual size up, with which the filter no longer rings where it stands; the largest
 * where none is enough.
 * @returns [F] [Ω]
 */
export function quietDamping(
  f: OutputFilter,
  place: FilterPlace,
): { capacitance: number; resistance: number } {
  for (let n = USUAL_DAMPER; ; n++) {
    const capacitance = n * f.capacitance;
    const { resistance } = bestDamping(f.inductance, f.capacitance, n);
    const damped = { ...f, dampingCapacitance: capacitance, dampingResistance: resistance };
    if (n >= MOST_DAMPER || filterPeak(damped, place).gain <= RINGS) return { capacitance, resistance };
  }
}

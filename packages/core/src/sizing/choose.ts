import type { Converter } from '../model/kinds/registry.ts';
import { switchingKind } from '../stages/kinds/registry.ts';
import { boundaryAmps, chargingVolts, idealDuty, type Shape } from '../design/boundary.ts';

/** Values of the parts of a stage, lossless closed forms: good to start from, then the parts are checked. */

/** Ripple of the inductor over its mean: a usual compromise of size and loss. Common practice, no source. */
export const RIPPLE_RATIO = 0.35;

/** Input volts a range is looked at; the worst of a buck-boost lies at neither end. */
const LOOKS = 41;

/** [A] mean current of the inductor, lossless; of both together in a SEPIC. */
export function inductorAmps(shape: Shape, vin: number, vout: number, iout: number, rectifier = 0): number {
  return shape === 'buck' ? iout : iout / (1 - idealDuty(shape, vin, vout, rectifier));
}

/**
 * [H] inductance that keeps the ripple at `ratio` of the mean at one input: L = V·D/(f·r·I).
 * Source: volt-second balance; basic calculations of buck and boost power stages (from memory).
 */
export function inductanceFor(
  shape: Shape,
  vin: number,
  vout: number,
  iout: number,
  frequency: number,
  ratio: number,
  rectifier = 0,
): number {
  const duty = idealDuty(shape, vin, vout, rectifier);
  const ripple = ratio * inductorAmps(shape, vin, vout, iout, rectifier);
  return (chargingVolts(shape, vin, vout) * duty) / (frequency * ripple);
}

/** [H] smallest inductance that keeps the ripple ratio over a range of inputs, and the input that asks for it [V]. */
export function leastInductance(
  kind: Converter['kind'],
  range: { low: number; high: number },
  vout: number,
  iout: number,
  frequency: number,
  ratio: number,
): { inductance: number; vin: number } {
  let worst = { inductance: 0, vin: range.high };
  for (let k = 0; k < LOOKS; k++) {
    const vin = range.low + ((range.high - range.low) * k) / (LOOKS - 1);
    const shape = switchingKind(kind).shapeAt(vin, vout);
    if ((shape === 'boost' && vin >= vout) || (shape === 'buck' && vin <= vout)) continue;
    const inductance = inductanceFor(shape, vin, vout, iout, frequency, ratio);
    if (inductance > worst.inductance) worst = { inductance, vin };
  }
  return worst;
}

/**
 * [F] output capacitance for a ripple of `volts` peak to peak, ESR neglected: buck ΔI/(8·f·ΔV), the others
 * Iout·D/(f·ΔV). Source: as above.
 */
export function outputCapacitance(
  shape: Shape,
  vin: number,
  vout: number,
  iout: number,
  frequency: number,
  inductance: number,
  volts: number,
): number {
  const duty = idealDuty(shape, vin, vout);
  if (shape !== 'buck') return (iout * duty) / (frequency * volts);
  const ripple = (chargingVolts(shape, vin, vout) * duty) / (frequency * inductance);
  return ripple / (8 * frequency * volts);
}

/** [F] input capacitance for a ripple of `volts`: buck Iout·D·(1 − D)/(f·ΔV), the others ΔI/(8·f·ΔV). */
export function inputCapacitance(
  shape: Shape,
  vin: number,
  vout: number,
  iout: number,
  frequency: number,
  inductance: number,
  volts: number,
): number {
  const duty = idealDuty(shape, vin, vout);
  if (shape === 'buck') return (iout * duty * (1 - duty)) / (frequency * volts);
  return (chargingVolts(shape, vin, vout) * duty) / (frequency * inductance * 8 * frequency * volts);
}

/**
 * [V] the output rises by when `step` amperes are released: the inductor's energy goes into the capacitor,
 * (V + dV)² − V² = L·I²/C. Energy conservation.
 */
export function releaseOvershoot(vout: number, inductance: number, farads: number, step: number): number {
  return Math.sqrt(vout * vout + (inductance * step * step) / farads) - vout;
}

/** [F] for an overshoot of `volts` at most, first order: L·I²/(2·V·dV). */
export function capacitanceForRelease(vout: number, inductance: number, step: number, volts: number): number {
  return (inductance * step * step) / (2 * vout * volts);
}

/** [V] dip at a load step with the loop crossing at `crossover` Hz: dI/(2π·fc·C), an upper bound. Common practice. */
export function stepDip(step: number, crossover: number, farads: number): number {
  return step / (2 * Math.PI * crossover * farads);
}

/** [F] for a dip of `volts` at most by the same rule. */
export function capacitanceForStep(step: number, crossover: number, volts: number): number {
  return step / (2 * Math.PI * crossover * volts);
}

/**
 * [V] dip of a current-mode plant with a PI controller that crosses at `crossover` Hz and has its zero at
 * zeroRatio·crossover; capacitor ESR and slew ignored. Closed loop s² + a·s + b with a = ωc/√(1 + z²),
 * b = a·z·ωc; the largest of the response of dI/C·s/(s² + a·s + b) over its overdamped or oscillating form.
 */
export function stepDipPi(step: number, crossover: number, farads: number, zeroRatio: number): number {
  const wc = 2 * Math.PI * crossover;
  const a = wc / Math.sqrt(1 + zeroRatio * zeroRatio);
  const b = a * zeroRatio * wc;
  const disc = a * a - 4 * b;
  if (Math.abs(disc) < 1e-9 * a * a) return (step / farads) * (2 / a) * Math.exp(-1);
  if (disc > 0) {
    const p = (a + Math.sqrt(disc)) / 2;
    const q = (a - Math.sqrt(disc)) / 2;
    const t = Math.log(p / q) / (p - q);
    return ((step / farads) * (Math.exp(-q * t) - Math.exp(-p * t))) / (p - q);
  }
  const w = Math.sqrt(-disc) / 2;
  const t = Math.atan2(w, a / 2) / w;
  return (step / farads / w) * Math.exp((-a / 2) * t) * Math.sin(w * t);
}

/** Duty with a measured efficiency in it: buck Vo/(Vi·η), boost 1 − Vi·η/Vo. Basic calculations (from memory). */
export function dutyFromEfficiency(
  shape: 'buck' | 'boost',
  vin: number,
  vout: number,
  efficiency: number,
): number {
  return shape === 'buck' ? vout / (vin * efficiency) : 1 - (vin * efficiency) / vout;
}

/**
 * Boost that always works at the edge of continuous conduction, with a timing capacitor: the classic design
 * equations of one-chip switching regulators (from memory).
 */
export function edgeBoost(t: {
  /** [V] [V] [A] [Hz] */
  vin: number;
  vout: number;
  iout: number;
  frequency: number;
  /** [V] switch, [V] diode, [V] ripple allowed */
  switchVolts: number;
  diodeVolts: number;
  ripple: number;
}) {
  const ratio = (t.vout + t.diodeVolts - t.vin) / (t.vin - t.switchVolts);
  const onTime = ratio / (1 + ratio) / t.frequency;
  const peak = 2 * t.iout * (ratio + 1);
  return {
    ratio,
    onTime,
    peak,
    inductance: ((t.vin - t.switchVolts) * onTime) / peak,
    /** [Ω] of a 0.3 V limit */
    sense: 0.3 / peak,
    output: (9 * t.iout * onTime) / t.ripple,
    timing: 4e-5 * onTime,
  };
}

/** [A] at which a stage leaves continuous conduction, over a range: its largest. */
export function largestBoundary(
  kind: Converter['kind'],
  range: { low: number; high: number },
  vout: number,
  inductance: number,
  frequency: number,
  rectifier: number,
): number {
  let most = 0;
  for (let k = 0; k < LOOKS; k++) {
    const vin = range.low + ((range.high - range.low) * k) / (LOOKS - 1);
    const amps = boundaryAmps(switchingKind(kind).shapeAt(vin, vout), {
      vin,
      vout,
      rectifier,
      inductance,
      frequency,
    });
    most = Math.max(most, amps);
  }
  return most;
}

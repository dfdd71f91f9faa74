import { levenberg, type Fit } from '../numeric/levenberg.ts';
import type { Curve } from '../numeric/pchip.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';
import { chargeTaken, type Log } from './log.ts';
import { halve } from '../numeric/halve.ts';

/** A value and its standard error, from the scatter of the readings. */
export interface Told {
  value: number;
  error: number;
}

const told = ({ values, errors }: Fit, k: number): Told => ({ value: values[k]!, error: errors[k]! });

/** What a discharge says of a cell whose open-circuit voltage is known. */
export interface DischargeFit {
  /** [Ah] */
  capacity: Told;
  /** [Ω] */
  resistance: Told;
  /** [V] left over */
  rms: number;
  rows: number;
  settled: boolean;
}

/**
 * Capacity and resistance of a discharge: V = OCV(z₀ − q/Q) − I·R, q by the trapezoid, least squares over every row. Elementary;
 * quasi-static: what the branches hold is part of the resistance.
 * @param ocv [V] over the state of charge @param startSoc where it began
 */
export function dischargeFit(log: Log, ocv: Curve, startSoc: number): DischargeFit {
  const { volts, amps } = log;
  const taken = chargeTaken(log);
  const all = taken.at(-1)! / SECONDS_PER_HOUR;
  const mean = all / (log.seconds.at(-1)! / SECONDS_PER_HOUR);
  const left = ([capacity, ohms]: ArrayLike<number> & Iterable<number>) =>
    Float64Array.from(
      volts,
      (v, k) => ocv.at(startSoc - taken[k]! / SECONDS_PER_HOUR / capacity!) - amps[k]! * ohms! - v,
    );
  const fit = levenberg(left, [1.05 * all, 0.05 / mean], [all, 0.05 / mean]);
  return {
    capacity: told(fit, 0),
    resistance: told(fit, 1),
    rms: fit.rms,
    rows: fit.rows,
    settled: fit.status === 'converged',
  };
}

/** A row of a converter on the bench. [V] [A] */
export interface ConverterRow {
  inputVolts: number;
  inputAmps: number;
  outputVolts: number;
  outputAmps: number;
}

/** Loss of a converter as a polynomial, from readings. */
export interface LossFit {
  /** [W] always, [V] per ampere of output, [Ω] per square ampere of input */
  fixed: Told;
  perOutputAmp: Told;
  perInputAmpSquared: Told;
  /** [W] left over, and the row that is furthest off, from 0 */
  rms: number;
  worst: number;
  /** output over input power of each row */
  efficiency: number[];
}

/** Loss = P₀ + k₁·Iout + k₂·Iin² through rows of a bench; unweighted linear least squares. Textbook. */
export function lossFit(rows: readonly ConverterRow[]): LossFit {
  const loss = rows.map((r) => r.inputVolts * r.inputAmps - r.outputVolts * r.outputAmps);
  const left = ([fixed, out, squared]: ArrayLike<number> & Iterable<number>) =>
    Float64Array.from(rows, (r, k) => fixed! + out! * r.outputAmps + squared! * r.inputAmps ** 2 - loss[k]!);
  const fit = levenberg(left, [0, 0, 0], [0.1, 0.1, 0.1]);
  const off = left(fit.values).map(Math.abs);
  return {
    fixed: told(fit, 0),
    perOutputAmp: told(fit, 1),
    perInputAmpSquared: told(fit, 2),
    rms: fit.rms,
    worst: off.indexOf(Math.max(...off)),
    efficiency: rows.map((r) => (r.outputVolts * r.outputAmps) / (r.inputVolts * r.inputAmps)),
  };
}

/** What draws from a cell that lies on the shelf. */
export interface StandbyFit {
  /** [A] */
  current: Told;
  startSoc: Told;
  /** [h] from the start until it is down to a state of charge */
  hoursTo(soc: number): number;
  rms: number;
}

/** Standing current from volts at rest over days: V = OCV(z₀ − I·t/Q), unweighted. Elementary. @param capacityAh known */
export function standbyFit(
  { seconds, volts }: Pick<Log, 'seconds' | 'volts'>,
  ocv: Curve,
  capacityAh: number,
): StandbyFit {
  const charge = SECONDS_PER_HOUR * capacityAh;
  const left = ([soc, amps]: ArrayLike<number> & Iterable<number>) =>
    Float64Array.from(volts, (v, k) => ocv.at(soc! - (amps! * seconds[k]!) / charge) - v);
  const [from, to] = [inverseOf(ocv, volts[0]!), inverseOf(ocv, volts.at(-1)!)];
  const guess = Math.max(1e-7, ((from - to) * charge) / seconds.at(-1)!);
  const fit = levenberg(left, [from, guess], [0.1, guess]);
  const [startSoc, current] = [told(fit, 0), told(fit, 1)];
  return {
    current,
    startSoc,
    hoursTo: (soc) => ((startSoc.value - soc) * charge) / current.value / SECONDS_PER_HOUR,
    rms: fit.rms,
  };
}

/** What stands between a cell and a known load: I = P/(η·V) + I₀, linear least squares. [A] Elementary. */
export function inputFit(
  { volts, amps }: Pick<Log, 'volts' | 'amps'>,
  watts: ArrayLike<number>,
): { efficiency: Told; standby: Told; rms: number } {
  const left = ([inverse, standby]: ArrayLike<number> & Iterable<number>) =>
    Float64Array.from(amps, (a, k) => (inverse! * watts[k]!) / volts[k]! + standby! - a);
  const fit = levenberg(left, [1, 0], [1, 0.01]);
  const inverse = fit.values[0]!;
  return {
    efficiency: { value: 1 / inverse, error: fit.errors[0]! / inverse ** 2 },
    standby: told(fit, 1),
    rms: fit.rms,
  };
}

/** Where volts settle after a load is gone. */
export interface Relaxed {
  /** [V] they settle at, [s] by which the rest falls to 1/e */
  volts: Told;
  tau: Told;
  settled: boolean;
}

/** A rest that was too short, carried on: V = V∞ − A·e^(−t/τ), unweighted least squares. Common practice for one branch. */
export function relaxFit({ seconds, volts }: Pick<Log, 'seconds' | 'volts'>): Relaxed {
  const [first, last] = [volts[0]!, volts.at(-1)!];
  const span = seconds.at(-1)! - seconds[0]!;
  const left = ([end, by, tau]: ArrayLike<number> & Iterable<number>) =>
    Float64Array.from(volts, (v, k) => end! - by! * Math.exp(-seconds[k]! / Math.abs(tau!)) - v);
  const rise = Math.max(1e-3, Math.abs(last - first));
  const fit = levenberg(left, [last + 0.2 * (last - first), last - first, span / 2], [rise, rise, span]);
  return { volts: told(fit, 0), tau: told(fit, 2), settled: fit.status === 'converged' };
}

/** State of charge that volts at rest mean. */
export interface Rested {
  soc: number;
  /** half width by what the meter may be off */
  error: number;
  /** so flat there that a meter's error is more than a twentieth of the charge to either side */
  flat: boolean;
}

const FLAT = 0.05;

/** State of charge from volts at rest, and how far a meter's error reaches. @param error [V] */
export function socFromRest(ocv: Curve, volts: number, error: number): Rested {
  const [low, high] = [inverseOf(ocv, volts - error), inverseOf(ocv, volts + error)];
  const half = (high - low) / 2;
  return { soc: inverseOf(ocv, volts), error: half, flat: half > FLAT };
}

/** Where a curve that never falls stands at a value, in its own bounds. */
export function inverseOf(curve: Curve, value: number): number {
  const [low, high] = halve(curve.from, curve.to, (x) => !(curve.at(x) < value), 50);
  return (low + high) / 2;
}

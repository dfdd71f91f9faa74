import { NINETY } from '../belief/firstOrder.ts';
import { METER } from '../logs/meter.ts';
import type { BenchReading } from '../model/readings.ts';
import type { InstrumentKind, PlanStep } from './step.ts';

/** Accuracy of an instrument of which nothing is said, as a share of the reading. Common practice, no source: a hand-held meter. */
export const USUAL_ACCURACY: Readonly<Record<InstrumentKind, number>> = {
  eyes: 0,
  volts: METER,
  amps: 0.015,
  clock: 0.005,
};
/** Deviations within which a reading is as predicted, and beyond which two of one thing are at odds. */
const AS_PREDICTED = 2;
const AT_ODDS = 3;

/** A step with what has been read there. */
export interface Compared {
  /** mean of the readings; absent where there is none */
  value?: number;
  count: number;
  /** by how many deviations of prediction and instrument together it is above what was predicted */
  off?: number;
  verdict: 'open' | 'seen' | 'inRange' | 'off' | 'atOdds';
  /** the reading is a thousand times too much or too little: perhaps in another unit */
  perhaps?: 'thousand' | 'thousandth';
}

/**
 * Readings of a step against its prediction: their mean, off by how many deviations, those of the prediction's range (normal
 * between its 10 and 90 %) and of the instrument added as squares. Readings that cannot both be true are told, none is dropped.
 */
export function compare(step: PlanStep, readings: readonly BenchReading[]): Compared {
  const own = readings.filter((r) => r.step === step.id);
  const count = own.length;
  if (count === 0) return { count, verdict: 'open' };
  const value = own.reduce((s, r) => s + r.value, 0) / count;
  if (step.unit === '' || !step.predicted) return { count, value, verdict: 'seen' };
  const { predicted } = step;
  const error = (r: BenchReading) => (r.accuracy ?? USUAL_ACCURACY[step.instrument]) * Math.abs(r.value);
  const read = Math.hypot(...own.map(error)) / count;
  const known = (predicted.p90 - predicted.p10) / (2 * NINETY);
  const off = (value - predicted.value) / Math.max(Math.hypot(read, known), 1e-12);
  const [least, most] = [Math.min(...own.map((r) => r.value)), Math.max(...own.map((r) => r.value))];
  const apart = most - least > AT_ODDS * Math.SQRT2 * Math.max(...own.map(error));
  const verdict = apart ? 'atOdds' : Math.abs(off) <= AS_PREDICTED ? 'inRange' : 'off';
  return { count, value, off, verdict, ...unitOf(value / predicted.value) };
}

/** Share of a thousand by which a ratio may miss it and still be a matter of its unit. */
const NEARLY = 0.4;

function unitOf(ratio: number): Pick<Compared, 'perhaps'> {
  if (Math.abs(ratio / 1000 - 1) < NEARLY) return { perhaps: 'thousand' };
  return Math.abs(ratio * 1000 - 1) < NEARLY ? { perhaps: 'thousandth' } : {};
}

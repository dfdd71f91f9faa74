import { isConverter } from '../model/kinds/registry.ts';
import { surroundingsOf, type ThreadDocument } from '../model/thread.ts';
import { readingOf } from '../run/reading/reading.ts';
import type { RunResult } from '../run/account/result.ts';
import { mostHeat } from '../stages/laws/converter.ts';
import { limitsOf } from '../stages/limits.ts';
import type { PartsLaw } from '../stages/parts/partsLaw.ts';
import { partsLaw } from '../stages/traits.ts';
import { halve } from '../numeric/halve.ts';
import { leastOn } from './held.ts';

export type LimitedBy = 'peak limit' | 'saturation' | 'duty' | 'heat' | 'output limit';

/** Largest output current at one input, and what stops it there. */
export interface MostOutput {
  /** [A] */
  amps: number;
  by: LimitedBy;
}

/** What a stage at parts depth must stay within. */
export interface Bounds {
  /** [A] */
  peak: number;
  saturation: number;
  output: number;
  /** [W] in the package */
  heat: number;
}

/** [A] Nothing looked at goes beyond. */
const LARGEST = 2000;

/** Halvings of an interval: to 1e-9 of the largest. */
const HALVINGS = 44;

/** Largest x in [0, most] with fits(x), for a condition that once broken stays broken. */
function largest(most: number, fits: (x: number) => boolean): number {
  if (fits(most)) return most;
  return halve(0, most, (x) => !fits(x), HALVINGS)[0];
}

/** Smallest x in [low, high] with fits(x), for a condition that once met stays met; NaN where `high` does not fit. */
function smallest(low: number, high: number, fits: (x: number) => boolean): number {
  if (!fits(high)) return NaN;
  return halve(low, high, fits, HALVINGS)[1];
}

/** [A] peak of the inductor's current; Infinity where no duty carries the load. */
function peakAt(law: PartsLaw, vin: number, vout: number, iout: number): number {
  const point = law.at(vin, vout, iout);
  return point.inputAmps === Infinity ? Infinity : point.period.peak;
}

/**
 * Largest output current a stage can give while what hangs on it gets enough. @param vin [V] @param set [V] it holds where it
 * can @param least [V] that is enough: below the set volts it follows its input down
 */
export function mostOutput(
  law: PartsLaw,
  vin: number,
  set: number,
  bounds: Bounds,
  least: number = set,
): MostOutput {
  const at = (amps: number) => Math.min(set, Math.max(least, law.ceiling(vin, amps)));
  const peak = (amps: number) => peakAt(law, vin, at(amps), amps);
  const found: MostOutput[] = [
    { by: 'output limit', amps: Math.min(bounds.output, LARGEST) },
    { by: 'duty', amps: largest(LARGEST, (i) => law.ceiling(vin, i) >= least * (1 - 1e-12)) },
    { by: 'peak limit', amps: largest(LARGEST, (i) => peak(i) <= bounds.peak) },
    { by: 'saturation', amps: largest(LARGEST, (i) => peak(i) <= bounds.saturation) },
    {
      by: 'heat',
      amps: largest(LARGEST, (i) => law.at(vin, at(i), i).heat <= bounds.heat),
    },
  ];
  return found.reduce((a, b) => (b.amps < a.amps ? b : a));
}

/** Smallest input that carries a load, by what stops it. [V] NaN where none up to `high` does. */
export interface LeastInput {
  peak: number;
  duty: number;
  least: number;
  by: 'peak limit' | 'duty';
}

/** @param vout [V] @param iout [A] @param high [V] where it surely works */
export function leastInput(
  law: PartsLaw,
  vout: number,
  iout: number,
  peakLimit: number,
  high: number,
): LeastInput {
  const low = 0.01 * vout;
  const duty = smallest(low, high, (v) => law.ceiling(v, iout) >= vout);
  const peak = smallest(low, high, (v) => peakAt(law, v, vout, iout) <= peakLimit);
  return { duty, peak, least: Math.max(duty, peak), by: peak > duty ? 'peak limit' : 'duty' };
}

/** The least input that carries what is asked of a stage at the most over a run. */
export interface LeastOverRun extends LeastInput {
  /** [A] */
  asked: number;
}

/** What a stage could give, and what is asked of it, at an instant of a run. */
export interface LimitPoint extends MostOutput {
  /** [s] [V] [A] */
  time: number;
  vin: number;
  asked: number;
}

/** Inputs of a run looked at. */
const LOOKS = 32;

/** A stage with parts, its law, and what comes to it and is asked of it over a run; undefined where it is not looked at. */
function lookedAt(doc: ThreadDocument, run: RunResult, id: string) {
  const k = doc.stages.findIndex((s) => s.id === id);
  const stage = doc.stages[k];
  if (!stage || !isConverter(stage) || !stage.parts) return undefined;
  const { inductor } = stage.parts;
  const law = partsLaw(stage);
  const reading = readingOf(run);
  const instants: Pick<LimitPoint, 'time' | 'vin' | 'asked'>[] = [];
  for (let n = 0; n <= LOOKS; n++) {
    const row = reading.rowAt((n / LOOKS) * reading.time(reading.last));
    const time = reading.time(row);
    const { inputVolts: vin, outputAmps: asked } = reading.stageReading(row, k);
    if (!(vin > 0) || (instants.length > 0 && time <= instants.at(-1)!.time)) continue;
    instants.push({ time, vin, asked });
  }
  const currents = { peak: law.bridge.peakLimit, saturation: inductor.saturationCurrent ?? Infinity };
  return { stage, parts: stage.parts, law, currents, instants };
}

/**
 * Largest output current of a stage with parts over a run, up to the useful end.
 * @returns empty for stages that are not looked at: without parts, or a run without any input
 */
export function limitsOverRun(doc: ThreadDocument, run: RunResult, id: string): LimitPoint[] {
  const looked = lookedAt(doc, run, id);
  if (!looked) return [];
  const { stage, parts, law, currents, instants } = looked;
  const { air } = surroundingsOf(doc);
  const { integrated, thermalResistance, maxJunction } = parts;
  const bounds: Bounds = {
    ...currents,
    output: limitsOf(stage).output,
    heat: integrated ? mostHeat(air, thermalResistance, maxJunction) : Infinity,
  };
  const enough = leastOn(doc, stage);
  return instants.map((at) => ({ ...mostOutput(law, at.vin, stage.outputVolts, bounds, enough), ...at }));
}

/** The least a stage could give over a run; undefined where it is not looked at. */
export function mostOutputOverRun(doc: ThreadDocument, run: RunResult, id: string): LimitPoint | undefined {
  const points = limitsOverRun(doc, run, id);
  return points.length === 0 ? undefined : points.reduce((a, b) => (b.amps < a.amps ? b : a));
}

/** How low an input a stage with parts works from at the most that a run asks of it; undefined where it is not looked at. */
export function leastInputOverRun(doc: ThreadDocument, run: RunResult, id: string): LeastOverRun | undefined {
  const looked = lookedAt(doc, run, id);
  if (!looked) return undefined;
  const { stage, law, currents, instants } = looked;
  const asked = Math.max(...instants.map((p) => p.asked));
  if (!(asked > 0)) return undefined;
  const peak = Math.min(currents.peak, currents.saturation);
  const found = leastInput(law, leastOn(doc, stage), asked, peak, limitsOf(stage).maxInput);
  return found.least > 0 ? { ...found, asked } : undefined;
}

import type { ThreadDocument } from '../model/thread.ts';
import { compile, type Plant } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import { idleDraw } from './idle.ts';
import { ProgrammedRun } from './programmed.ts';
import { Recorder } from './recorder.ts';
import type { RunAnswers, RunResult } from './result.ts';
import { scheduleOf } from './schedule.ts';
import type { Series } from './series.ts';
import { SteadyRun, type RunOptions } from './steady.ts';

export type { RunOptions } from './steady.ts';

/**
 * Run a thread down from its starting charge to its dead end: by its programme, or with every load on where it has none.
 * @param doc a valid document (decodeThread); a programmer's error otherwise
 * @returns the whole run; never NaN, always ends
 */
export function simulate(
  doc: ThreadDocument,
  options: RunOptions = {},
  conditions: Partial<Conditions> = {},
): RunResult {
  return runPlant(compile(doc, conditions), options);
}

/** Run a plant down, rows and idle draw included. */
export function runPlant(plant: Plant, options: RunOptions = {}): RunResult {
  const recorder = new Recorder(plant, options.rows ?? 0);
  const run = rundown(plant, options, recorder);
  const answers = run.toEnd();
  const series: Series = recorder.finish();
  const envelope = run.envelopeRows();
  return { ...answers, series, idle: idleDraw(plant), ...(envelope.length > 0 ? { envelope } : {}) };
}

/** The answers of a run alone: no rows, no idle draw. */
export function answersOf(plant: Plant, options: RunOptions = {}): RunAnswers {
  return rundown(plant, options).toEnd();
}

/** The driver of a thread's run: of its programme where it has one. */
function rundown(plant: Plant, options: RunOptions, recorder?: Recorder): SteadyRun {
  const schedule = plant.conditions.mode !== undefined ? undefined : scheduleOf(plant.doc);
  return schedule
    ? new ProgrammedRun(plant, options, recorder, schedule)
    : new SteadyRun(plant, options, recorder);
}

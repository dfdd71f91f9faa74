import type { ThreadDocument } from '../model/thread.ts';
import { compile, type Plant } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import { EnvelopeSum } from './account/envelope.ts';
import { Ground, type RunOptions } from './keepers/ground.ts';
import { NothingDraws } from './keepers/guard.ts';
import { idleDraw } from './idle.ts';
import { Programme } from './timeline/programme.ts';
import { Recorder } from './account/recorder.ts';
import type { EnvelopeRow, RunAnswers, RunResult } from './account/result.ts';
import { Run } from './run.ts';
import { scheduleOf, type Schedule } from './timeline/schedule.ts';
import { CycleSkip } from './skip/skip.ts';

export type { RunOptions } from './keepers/ground.ts';

/** [s] Runs end here at the latest: ten years. */
export const TIME_LIMIT = 10 * 365.25 * 86400;

/** Where loads switch all the time a step begins longer and grows faster; one that bends too much is taken again. */
export const PROGRAMMED = { first: 1, growth: 9 };
/** Cycles taken one by one in all before a run is given up. */
const MOST_CYCLES = 4000;

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
  const { run, envelope } = rundown(plant, options, recorder);
  const answers = run.toEnd();
  const series = recorder.finish();
  const rows: EnvelopeRow[] = envelope?.rows ?? [];
  return { ...answers, series, idle: idleDraw(plant), ...(rows.length > 0 ? { envelope: rows } : {}) };
}

/** The answers of a run alone: no rows, no idle draw. */
export function answersOf(plant: Plant, options: RunOptions = {}): RunAnswers {
  return rundown(plant, options).run.toEnd();
}

/** The run of a thread: by its programme where it has one. */
function rundown(
  plant: Plant,
  options: RunOptions,
  recorder?: Recorder,
): { run: Run; envelope?: EnvelopeSum } {
  const schedule = plant.conditions.mode !== undefined ? undefined : scheduleOf(plant.doc);
  if (schedule) return programmed(new Ground(plant, { ...PROGRAMMED, ...options }, recorder), schedule);
  const ground = new Ground(plant, options, recorder);
  const keepers = [ground.holds, ground.loads, ground.board, new NothingDraws(ground.state)];
  return { run: new Run(ground, { keepers, tracks: [], horizon: TIME_LIMIT }) };
}

/** The same by a programme. */
function programmed(ground: Ground, schedule: Schedule): { run: Run; envelope: EnvelopeSum } {
  const { holds, loads, board, plant, ledger } = ground;
  const envelope = new EnvelopeSum(plant, ledger);
  const keepers = [holds, loads, board];
  const programme = new Programme(ground, schedule, {
    skip: new CycleSkip(ground, schedule, keepers, envelope),
    envelope,
    most: MOST_CYCLES,
    // A mode in which nothing draws is no end, a cycle is.
    still: (took) => (took > 0 ? undefined : 'nothingDraws'),
    until: () => TIME_LIMIT,
  });
  const run = new Run(ground, {
    keepers,
    tracks: [programme],
    horizon: TIME_LIMIT,
    worked: () => programme.worked(),
  });
  return { run, envelope };
}

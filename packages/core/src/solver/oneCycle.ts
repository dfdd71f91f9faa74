import type { ThreadDocument } from '../model/thread.ts';
import { compile } from '../plant/compile.ts';
import { ProgrammedRun } from './programmed.ts';
import { Recorder } from './recorder.ts';
import { scheduleOf } from './schedule.ts';
import type { Series } from './series.ts';

/** One cycle of a programme, resolved. Times from its beginning. */
export interface OneCycle {
  series: Series;
  /** state of charge it began at */
  soc: number;
  /** whether it was carried to its end */
  through: boolean;
}

/** Rows of a cycle besides the ends of its steps: enough for a smooth line. */
const ROWS_PER_CHARGE = 20_000;

/**
 * One cycle at a state of charge, its branches as the cycles before leave them.
 * @returns undefined for a thread that has no cycle
 */
export function cycleAt(doc: ThreadDocument, soc: number): OneCycle | undefined {
  const schedule = scheduleOf(doc);
  if (!schedule) return undefined;
  const plant = compile(doc, { startSoc: soc });
  const recorder = new Recorder(plant, ROWS_PER_CHARGE);
  const run = new ProgrammedRun(plant, {}, recorder, { ...schedule, first: schedule.stretches });
  const through = run.oneCycle();
  return { series: recorder.finish(), soc, through };
}

import type { ThreadDocument } from '../model/thread.ts';
import { compile } from '../plant/compile.ts';
import { CycleProbe } from './skip/cycleProbe.ts';
import { Ground } from './keepers/ground.ts';
import { Programme } from './timeline/programme.ts';
import { Recorder } from './account/recorder.ts';
import { Run } from './run.ts';
import { PROGRAMMED } from './rundown.ts';
import { scheduleOf } from './timeline/schedule.ts';
import type { Series } from './account/series.ts';

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
 * One cycle at a state of charge, its branches as the cycles before leave them, where they settle.
 * @returns undefined for a thread that has no cycle
 */
export function cycleAt(doc: ThreadDocument, soc: number): OneCycle | undefined {
  const schedule = scheduleOf(doc);
  if (!schedule) return undefined;
  const plant = compile(doc, { startSoc: soc });
  const recorder = new Recorder(plant, ROWS_PER_CHARGE);
  const ground = new Ground(plant, PROGRAMMED, recorder);
  const { state, holds, loads, board } = ground;
  const settled = schedule.repeats ? new CycleProbe(ground, schedule, [holds]).settle(soc) : undefined;
  Object.assign(state, { soc, time: 0, volts: NaN, amps: NaN });
  if (settled) state.put(settled.slow);
  else state.rest();
  const again = { ...schedule, first: schedule.stretches };
  const horizon = schedule.period;
  const programme = new Programme(ground, again, { most: 1, until: () => horizon });
  const run = new Run(ground, { keepers: [holds, loads, board], tracks: [programme], horizon });
  const { deadEnd } = run.toEnd();
  return { series: recorder.finish(), soc, through: deadEnd.reason === 'timeLimit' };
}

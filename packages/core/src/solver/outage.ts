import type { Draws } from '../loads/draws.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { compileCharging } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';
import { meanDraws } from './atTime.ts';
import { Carried } from './carried.ts';
import { ChargeKeeper } from './chargeKeeper.ts';
import { ChargeReading } from './chargeReading.ts';
import { Ground, type RunOptions } from './ground.ts';
import { Mains, type Gone } from './mains.ts';
import type { OutageResult } from './outageResult.ts';
import { Programme } from './programme.ts';
import { Recorder } from './recorder.ts';
import { Run } from './run.ts';
import { scheduleOf, stretchesBetween } from './schedule.ts';

export type { Gone } from './mains.ts';

/** [s] Programmes that repeat faster than this are taken by their mean: an hour. */
const SLOW = SECONDS_PER_HOUR;
/** Rows for a whole charge. */
const ROWS = 24;

/**
 * A timeline of mains: where the pack gives nothing more, all is dark until mains or the loads change.
 * @param doc a thread that says how it is charged; a programmer's error otherwise
 * @param gone when mains is gone, in order, apart from each other @param horizon [s]
 */
export function outage(
  doc: ThreadDocument,
  gone: readonly Gone[],
  horizon: number,
  conditions: Partial<Conditions> = {},
  options: RunOptions = {},
): OutageResult {
  const plant = compileCharging(doc, { startSoc: 1, ...conditions });
  const found = plant.conditions.mode === undefined ? scheduleOf(plant.doc) : undefined;
  const slow = found && (!found.repeats || found.period >= SLOW) ? found : undefined;
  const recorder = new Recorder(plant, options.rows ?? ROWS);
  const ground = new Ground(plant, options, recorder);
  const { holds, loads, board, state } = ground;
  const steady: Draws | undefined = slow
    ? undefined
    : found
      ? meanDraws(plant.doc, found)
      : plant.path.network.draws;
  if (steady) loads.begin(steady, true);
  const charger = new ChargeKeeper(plant, state, true);
  const mains = new Mains(state, gone, [holds, loads, charger]);
  const carried = new Carried(ground, mains, (from, to) =>
    steady ? [{ seconds: to - from, draws: steady }] : stretchesBetween(slow!, from, to),
  );
  const programme = slow && new Programme(ground, slow, { most: Infinity, until: () => mains.next });
  const run = new Run(ground, {
    keepers: [holds, loads, charger, carried, board],
    tracks: programme ? [mains, programme] : [mains],
    mains,
    horizon,
  });
  const answers = run.toEnd();
  const series = recorder.finish();
  return {
    end: { time: answers.deadEnd.time, whole: answers.deadEnd.reason === 'timeLimit' },
    who: carried.who.filter((w) => w.to > w.from),
    dark: carried.gaps,
    unserved: carried.unserved,
    byMean: found !== undefined && !slow,
    lowest: lowestOf(new ChargeReading(series)),
    ledger: answers.ledgerAtDead,
    loadRanges: answers.loadRanges,
    counts: answers.counts,
    series,
  };
}

/** State of charge at its lowest, with [s] when. */
function lowestOf(rows: ChargeReading): { soc: number; time: number } {
  const row = rows.best((r) => -rows.at(r, 'soc'));
  return { soc: Math.max(0, rows.at(row, 'soc')), time: rows.at(row, 'time') };
}

import { repeatsWithin } from '../model/cycle.ts';
import { FAST, type Plant } from '../plant/compile.ts';
import { meanDraws } from './timeline/meanDraws.ts';
import { Balancer } from './keepers/balancer.ts';
import { Carried } from './keepers/carried.ts';
import { OverCharge } from './keepers/full.ts';
import { ChargeKeeper } from './keepers/chargeKeeper.ts';
import { Reading } from './reading/reading.ts';
import { Ground, type RunOptions } from './keepers/ground.ts';
import type { Track } from './timeline/track.ts';
import { hoursOf } from './look/hours.ts';
import type { Faces } from './look/face.ts';
import { Look } from './look/look.ts';
import { Mains } from './timeline/mains.ts';
import type { Gone, OutageResult, Stretched, Who } from './account/outageResult.ts';
import { Programme } from './timeline/programme.ts';
import { Recorder } from './account/recorder.ts';
import { Run } from './run.ts';
import { scheduleOf, stretchesBetween } from './timeline/schedule.ts';
import { CycleSkip } from './skip/skip.ts';
import { Thermistor } from './keepers/thermistor.ts';

/** Cycles of them taken one by one. */
const MOST_CYCLES = 2000;
/** Looks at groups that bleed are so many times as rare as in a charge. */
const PACE = 10;
/** Rows for a whole charge. */
const ROWS = 24;

/**
 * Runs a plant over a timeline of mains.
 * @param how.byMean whether a programme that repeats within the hour is taken by its mean draw @param how.bleeds whether a board bleeds
 * @param how.faces by a look on these rather than by steps
 */
export function onTimeline(
  plant: Plant,
  gone: readonly Gone[],
  horizon: number,
  options: RunOptions,
  { byMean, bleeds, faces }: { byMean: boolean; bleeds: boolean; faces?: Faces },
): OutageResult {
  const schedule = plant.conditions.mode === undefined ? scheduleOf(plant.doc) : undefined;
  const recorder = new Recorder(plant, options.rows ?? ROWS);
  const ground = new Ground(plant, options, recorder);
  const { holds, loads, board, state, ledger, march } = ground;
  const steady = !schedule ? plant.path.network.draws : byMean ? meanDraws(schedule.stretches) : undefined;
  const look =
    faces && new Look(ground, hoursOf(plant.path.network.draws, schedule, plant.pack.warmth), faces);
  if (steady && !look) loads.begin(steady, true);
  const charger = new ChargeKeeper(plant, state, true, new Thermistor(plant));
  const balancer = bleeds ? [new Balancer(plant, state, ledger, PACE)] : [];
  const mains = new Mains(state, gone, [holds, loads, charger]);
  const fast = !steady && repeatsWithin(plant.doc, FAST);
  const period = fast ? schedule!.period : 0;
  const carried = new Carried(ground, mains, period, (from, to) =>
    steady ? [{ seconds: to - from, draws: steady }] : stretchesBetween(schedule!, from, to),
  );
  const keepers = [holds, loads, charger, carried, ...balancer, new OverCharge(march.before), board];
  const tracks: Track[] = [mains];
  let programme: Programme | undefined;
  if (!steady && !look) {
    const skip = new CycleSkip(ground, schedule!, keepers);
    const until = () => Math.min(horizon, mains.next);
    const most = fast ? MOST_CYCLES : Infinity;
    programme = new Programme(ground, schedule!, { skip, most, until });
    tracks.push(programme);
  }
  const run = new Run(ground, {
    keepers,
    tracks,
    mains,
    ...(look && { pace: look }),
    horizon,
  });
  const answers = run.toEnd();
  const series = recorder.finish();
  return {
    end: {
      time: answers.deadEnd.time,
      whole: answers.deadEnd.reason === 'timeLimit',
      ...(answers.deadEnd.reason === 'charged' ? { overCharged: true } : {}),
    },
    who: asOne(carried.who, period),
    dark: carried.gaps,
    unserved: carried.unserved,
    byMean,
    ...(programme && fast ? { cycles: { begins: programme.begins, period } } : {}),
    lowest: notBelowEmpty(look?.lowest ?? lowestOf(new Reading(series))),
    ledger: answers.ledgerAtDead,
    loadRanges: answers.loadRanges,
    counts: answers.counts,
    series,
  };
}

/** Who carries, without what lasted no time; what changes within each cycle of a programme [s] is carried by both. */
function asOne(who: readonly Stretched<Who>[], period: number): Stretched<Who>[] {
  const all: Stretched<Who>[] = [];
  for (const { what, from, to } of who) {
    if (!(to > from)) continue;
    const last = all.at(-1);
    const brief = what !== 'nobody' && last !== undefined && last.what !== 'nobody' && from === last.to;
    if (brief && to - from < period && (last.what === 'both' || last.to - last.from < period)) {
      last.what = last.what === what ? what : 'both';
      last.to = to;
    } else if (brief && last.what === what) last.to = to;
    else all.push({ what, from, to });
  }
  return all;
}

/** State of charge at its lowest, with [s] when. */
function lowestOf(rows: Reading): { soc: number; time: number } {
  const row = rows.best((r) => -rows.at(r, 'soc'));
  return { soc: rows.at(row, 'soc'), time: rows.at(row, 'time') };
}

/** A run ends a little below empty. */
function notBelowEmpty({ soc, time }: { soc: number; time: number }): { soc: number; time: number } {
  return { soc: Math.max(0, soc), time };
}

import type { ThreadDocument } from '../model/thread.ts';
import { compile, type Plant, type SharedPaths } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import { TIME_LIMIT } from './rundown.ts';
import { scheduleOf } from './timeline/schedule.ts';
import { cycleOf } from './quick/cycle.ts';
import { Asker } from './quick/asker.ts';
import { Levels } from './quick/levels.ts';
import { SIDE, Sides, type Side } from './quick/sides.ts';
import { Walk } from './quick/walk.ts';

/** Demands worked out before it is left to the run. */
const EFFORT = 200_000;
/** Share of the time, and [s], by which bounds are set further apart: what lines between levels leave. */
const PAD = 1.5e-3;
const PAD_SECONDS = 1;

/** Why a look does not say: what is drawn never repeats, cells side by side differ, something gives way before the end, too much to work out. */
export type Open = 'once' | 'unlikeCells' | 'givesWay' | 'unfinished';

/** The same, as the beginning of a sentence; on a screen and on paper. */
export const OPEN_WORDS: Readonly<Record<Open, string>> = {
  once: 'Its programme does not repeat',
  unlikeCells: 'Cells side by side that differ share what flows as it goes',
  givesWay: 'Something gives way before its end',
  unfinished: 'There is too much to work out',
};

/** How long a thread is of use, without running it. */
export type Quick =
  /** [s] the run is of use for at least `earliest` and at most `latest`; `likely` is near. `endsIn`: the mode it ends in, by its id */
  | { kind: 'bounds'; earliest: number; likely: number; latest: number; endsIn?: string }
  | { kind: 'open'; why: Open };

/**
 * How long a thread is of use, between bounds: by what cells lose in each of its draws at two dozen states of charge, with branches and
 * warmth as bad as they can be, and as good. Nothing is stepped. How far the run lies from it is measured (docs/benchmarks.md).
 * @param doc a valid document (decodeThread) @param shared see `compile`
 */
export function quickLook(
  doc: ThreadDocument,
  conditions: Partial<Conditions> = {},
  shared?: SharedPaths,
): Quick {
  return quickLookAt(compile(doc, conditions, shared));
}

/** The same of a plant as it was compiled. */
function quickLookAt(plant: Plant): Quick {
  const { doc, path, pack, conditions } = plant;
  const schedule = conditions.mode === undefined ? scheduleOf(doc) : undefined;
  if (schedule && !schedule.repeats) return { kind: 'open', why: 'once' };
  if (pack.sharing) return { kind: 'open', why: 'unlikeCells' };
  const { network } = path;
  network.effort.allow(EFFORT);
  const cycle = cycleOf(network.draws, schedule);
  const asker = new Asker(plant, cycle.draws[(cycle.first[0] ?? cycle.turns[0]!).draws]!);
  const sides = new Sides(asker, cycle);
  const levels = new Levels(sides, cycle, conditions.startSoc);
  const end = (side: Side) => new Walk(levels, side, cycle, TIME_LIMIT).toEnd();
  const [early, mean, late] = [end(SIDE.early), end(SIDE.mean), end(SIDE.late)];
  if (network.effort.spent || !early || !mean || !late) return { kind: 'open', why: 'unfinished' };
  if (sides.less >= 0) return { kind: 'open', why: 'givesWay' };
  const { cutoff, trip, short } = pack.delays;
  const likely = mean.time;
  const endsIn = doc.modes?.[mean.mode]?.id;
  return {
    kind: 'bounds',
    earliest: Math.max(0, Math.min(early.time * (1 - PAD), likely) - PAD_SECONDS),
    likely,
    latest: Math.min(
      TIME_LIMIT,
      Math.max(late.time, likely) * (1 + PAD) + PAD_SECONDS + Math.max(cutoff, trip, short),
    ),
    ...(schedule && endsIn !== undefined ? { endsIn } : {}),
  };
}

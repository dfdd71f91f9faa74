import type { ThreadDocument } from '../../model/thread.ts';
import { readingOf, type Reading } from './reading.ts';
import type { RunResult } from '../account/result.ts';
import { scheduleOf, stretchAt, type Schedule, type Stretch } from '../timeline/schedule.ts';
import { ROW } from '../account/series.ts';

/** The worst instant of the cells, or of the rail a load hangs on. */
export interface WorstInstant {
  /** `cells`, or the id of a load */
  of: string;
  /** [s] and the row it was read at */
  time: number;
  row: number;
  /** [s] at which a row of that time is read that comes last before the loads switch */
  look: number;
  /** [V] lowest at the load while it draws; of the cells [A] most of one */
  value: number;
  /** id of the mode then; absent without a programme */
  mode?: string;
  /** ids of the loads that are at a peak then */
  peaks: string[];
}

/** The mode and the peaks at each row of a run by a programme; none of a steady one. */
export class Doings {
  private readonly schedule: Schedule | undefined;

  constructor(
    private readonly doc: ThreadDocument,
    private readonly reading: Reading,
  ) {
    this.schedule = scheduleOf(doc);
  }

  /** What the loads do at a row; undefined where they are simply on. */
  at(row: number): Stretch | undefined {
    const { schedule, reading } = this;
    if (!schedule) return undefined;
    const time = reading.time(row);
    // Where the loads switch, the first of two rows of one time is the end of what was.
    const ends = row + 1 < reading.count && reading.time(row + 1) === time;
    return stretchAt(schedule, time, ends);
  }

  /** The same in words of the thread: the mode's id, the ids of the loads at a peak. */
  words(row: number): { mode?: string; peaks: string[] } {
    const stretch = this.at(row);
    if (!stretch) return { peaks: [] };
    const id = this.doc.modes?.[stretch.mode]?.id;
    const peaks = stretch.peaks.map((l) => this.doc.loads[l]!.id);
    return { ...(id === undefined ? {} : { mode: id }), peaks };
  }
}

/** Worst instants up to the useful end: the cells first, then each load that draws something. */
export function worstInstants(doc: ThreadDocument, run: RunResult): WorstInstant[] {
  const reading = readingOf(run);
  const doings = new Doings(doc, reading);
  const at = (of: string, row: number, value: number): WorstInstant => ({
    ...{ of, time: reading.time(row), row, look: lookAt(reading, row), value },
    ...doings.words(row),
  });
  const cells = reading.extremes(ROW.cellAmps);
  const found = [at('cells', cells.mostRow, cells.most)];
  doc.loads.forEach(({ id }, l) => {
    const row = lowestRow(reading, l);
    if (row !== undefined) found.push(at(id, row, reading.at(row, reading.load(l, 'volts'))));
  });
  return found;
}

/** Share of the way from the row before at which a row is read that another of the same time follows. */
const NEARLY = 1 - 1e-6;

function lookAt(reading: Reading, row: number): number {
  const time = reading.time(row);
  const ends = row + 1 < reading.count && reading.time(row + 1) === time;
  if (!ends || row === 0) return time;
  const from = reading.time(row - 1);
  return from + NEARLY * (time - from);
}

function lowestRow(reading: Reading, l: number): number | undefined {
  const [volts, amps] = [reading.load(l, 'volts'), reading.load(l, 'amps')];
  let found: number | undefined;
  for (let row = 0; row <= reading.last; row++) {
    if (!(reading.at(row, amps) > 0)) continue;
    if (found === undefined || reading.at(row, volts) < reading.at(found, volts)) found = row;
  }
  return found;
}

import type { Issue, Outcome } from '../model/issue.ts';
import { hasZone, scaledOf, secondsOf, type LogColumns, type LogLines } from './columns.ts';
import { MendedClock, withoutSpikes, type LogNote } from './mend.ts';

/** Readings in order of time. */
export interface Log {
  /** [s] since the first */
  seconds: Float64Array;
  /** [V] */
  volts: Float64Array;
  /** [A] out of the cell; all 0 where no current was logged */
  amps: Float64Array;
}

/** A log as it was read, with what was made good in it. */
export interface ReadLog extends Log {
  notes: LogNote[];
}

/** Lines at most: a reading a second for two days. */
export const MOST_LINES = 200_000;
/** Issues told of one log. */
const MOST_ISSUES = 20;

interface Options {
  /** a clock that began anew: refused, or the longest of its runs counts and spikes of the logger are left out; refused where not said */
  broken?: 'refuse' | 'mend';
}

/**
 * Read a log by its columns. Lines of one time: the later counts. A current that is negative throughout is turned round. An
 * hour that comes twice, as summer time ends, and midnight of a clock without a day are counted on and told.
 */
export function readLog(
  { rows, places }: LogLines,
  columns: LogColumns,
  { broken = 'refuse' }: Options = {},
): Outcome<ReadLog> {
  if (rows.length < 8) return refuse('lines', `${rows.length}`, 'at least 8 lines of readings');
  if (rows.length > MOST_LINES) {
    return refuse(
      'lines',
      `${rows.length}`,
      `at most ${MOST_LINES}: keep every tenth, or log at longer intervals`,
    );
  }
  const issues: Issue[] = [];
  const { time, volts, amps } = columns;
  const turned = isNewestFirst(rows, columns);
  const order = turned ? [...rows.keys()].reverse() : [...rows.keys()];
  const clock = new MendedClock(time.form, !hasZone(rows[0]?.[time.column] ?? ''));
  for (const k of order) {
    const fields = rows[k]!;
    const field = (column: number, value: (text: string) => number, allowed: string): number => {
      const text = fields[column] ?? '';
      const n = value(text);
      if (!Number.isFinite(n) && issues.length < MOST_ISSUES) {
        issues.push({
          code: 'type',
          path: `line ${places[k]!}`,
          given: text === '' ? 'nothing' : JSON.stringify(text.slice(0, 40)),
          allowed,
        });
      }
      return n;
    };
    const s = field(time.column, (t) => secondsOf(t, time.form), TIME_ALLOWED[time.form]);
    const v = field(volts.column, (t) => scaledOf(t, volts.unit), 'volts as a number');
    const a = amps ? field(amps.column, (t) => scaledOf(t, amps.unit), 'a current as a number') : 0;
    if (!clock.take({ s, v, a }, places[k]!) && broken === 'refuse') {
      return refuse(
        `line ${places[k]!}`,
        'a clock that goes back',
        'one run of the clock; cut the log where it began anew',
      );
    }
  }
  if (issues.length > 0) return { ok: false, issues };
  const { rows: read, notes } = clock.longest();
  if (turned) notes.unshift({ what: 'newestFirst', by: rows.length });
  if (read.length < 8) return refuse('lines', `${read.length}`, 'at least 8 lines of one run of the clock');
  read.sort((x, y) => x.s - y.s);
  const once = read.filter((r, k) => k + 1 === read.length || read[k + 1]!.s > r.s);
  const kept = broken === 'mend' ? withoutSpikes(once, notes) : once;
  const sign = kept.reduce((sum, r) => sum + r.a, 0) < 0 ? -1 : 1;
  return {
    ok: true,
    value: {
      seconds: Float64Array.from(kept, (r) => r.s - kept[0]!.s),
      volts: Float64Array.from(kept, (r) => r.v),
      amps: Float64Array.from(kept, (r) => sign * r.a),
      notes,
    },
  };
}

/** Share of neighbouring lines whose time must fall for a log to run newest first. */
const FALLING = 0.9;

/** Whether the lines of a log run from the newest to the oldest. */
function isNewestFirst(rows: LogLines['rows'], { time }: LogColumns): boolean {
  let [falls, moves] = [0, 0];
  let before = NaN;
  for (const fields of rows) {
    const s = secondsOf(fields[time.column] ?? '', time.form);
    if (s !== before && Number.isFinite(s) && Number.isFinite(before)) {
      moves++;
      if (s < before) falls++;
    }
    before = s;
  }
  return moves > 0 && falls > FALLING * moves;
}

const TIME_ALLOWED = {
  ms: 'a number of milliseconds',
  s: 'a number of seconds',
  min: 'a number of minutes',
  h: 'a number of hours',
  clock: 'a time such as 01:23:45',
  date: 'a date with a time, such as 2026-05-01T12:00:00',
};

/** One thing wrong with logs. */
export function refuse(path: string, given: string, allowed: string): Outcome<never> {
  return { ok: false, issues: [{ code: 'range', path, given, allowed }] };
}

/** What a log comes to. */
export interface LogSum {
  rows: number;
  /** [s] in all, and between two readings at most */
  seconds: number;
  gap: number;
  /** [A·s] [J] */
  charge: number;
  energy: number;
  /** [V] energy by charge, [A] the largest */
  meanVolts: number;
  mostAmps: number;
}

/** Integrals of a log, straight between neighbouring readings (trapezoid; textbook). */
export function sumOf({ seconds, volts, amps }: Log): LogSum {
  let charge = 0;
  let energy = 0;
  let gap = 0;
  let mostAmps = amps[0] ?? 0;
  for (let k = 1; k < seconds.length; k++) {
    const h = seconds[k]! - seconds[k - 1]!;
    charge += (h * (amps[k]! + amps[k - 1]!)) / 2;
    energy += (h * (amps[k]! * volts[k]! + amps[k - 1]! * volts[k - 1]!)) / 2;
    gap = Math.max(gap, h);
    mostAmps = Math.max(mostAmps, amps[k]!);
  }
  const rows = seconds.length;
  return { rows, seconds: seconds[rows - 1]!, gap, charge, energy, meanVolts: energy / charge, mostAmps };
}

/** [A·s] taken up to each reading, by the trapezoid. */
export function chargeTaken({ seconds, amps }: Pick<Log, 'seconds' | 'amps'>): Float64Array {
  const taken = new Float64Array(seconds.length);
  for (let k = 1; k < seconds.length; k++) {
    taken[k] = taken[k - 1]! + ((seconds[k]! - seconds[k - 1]!) * (amps[k]! + amps[k - 1]!)) / 2;
  }
  return taken;
}

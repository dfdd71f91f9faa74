import { guessColumns, likelyColumns, logLines, type LogColumns } from '../logs/columns.ts';
import { readLog, sumOf, type LogSum } from '../logs/log.ts';
import type { LogNote } from '../logs/mend.ts';
import type { Issue } from '../model/issue.ts';
import type { BenchCurve } from '../model/readings.ts';
import { curveFrom } from './curve.ts';

/** What became of a file with a log of a run-down. */
export interface LoggedCurve {
  heads: string[];
  columns: LogColumns;
  /** some lines as they stand */
  sample: string[][];
  issues: Issue[];
  /** what was made good */
  notes: LogNote[];
  sum?: LogSum;
  curve?: BenchCurve;
}

/** Lines of a file shown as they stand. */
const SAMPLE = 3;

/**
 * Read a log of a run-down; its columns by their headings, or as they were set by hand.
 * @param rows fields of every line of the file, see `separatorOf` @param at date of ISO 8601
 */
export function loggedCurve(
  rows: string[][],
  name: string,
  at: string,
  by: LogColumns | undefined,
): LoggedCurve {
  const lines = logLines(rows);
  const guess = by ? { ok: true as const, value: by } : guessColumns(lines, 'volts');
  const shown = {
    heads: lines.heads,
    columns: guess.ok ? guess.value : likelyColumns(lines),
    sample: lines.rows.slice(0, SAMPLE),
  };
  if (!guess.ok) return { ...shown, issues: guess.issues, notes: [] };
  const log = readLog(lines, guess.value, { broken: 'mend' });
  if (!log.ok) return { ...shown, issues: log.issues, notes: [] };
  const { value } = log;
  return { ...shown, issues: [], notes: value.notes, sum: sumOf(value), curve: curveFrom(value, name, at) };
}

import { cellCurve, cellsFromRows, parseCells, type CellCurve, type ReadRecords } from '@mile-thread/core';
import {
  fromDischarges,
  guessColumns,
  likelyColumns,
  logLines,
  readLog,
  recordFrom,
  sumOf,
  type CellCurves,
  type LogColumns,
  type LogSum,
} from '@mile-thread/core/logs';
import type { CellFile, CellRecord, ChemistryName, Issue } from '@mile-thread/core/model';
import { cellsOf, table } from './tables.ts';

/** A cell's discharge at a current, or at a rate of its capacity. */
export interface Drain {
  /** [A], or [C] of its capacity */
  value: number;
  unit: 'A' | 'C';
}

/** Discharge of each cell by its id, at a current and in an air [°C]. */
export function* cellCurves(
  cells: readonly { id: string; cell: CellRecord }[],
  drain: Drain,
  air: number,
): Generator<number, Record<string, CellCurve>, undefined> {
  const curves: Record<string, CellCurve> = {};
  for (const [k, { id, cell }] of cells.entries()) {
    curves[id] = cellCurve(cell, drain.value * (drain.unit === 'C' ? cell.capacityAh : 1), air);
    yield (k + 1) / cells.length;
  }
  return curves;
}

/** A file of a log, and which of its columns is what where that was said by hand. */
export interface LogFile {
  name: string;
  text: string;
  columns?: Required<LogColumns>;
  /** [°C] of the cell; a room's where it was not said */
  celsius?: number;
}

/** What became of one file. */
export interface ReadFile {
  name: string;
  heads: string[];
  /** some lines of it, as they stand */
  sample: string[][];
  columns: Required<LogColumns>;
  celsius: number | undefined;
  sum: LogSum | undefined;
  issues: Issue[];
}

/** What the logs say together. */
export interface ReadLogs {
  files: ReadFile[];
  curves: CellCurves | undefined;
  cell: CellRecord | undefined;
  issues: Issue[];
}

/** Until a person names it. */
const UNNAMED = 'Own cell';
/** Lines of a file shown as they stand. */
const SAMPLE = 4;

/** Records of cells at most that a table of them may hold. */
const MOST_RECORDS = 20_000;

/** Read records of cells. @param isTable whether the text is a table, not JSON */
export function* cellFiles(
  text: string,
  isTable: boolean,
): Generator<number, ReadRecords<CellFile>, undefined> {
  return isTable ? cellsFromRows(yield* table(text, { of: 'cells', lines: MOST_RECORDS })) : parseCells(text);
}

/** Read logs of one cell's discharges, and find its curves where they can tell them. */
export function* readLogs(
  files: readonly LogFile[],
  about: { chemistry: ChemistryName; date: string },
): Generator<number, ReadLogs, undefined> {
  const read: ReadFile[] = [];
  const logs = [];
  for (const file of files) {
    const lines = logLines(yield* cellsOf(file.text));
    const guess = file.columns ? { ok: true as const, value: file.columns } : guessColumns(lines);
    const columns = guess.ok ? guess.value : undefined;
    const log = columns && readLog(lines, columns);
    read.push({
      name: file.name,
      heads: lines.heads,
      sample: lines.rows.slice(0, SAMPLE),
      columns: columns ?? likelyColumns(lines),
      celsius: file.celsius,
      sum: log?.ok ? sumOf(log.value) : undefined,
      issues: !guess.ok ? guess.issues : log && !log.ok ? log.issues : [],
    });
    if (log?.ok)
      logs.push({ ...log.value, ...(file.celsius === undefined ? {} : { celsius: file.celsius }) });
    yield read.length / (files.length + 1);
  }
  if (logs.length < files.length) return { files: read, curves: undefined, cell: undefined, issues: [] };
  const found = fromDischarges(logs, about);
  if (!found.ok) return { files: read, curves: undefined, cell: undefined, issues: found.issues };
  const endVolts = Math.min(...logs.map((l) => l.volts.at(-1)!));
  return {
    files: read,
    curves: found.value,
    cell: recordFrom(found.value, { ...about, name: UNNAMED, endVolts }),
    issues: [],
  };
}

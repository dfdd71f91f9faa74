import { relationIssues } from '../model/crossChecks.ts';
import { validateAs } from '../model/decode.ts';
import { describe, type Issue, type Outcome } from '../model/issue.ts';
import { StageRecord } from '../model/record.ts';

/** Check one record. */
export function decodeRecord(data: unknown): Outcome<StageRecord> {
  if (typeof data !== 'object' || data === null || Array.isArray(data)) {
    const given = describe(data);
    return { ok: false, issues: [{ code: 'type', path: '', given, allowed: 'a stage record' }] };
  }
  const issues = validateAs(StageRecord, data);
  if (issues.length > 0) return { ok: false, issues };
  const record = JSON.parse(JSON.stringify(data)) as StageRecord;
  const crossed = relationIssues(record.stage, 'stage');
  return crossed.length > 0 ? { ok: false, issues: crossed } : { ok: true, value: record };
}

/** Records read, and those that could not be. */
export interface ReadRecords {
  records: StageRecord[];
  refused: { name: string; issues: Issue[] }[];
}

function read(list: readonly unknown[]): ReadRecords {
  const result: ReadRecords = { records: [], refused: [] };
  list.forEach((data, k) => {
    const outcome = decodeRecord(data);
    const name = (data as { name?: unknown } | null)?.name;
    if (outcome.ok) result.records.push(outcome.value);
    else
      result.refused.push({
        name: typeof name === 'string' ? name : `record ${k + 1}`,
        issues: outcome.issues,
      });
  });
  return result;
}

/** Read records from JSON: one, or a list. */
export function parseRecords(text: string): ReadRecords {
  let data: unknown;
  try {
    data = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    const given = `text that is not JSON (${(error as Error).message})`;
    const issue: Issue = { code: 'syntax', path: '', given, allowed: 'stage records in JSON' };
    return { records: [], refused: [{ name: 'the file', issues: [issue] }] };
  }
  return read(Array.isArray(data) ? data : [data]);
}

export function encodeRecords(records: readonly StageRecord[]): string {
  return `${JSON.stringify(records, null, 2)}\n`;
}

/**
 * Records as a table: a column for every value that any record has, named by its path (`stage.loss.efficiency`,
 * `stage.loss.points.0.inputVolts`), a line for every record. Nothing is lost.
 * @returns rows of cells, heading first
 */
export function recordRows(records: readonly StageRecord[]): string[][] {
  const flat = records.map((r) => new Map(leaves(r, '')));
  const columns = [...new Set(flat.flatMap((f) => [...f.keys()]))];
  return [columns, ...flat.map((f) => columns.map((c) => String(f.get(c) ?? '')))];
}

/** Read records from a table's cells, heading first. Cells without text are values that are not there. */
export function recordsFromRows(rows: readonly (readonly string[])[]): ReadRecords {
  const [columns = [], ...lines] = rows;
  return read(
    lines
      .filter((l) => l.some((c) => c.trim() !== ''))
      .map((cells) => {
        const record: Record<string, unknown> = {};
        columns.forEach((path, n) => {
          const cell = cells[n]?.trim() ?? '';
          if (cell !== '') put(record, path.trim().split('.'), valueOf(cell, path));
        });
        return lists(record);
      }),
  );
}

function leaves(value: unknown, path: string): [string, string | number | boolean][] {
  if (typeof value !== 'object' || value === null) return [[path, value as string | number | boolean]];
  return Object.entries(value).flatMap(([key, v]) => leaves(v, path ? `${path}.${key}` : key));
}

function put(into: Record<string, unknown>, path: string[], value: unknown): void {
  let at = into;
  for (const key of path.slice(0, -1)) {
    if (typeof at[key] !== 'object') at[key] = {};
    at = at[key] as Record<string, unknown>;
  }
  at[path[path.length - 1]!] = value;
}

/** Names and notes stay text even where they look like numbers. */
function valueOf(cell: string, path: string): string | number | boolean {
  if (/(^|\.)(name|notes|id|from)$/.test(path)) return cell;
  if (cell === 'true' || cell === 'false') return cell === 'true';
  const number = Number(cell);
  return Number.isNaN(number) ? cell : number;
}

/** Objects whose keys count from 0 are lists. */
function lists(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  const entries = Object.entries(value).map(([k, v]) => [k, lists(v)] as const);
  if (entries.length > 0 && entries.every(([k]) => /^\d+$/.test(k))) {
    return entries.sort(([a], [b]) => Number(a) - Number(b)).map(([, v]) => v);
  }
  return Object.fromEntries(entries);
}

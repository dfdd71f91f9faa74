import { CellFile } from '../model/cellFile.ts';
import { cellIssues } from '../model/crossChecks.ts';
import { relationIssues } from '../model/stageChecks.ts';
import { parseJson, readAs } from '../model/decode.ts';
import { describe, type Issue, type Outcome } from '../model/issue.ts';
import { StageRecord } from '../model/record.ts';
import { MOST_ISSUES } from '../model/shape.ts';
import { defused, unquoted } from './formula.ts';

/** Characters of a file of records; a record is a few thousand, with a full table a hundred thousand. */
const MOST_TEXT = 5e6;
/** Records of a file, and columns of their table. */
const MOST_RECORDS = 500;
const MOST_COLUMNS = 2000;
/** Keys on the way to a value in a record. */
const DEEPEST = 12;

/** Check a cell. */
export function decodeCell(data: unknown): Outcome<CellFile> {
  const read = readAs(CellFile, data);
  if (!read.ok) return read;
  const crossed = cellIssues(read.value.cell, 'cell').slice(0, MOST_ISSUES);
  return crossed.length > 0 ? { ok: false, issues: crossed } : read;
}

/** Check one record of a stage. */
export function decodeRecord(data: unknown): Outcome<StageRecord> {
  const read = readAs(StageRecord, data);
  if (!read.ok) return read;
  const crossed = relationIssues(read.value.stage, 'stage').slice(0, MOST_ISSUES);
  return crossed.length > 0 ? { ok: false, issues: crossed } : read;
}

/** Records read, and those that could not be. */
export interface ReadRecords<R = StageRecord> {
  records: R[];
  refused: { name: string; issues: Issue[] }[];
}

/** What reads one record: of a stage, or of a cell. */
type Decode<R> = (data: unknown) => Outcome<R>;

function read<R>(list: readonly unknown[], decode: Decode<R>): ReadRecords<R> {
  const result: ReadRecords<R> = { records: [], refused: [] };
  list.slice(0, MOST_RECORDS).forEach((data, k) => {
    const outcome = decode(data);
    if (outcome.ok) result.records.push(outcome.value);
    else result.refused.push({ name: nameIn(data) ?? `record ${k + 1}`, issues: outcome.issues });
  });
  if (list.length > MOST_RECORDS) {
    const given = `${list.length} records`;
    result.refused.push(refusal('the rest', 'range', given, `${MOST_RECORDS} records in a file`));
  }
  return result;
}

/** The name that broken data gives itself. */
export function nameIn(data: unknown): string | undefined {
  if (typeof data !== 'object' || data === null || !Object.hasOwn(data, 'name')) return undefined;
  const { name } = data as { name?: unknown };
  return typeof name === 'string' && name.trim() !== '' ? name.slice(0, 120) : undefined;
}

function refusal(name: string, code: string, given: string, allowed: string, path = '') {
  return { name, issues: [{ code, path, given, allowed }] };
}

function nothingBut(refused: ReadRecords['refused'][number]): ReadRecords<never> {
  return { records: [], refused: [refused] };
}

/** Read records of stages from JSON: one, or a list. */
export const parseRecords = (text: string): ReadRecords => parse(text, decodeRecord, 'stage records');
/** The same of cells. */
export const parseCells = (text: string): ReadRecords<CellFile> => parse(text, decodeCell, 'cell records');

function parse<R>(text: string, decode: Decode<R>, what: string): ReadRecords<R> {
  if (text.length > MOST_TEXT) return nothingBut(tooLong(text.length));
  const parsed = parseJson(text, `${what} in JSON`);
  if (!parsed.ok) return nothingBut({ name: 'the file', issues: parsed.issues });
  const data = parsed.value;
  return read(Array.isArray(data) ? data : [data], decode);
}

function tooLong(length: number) {
  const megabytes = (n: number) => `${Number((n / 1e6).toPrecision(2))} million characters`;
  return refusal('the file', 'range', megabytes(length), `at most ${megabytes(MOST_TEXT)}`);
}

export function encodeRecords(records: readonly (StageRecord | CellFile)[]): string {
  return `${JSON.stringify(records, null, 2)}\n`;
}

/**
 * Records as a table: a column for every value that any record has, named by its path (`stage.loss.efficiency`,
 * `stage.loss.points.0.inputVolts`), a line for every record. Nothing is lost.
 * @returns rows of cells, heading first
 */
export function recordRows(records: readonly (StageRecord | CellFile)[]): string[][] {
  const flat = records.map((r) => new Map(leaves(r, '')));
  const columns = [...new Set(flat.flatMap((f) => [...f.keys()]))];
  return [columns, ...flat.map((f) => columns.map((c) => cellOf(f.get(c))))];
}

/**
 * Read records from a table's cells, heading first. Cells without text are values that are not there. A heading that
 * is no path of a record is refused by its name, with everything below it.
 */
export const recordsFromRows = (rows: Rows): ReadRecords => fromRows(rows, decodeRecord);
/** The same of cells. */
export const cellsFromRows = (rows: Rows): ReadRecords<CellFile> => fromRows(rows, decodeCell);

type Rows = readonly (readonly string[])[];

function fromRows<R>(rows: Rows, decode: Decode<R>): ReadRecords<R> {
  const [heading = [], ...lines] = rows;
  const filled = lines.filter((l) => l.some((c) => c.trim() !== ''));
  if (filled.length === 0) {
    return nothingBut(refusal('the file', 'missing', 'no record', 'a heading, and below it a line each'));
  }
  const length = rows.reduce((sum, l) => sum + l.reduce((n, c) => n + c.length + 1, 0), 0);
  if (length > MOST_TEXT) return nothingBut(tooLong(length));
  if (heading.length > MOST_COLUMNS) {
    const given = `${heading.length} columns`;
    return nothingBut(refusal('the file', 'range', given, `${MOST_COLUMNS} columns`));
  }
  const paths = heading.map((name) => name.trim().split('.'));
  const odd = heading.find((_, n) => !isPath(paths[n]!));
  if (odd !== undefined) {
    const given = describe(odd);
    return nothingBut(
      refusal(
        'the heading',
        'unknownField',
        given,
        'names of values such as stage.outputVolts or cell.capacityAh',
      ),
    );
  }
  return read(
    filled.map((cells) => {
      const record: Tree = new Map();
      paths.forEach((path, n) => {
        const cell = unquoted(cells[n]?.trim() ?? '');
        if (cell !== '') put(record, path, valueOf(cell, path[path.length - 1]!));
      });
      return plain(record);
    }),
    decode,
  );
}

/** Whether a heading names a value: words and numbers of entries. None that every object has by birth. */
function isPath(path: readonly string[]): boolean {
  return path.length <= DEEPEST && path.every((key) => /^\w+$/.test(key) && !(key in Object.prototype));
}

/** Text that a spreadsheet would run is quoted, and read back without. */
function cellOf(value: string | number | boolean | undefined): string {
  return typeof value === 'string' ? defused(value) : String(value ?? '');
}

function leaves(value: unknown, path: string): [string, string | number | boolean][] {
  if (typeof value !== 'object' || value === null) return [[path, value as string | number | boolean]];
  return Object.entries(value).flatMap(([key, v]) => leaves(v, path ? `${path}.${key}` : key));
}

/** Values by their keys, apart from any object until they are known to be harmless. */
type Tree = Map<string, Tree | string | number | boolean>;

/** Where a value and what is below it are both given, the latter stands. */
function put(into: Tree, path: readonly string[], value: string | number | boolean): void {
  let at = into;
  for (const key of path.slice(0, -1)) {
    let next = at.get(key);
    if (!(next instanceof Map)) at.set(key, (next = new Map()));
    at = next;
  }
  const last = path[path.length - 1]!;
  if (!(at.get(last) instanceof Map)) at.set(last, value);
}

/** Names and notes stay text even where they look like numbers. */
function valueOf(cell: string, key: string): string | number | boolean {
  if (/^(name|notes|id|from|source)$/.test(key)) return cell;
  if (cell === 'true' || cell === 'false') return cell === 'true';
  const number = Number(cell);
  return Number.isFinite(number) ? number : cell;
}

/** A tree as plain data; whose keys all count is a list. */
function plain(value: Tree | string | number | boolean): unknown {
  if (!(value instanceof Map)) return value;
  const entries = [...value].map(([k, v]) => [k, plain(v)] as const);
  if (entries.length > 0 && entries.every(([k]) => /^\d+$/.test(k))) {
    return entries.sort(([a], [b]) => Number(a) - Number(b)).map(([, v]) => v);
  }
  return Object.fromEntries(entries);
}

import {
  CELL_LIBRARY,
  cellFileOf,
  decodeThread,
  demoThreads,
  encodeRecords,
  encodeShelf,
  encodeThread,
  parseQuantity,
  parseCells,
  parseRecords,
  readThreadFile,
  readLossTable,
  recordRows,
  recordsFromRows,
  stageLibrary,
  type Issue,
} from './core.ts';
import { finish } from '../src/numeric/finish.ts';

/** A thread file read to its end in one go. */
export const whole = (text: string, name: string) => finish(readThreadFile(text, name));

/** mulberry32: the same inputs on every machine. From memory. */
export function randomFrom(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

const BORN = ['__proto__', 'constructor', 'prototype', 'toString', 'valueOf', 'hasOwnProperty', 'toJSON'];

/** Values that files are broken with. Some only JSON can write: own keys named `__proto__`, numbers beyond all. */
const JUNK: readonly string[] = [
  'null',
  'true',
  '""',
  '"\\u0000\\u001b[31m"',
  '-0',
  '1e999',
  '-1e308',
  '1e-320',
  '[]',
  '{}',
  '[[[[]]]]',
  '{"constructor":{}}',
  '{"__proto__":{"x":1}}',
  '"=1+1"',
  '"<a href=x>"',
  '"\\ud800"',
  '[null,null,null]',
  JSON.stringify('x'.repeat(5000)),
  JSON.stringify(Array.from({ length: 3000 }, (_, k) => k)),
  JSON.stringify(Array.from({ length: 600 }, () => ({}))),
];

/** A text with one to four random places of its JSON replaced, doubled, renamed or taken away. */
function damaged(json: string, random: () => number): string {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const marks: string[] = [];
  const mark = (raw: string) => `\u0001${marks.push(raw) - 1}\u0001`;
  const data: unknown = JSON.parse(json);
  for (let n = 1 + Math.floor(random() * 4); n > 0; n--) {
    let at = data as Record<string, unknown>;
    for (;;) {
      const key = pick(Object.keys(at));
      if (key === undefined) break;
      const next = at[key];
      const deeper = typeof next === 'object' && next !== null && Object.keys(next).length > 0;
      if (deeper && random() < 0.8) {
        at = next as Record<string, unknown>;
        continue;
      }
      const kind = random();
      if (kind < 0.6) at[key] = mark(pick(JUNK));
      else if (kind < 0.75) delete at[key];
      else if (kind < 0.9) at[mark(JSON.stringify(pick(BORN)))] = next;
      else if (Array.isArray(at)) (at as unknown[]).push(...Array.from({ length: 40 }, () => next));
      else at[`${key}x`] = next;
      break;
    }
  }

  const text = JSON.stringify(data).replace(/"\u0001(\d+)\u0001"/g, (_, k) => marks[Number(k)]!);
  return random() < 0.1 ? text.slice(0, Math.floor(random() * text.length)) : text;
}

const HEADINGS = ['__proto__.x', 'constructor.prototype.y', 'stage', 'stage.kind', 'a..b', '', 'name', '0.0'];
const CELLS = ['', '1e999', '-1', '=cmd', 'buck', 'true', 'NaN', '1,5', '\u001b[2J', 'x'.repeat(3000)];

function damagedRows(random: () => number): string[][] {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const rows = recordRows(stageLibrary().slice(0, 1 + Math.floor(random() * 3)));
  for (let n = 1 + Math.floor(random() * 5); n > 0; n--) {
    const row = pick(rows);
    const column = Math.floor(random() * (row.length + 1));
    row[column] = row === rows[0] ? pick([...HEADINGS, ...BORN]) : pick(CELLS);
  }
  return rows;
}

function lossRows(random: () => number): string[][] {
  const headings = ['Vin (V)', 'Iout (mA)', 'eff %', 'Iin (A)', 'Vout', '__proto__', 'x'];
  const cell = () => (random() < 0.7 ? String(20 * random()) : CELLS[Math.floor(random() * CELLS.length)]!);
  const width = 1 + Math.floor(random() * 5);
  const lines = Array.from({ length: Math.floor(random() * 40) }, () => Array.from({ length: width }, cell));
  return random() < 0.5 ? [headings.slice(0, width), ...lines] : lines;
}

const CODES = ['missing', 'range', 'type', 'unknownField', 'reference', 'version', 'syntax'];

/** What no answer to a person may hold: words of a library, and numbers that are none. */
const RAW =
  /must be (a|an|one|longer|shorter|equal)\b|must not|should not|conforming|nested property|Infinity|NaN|undefined|\[object/;

/** What is wrong with a refusal; undefined for a good one. */
function faultIn(issues: readonly Issue[]): string | undefined {
  if (issues.length === 0 || issues.length > 100) return `${issues.length} issues`;
  const odd = issues.find((i) => !CODES.includes(i.code) || RAW.test(i.allowed) || i.given.length > 200);
  return odd && `an issue ${JSON.stringify(odd)}`;
}

const demo = demoThreads();
const library = encodeRecords(stageLibrary());
const cells = encodeRecords(Object.values(CELL_LIBRARY).slice(3, 6).map(cellFileOf));
const threads = demo.map((d) => encodeThread(d));
const shelf = encodeShelf(demo);

/** One broken input through a reader. @returns what went wrong: nothing where it was read or refused in good order */
export function tryHostile(random: () => number): string | undefined {
  const kind = Math.floor(random() * 6);
  switch (kind) {
    case 0:
    case 1: {
      const text = damaged(kind === 0 ? threads[Math.floor(random() * threads.length)]! : shelf, random);
      const read = whole(text, 'a file');
      for (const doc of read.threads) {
        const again = decodeThread(JSON.parse(encodeThread(doc)));
        if (!again.ok) return `refused again after it was written: ${JSON.stringify(again.issues[0])}`;
        if (encodeThread(again.value) !== encodeThread(doc)) return 'another after it was written';
      }
      if (read.threads.length + read.refused.length === 0) return 'neither read nor refused';
      return first(read.refused.map((r) => faultIn(r.issues)));
    }
    case 2: {
      const read = parseRecords(damaged(library, random));
      const again = parseRecords(encodeRecords(read.records));
      if (again.records.length !== read.records.length) return 'records refused after they were written';
      return first(read.refused.map((r) => faultIn(r.issues)));
    }
    case 3: {
      const read = parseCells(damaged(cells, random));
      const again = parseCells(encodeRecords(read.records));
      if (again.records.length !== read.records.length) return 'cells refused after they were written';
      return first(read.refused.map((r) => faultIn(r.issues)));
    }
    case 4: {
      const read = recordsFromRows(damagedRows(random));
      if (read.records.length + read.refused.length === 0) return 'neither read nor refused';
      return first(read.refused.map((r) => faultIn(r.issues)));
    }
    default: {
      const table = readLossTable(lossRows(random), 5);
      const raw = [...table.refused, ...table.outliers].find((x) =>
        RAW.test(x.reason.replace(/“[^”]*”/g, '')),
      );
      if (raw) return `words: ${raw.reason}`;
      const numbers = table.points.flatMap((p) => Object.values(p) as number[]);
      if (!numbers.every(Number.isFinite)) return 'a reading that is no number';
      const text = CELLS[Math.floor(random() * CELLS.length)]!;
      const parsed = parseQuantity(text, 'A');
      return parsed.ok && !Number.isFinite(parsed.value) ? `${text} read as ${parsed.value}` : undefined;
    }
  }
}

function first(faults: readonly (string | undefined)[]): string | undefined {
  return faults.find((f) => f !== undefined);
}

/** Large inputs, each by what it is: what used to take minutes, or the stack. */
export const LARGE: Record<string, () => unknown> = {
  'nested 100,000 deep': () => whole(`${'[{"a":'.repeat(50_000)}`, 'x'),
  'nested 5,000 deep in a field': () => {
    const deep = `${'['.repeat(5000)}${']'.repeat(5000)}`;
    return whole(threads[0]!.replace('"hours": ', `"hours": ${deep}, "h": `), 'x');
  },
  '3,000 stages': () => {
    const doc = structuredClone(demo[0]!);
    return decodeThread({ ...doc, stages: Array.from({ length: 3000 }, () => doc.stages[0]) });
  },
  '100,000 bad loads': () =>
    decodeThread({ ...demo[0]!, loads: Array.from({ length: 100_000 }, () => ({})) }),
  '200,000 readings': () => decodeThread(withReadings(200_000)),
  '2,000 readings for each of sixteen stages': () => {
    const doc = withReadings(2000);
    const stages = Array.from({ length: 16 }, (_, k) => ({ ...doc.stages[0], id: `s${k}`, name: `S ${k}` }));
    return decodeThread({ ...doc, loads: [], stages });
  },
  'a table of records with 10 MB': () =>
    recordsFromRows([['name', 'notes'], ...Array.from({ length: 10_000 }, () => ['x', 'y'.repeat(1000)])]),
  '20,000 records of nothing': () => parseRecords(`[${Array.from({ length: 20_000 }, () => '{}').join()}]`),
  '2,000 readings at one input': () =>
    readLossTable(
      Array.from({ length: 2000 }, (_, k) => [
        '12',
        String(0.001 * (k + 1)),
        String(0.5 + 0.4 * ((k % 7) / 7)),
      ]),
      5,
    ),
  'an unknown key of a million letters': () => decodeThread({ ...demo[0]!, ['k'.repeat(1e6)]: 1 }),
};

function withReadings(count: number) {
  const doc = structuredClone(demo[0]!);
  const points = Array.from({ length: count }, (_, k) => ({
    inputVolts: 6 + (k % 9),
    outputAmps: 0.001 * ((k % 2000) + 1),
    efficiency: 0.9,
  }));
  const loss = { basis: 'points', quiescentCurrent: 0, points };
  return { ...doc, stages: doc.stages.map((s) => ('loss' in s ? { ...s, loss } : s)) };
}

import { expect, it } from 'vitest';
import { decodeThread, demoThreads, encodeShelf, recordRows, recordsFromRows, stageLibrary } from './core.ts';
import { LARGE, randomFrom, tryHostile, whole } from './hostile.ts';

it('reads or refuses in good order whatever it is given, and leaves Object.prototype alone', () => {
  const born = Object.getOwnPropertyNames(Object.prototype).sort();
  const random = randomFrom(7);
  for (let n = 0; n < 250; n++) expect(tryHostile(random), `input ${n}`).toBeUndefined();
  expect(Object.getOwnPropertyNames(Object.prototype).sort()).toEqual(born);
});

it('refuses by name a heading that reaches for what every object has', () => {
  const rows = recordRows(stageLibrary().slice(0, 1)).map((r, k) => [...r, k === 0 ? '__proto__.x' : '1']);
  const { records, refused } = recordsFromRows(rows);
  expect(records).toEqual([]);
  expect(refused[0]!.issues[0]).toMatchObject({ code: 'unknownField', given: '"__proto__.x"' });
  expect(({} as { x?: unknown }).x).toBeUndefined();
});

for (const name of ['__proto__', 'constructor', 'toString']) {
  it(`does not take ${name} for a field`, () => {
    const text = JSON.stringify(demoThreads()[0]).replace('"goals":{', `"goals":{"${name}":{},`);
    const [broken] = whole(text, 'x').refused;
    expect(broken!.issues).toMatchObject([{ code: 'unknownField', path: `goals.${name}` }]);
  });
}

it('tells at most a hundred issues of a large file, length before entries', () => {
  for (const [name, read] of Object.entries(LARGE)) expect(read, name).not.toThrow();
  const loads = Array.from({ length: 100_000 }, () => ({}));
  const outcome = decodeThread({ ...demoThreads()[0]!, loads });
  expect(outcome).toMatchObject({ ok: false, issues: [{ code: 'range', path: 'loads' }] });
});

it('lets the good threads of a file in and names the broken one', () => {
  const [a, b] = demoThreads();
  const shelf = JSON.parse(encodeShelf([a!, b!])) as { threads: { version: number; name: string }[] };
  shelf.threads[0]!.version = 99;
  const read = whole(JSON.stringify(shelf), 'shelf.json');
  expect(read.threads).toEqual([b]);
  expect(read.refused).toMatchObject([{ name: a!.name, issues: [{ code: 'version' }] }]);
  const newer = whole(JSON.stringify({ ...shelf, version: 2 }), 'shelf.json');
  expect(newer.refused[0]!.issues[0]!.allowed).toContain('newer Mile Thread');
  const empty = whole(JSON.stringify({ ...shelf, threads: [] }), 'shelf.json');
  expect(empty.refused[0]!.issues[0]!.given).toBe('an empty list');
});

it('text that a spreadsheet would run is quoted in a table, and comes back as it was', () => {
  const [record] = stageLibrary();
  for (const notes of ['=HYPERLINK("x")', '+1', '-2', '@a', "'=b", "'quoted'"]) {
    const rows = recordRows([{ ...record!, notes }]);
    expect(rows[1]!.every((cell) => !/^[=+@]|^-[^\d]/.test(cell))).toBe(true);
    expect(recordsFromRows(rows).records[0]!.notes).toBe(notes);
  }
});

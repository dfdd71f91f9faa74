import { readFileSync } from 'node:fs';
import type { Load } from '../src/model/load.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyEdits,
  decodeThread,
  demoThreads,
  encodeThread,
  fieldsOf,
  migrate,
  parseThread,
  presentEdits,
  STAGE_KINDS,
  swapKind,
  threadSchema,
  ThreadDocument,
  type Issue,
  type StageKind,
} from './core.ts';

const good = () => JSON.parse(encodeThread(demoThreads()[0]!));

/** What is wrong with the demo thread after one change. */
function issuesAfter(change: (doc: ReturnType<typeof good>) => void): Issue[] {
  const doc = good();
  change(doc);
  const outcome = decodeThread(doc);
  return outcome.ok ? [] : outcome.issues;
}

describe('reading a thread', () => {
  it('demo threads are valid and survive writing and reading', () => {
    for (const doc of demoThreads()) {
      const back = parseThread(encodeThread(doc));
      expect(back).toEqual({ ok: true, value: JSON.parse(JSON.stringify(doc)) });
    }
  });

  const bad: [string, (doc: ReturnType<typeof good>) => void, Partial<Issue>][] = [
    [
      'negative capacity',
      (d) => (d.pack.cell.capacityAh = -1),
      { code: 'range', path: 'pack.cell.capacityAh', given: '-1' },
    ],
    [
      '10,000 in series',
      (d) => (d.pack.series = 10000),
      { path: 'pack.series', allowed: 'a whole number from 1 to 200' },
    ],
    ['NaN', (d) => (d.goals.hours = NaN), { code: 'type', path: 'goals.hours', given: 'NaN' }],
    ['infinity', (d) => (d.loads[0].current = Infinity), { path: 'loads[0].current' }],
    [
      'wrong type',
      (d) => (d.stages[1].maxDuty = '0.6'),
      { code: 'type', path: 'stages[1].maxDuty', given: '"0.6"' },
    ],
    ['missing part', (d) => delete d.pack.cell.ocv, { code: 'missing', path: 'pack.cell.ocv' }],
    ['missing list', (d) => delete d.loads, { code: 'missing', path: 'loads' }],
    ['null in a list', (d) => (d.stages[0] = null), { path: 'stages[0]' }],
    ['text for a list', (d) => (d.stages = 'none'), { path: 'stages' }],
    ['unknown kind', (d) => (d.stages[0].kind = 'flyback'), { path: 'stages[0].kind' }],
    [
      'misspelt field',
      (d) => (d.stages[1].maxDutty = 1),
      { code: 'unknownField', path: 'stages[1].maxDutty' },
    ],
    ['nowhere to hang', (d) => (d.loads[0].from = 'attic'), { code: 'reference', path: 'loads[0].from' }],
    [
      'a ring of stages',
      (d) => (d.stages[1].from = 'logic-rail'),
      { code: 'reference', path: 'stages[1].from' },
    ],
    ['the same id twice', (d) => (d.loads[1].id = 'ring-lamp'), { code: 'reference', path: 'loads[1].id' }],
    [
      'no value for the draw',
      (d) => delete d.loads[0].current,
      { code: 'missing', path: 'loads[0].current' },
    ],
    ['range upside down', (d) => (d.loads[0].range.min = 20), { path: 'loads[0].range.min' }],
    ['falling OCV', (d) => (d.pack.cell.ocv.volts[3] = 0.1), { path: 'pack.cell.ocv.volts' }],
    ['tables of two lengths', (d) => d.pack.cell.r0.ohms.pop(), { path: 'pack.cell.r0.ohms' }],
    ['loss basis unknown', (d) => (d.stages[0].loss.basis = 'guess'), { path: 'stages[0].loss.basis' }],
    [
      'more power out than in',
      (d) => (d.stages[0].loss.points[0] = { inputVolts: 9, outputAmps: 1, inputAmps: 0.5 }),
      { path: 'stages[0].loss.points[0].inputAmps', allowed: 'at least 1.000 A: no more out than in' },
    ],
  ];
  for (const [what, change, expected] of bad) {
    it(`refuses ${what}, naming the field`, () => {
      expect(issuesAfter(change)).toContainEqual(expect.objectContaining(expected));
    });
  }

  it('tells everything that is wrong at once', () => {
    const issues = issuesAfter((d) => {
      d.pack.series = 0;
      d.stages[1].outputVolts = -5;
      d.loads[2].range.max = 'high';
    });
    expect(issues.map((i) => i.path)).toEqual(['pack.series', 'stages[1].outputVolts', 'loads[2].range.max']);
  });

  it('refuses broken, empty and foreign files without throwing', () => {
    for (const text of [
      '',
      '{',
      '[]',
      'null',
      '42',
      '"x"',
      '{"format":"other"}',
      '{"format":"mile-thread"}',
    ]) {
      expect(parseThread(text)).toMatchObject({ ok: false });
    }
    fc.assert(
      fc.property(fc.json(), (text) => {
        expect(parseThread(text).ok).toBe(false);
      }),
      { numRuns: 200, seed: 1 },
    );
  });

  it('no damage to any one field makes it throw or pass something that is not a thread', () => {
    const paths: (string | number)[][] = [];
    const walk = (value: unknown, path: (string | number)[]) => {
      if (path.length > 0) paths.push(path);
      if (Array.isArray(value)) value.slice(0, 2).forEach((v, k) => walk(v, [...path, k]));
      else if (typeof value === 'object' && value !== null) {
        for (const [k, v] of Object.entries(value)) walk(v, [...path, k]);
      }
    };
    walk(good(), []);
    const junk = fc.constantFrom(null, -1e9, 'x', [], {}, [null], true, 1e12);
    fc.assert(
      fc.property(fc.constantFrom(...paths), junk, (path, value) => {
        const outcome = decodeThread(applyEdits(good(), [{ op: 'replace', path, value }]));
        if (!outcome.ok) expect(outcome.issues.length).toBeGreaterThan(0);
        else expect(decodeThread(outcome.value).ok).toBe(true);
      }),
      { numRuns: 400, seed: 2 },
    );
  });
});

describe('modes and programmes', () => {
  const issues = (change: object) => {
    const bare = good();
    for (const l of bare.loads) delete l.draws;
    const read = decodeThread({ ...bare, modes: [{ id: 'a', name: 'A' }], ...change });
    return read.ok ? [] : read.issues.map((i) => i.path);
  };

  it('name modes that are there, each once; what draws nothing as a rule may draw in a mode', () => {
    const [load, ...others] = good().loads.map(({ draws, ...l }: Load) => (void draws, l));
    const draws = (list: object[], more: object = {}) => ({
      loads: [{ ...load, ...more, draws: list }, ...others],
    });
    expect(issues({ programme: { segments: [{ mode: 'a', seconds: 1 }], after: 'repeat' } })).toEqual([]);
    expect(issues({ programme: { segments: [{ mode: 'b', seconds: 1 }], after: 'repeat' } })).toEqual([
      'programme.segments[0].mode',
    ]);
    expect(issues({ programme: { segments: [{ mode: 'a', seconds: 0 }], after: 'repeat' } })).toEqual([
      'programme.segments[0].seconds',
    ]);
    expect(issues(draws([{ mode: 'b', value: 1 }]))).toEqual(['loads[0].draws[0].mode']);
    expect(
      issues(
        draws([
          { mode: 'a', value: 1 },
          { mode: 'a', value: 2 },
        ]),
      ),
    ).toEqual(['loads[0].draws[1].mode']);
    const nothing = { draw: 'current', current: 0 };
    expect(issues(draws([{ mode: 'a', value: 0 }], nothing))).toEqual([]);
    expect(issues(draws([{ mode: 'a', value: 1 }], nothing))).toEqual([]);
    expect(issues(draws([{ mode: 'a', value: 9, draw: 'resistance' }], nothing))).toEqual([]);
    expect(issues(draws([{ mode: 'a', value: 1, draw: 'string' }]))).toEqual(['loads[0].draws[0].draw']);
  });
});

describe('versions', () => {
  it('brings a file of the first version up: need and surroundings are goals and conditions', () => {
    const { goals, ...rest } = good();
    const surroundings = { minAir: -5, air: 20, maxAir: 30 };
    const old = { ...rest, version: 1, need: { ...goals, shelfMonths: 6 }, surroundings };
    const read = decodeThread(old);
    expect(read).toMatchObject({
      ok: true,
      value: { version: 9, goals: { hours: goals.hours, shelfMonths: 6 }, conditions: surroundings },
    });
    const edits = [{ op: 'replace' as const, path: ['need', 'hours'], value: 9 }];
    expect(presentEdits(edits)).toEqual([{ ...edits[0], path: ['goals', 'hours'] }]);
  });

  it('keeps the name of a charger that stood with the pack among the goals, and drops edits of it', () => {
    const { goals, pack, ...rest } = good();
    const old = { ...rest, version: 6, goals, pack: { ...pack, charger: { name: 'Lead' } } };
    expect(decodeThread(old)).toMatchObject({ ok: true, value: { goals: { chargedFrom: 'Lead' } } });
    const said = decodeThread({ ...old, goals: { ...goals, chargedFrom: 'Sun' } });
    expect(said).toMatchObject({ ok: true, value: { goals: { chargedFrom: 'Sun' } } });
    expect(presentEdits([{ op: 'remove', path: ['pack', 'charger'] }])).toEqual([]);
  });

  it('refuses a newer version and says to update', () => {
    expect(migrate({ format: 'mile-thread', version: 10 })).toMatchObject({
      ok: false,
      issues: [{ code: 'version', path: 'version', allowed: expect.stringContaining('newer Mile Thread') }],
    });
  });

  it('runs the steps one after the other', () => {
    const steps = {
      1: (d: object) => ({ ...d, b: 1 }),
      2: (d: object) => ({ ...d, c: (d as { b: number }).b + 1 }),
    };
    expect(migrate({ format: 'mile-thread', version: 1 }, steps, 3)).toEqual({
      ok: true,
      value: { format: 'mile-thread', version: 3, b: 1, c: 2 },
    });
  });
});

describe('schema and fields', () => {
  it('the published JSON Schema is the one the classes give', () => {
    const published = readFileSync(
      new URL('../../../docs/format/thread.schema.json', import.meta.url),
      'utf8',
    );
    expect(JSON.parse(published)).toEqual(threadSchema());
  });

  it('every number states its unit and its limits', () => {
    const seen = new Set<object>();
    const visit = (model: new () => object) => {
      if (seen.has(model)) return;
      seen.add(model);
      for (const [name, meta] of fieldsOf(model)) {
        expect(meta.about.length, name).toBeGreaterThan(3);
        if (['quantity', 'whole', 'numbers'].includes(meta.type)) {
          expect(meta.unit, `${model.name}.${name}`).toBeDefined();
          expect(meta.min! <= meta.max!, `${model.name}.${name}`).toBe(true);
        }
        for (const c of Object.values(meta.variants?.().classes ?? {})) visit(c);
        if (meta.of) visit(meta.of());
      }
    };
    visit(ThreadDocument);
    expect(seen.size).toBeGreaterThan(18);
  });

  it('swapping a kind keeps what both have and gives a valid stage', () => {
    const kinds = Object.keys(STAGE_KINDS) as StageKind[];
    for (const a of kinds) {
      for (const b of kinds) {
        const doc = good();
        const stage = STAGE_KINDS[a].create('x', 'pack', 4.2);
        doc.stages.push(swapKind({ ...stage, maxInput: 19 }, b, 4.2));
        expect(decodeThread(doc)).toMatchObject({ ok: true });
        expect(doc.stages[3]).toMatchObject({ id: 'x', from: 'pack', kind: b, maxInput: 19 });
      }
    }
  });
});

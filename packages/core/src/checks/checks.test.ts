import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyThread } from '../../test/arbitrary.ts';
import { chainOf, load, plainCell, seriesOhms, thread } from '../../test/build.ts';
import { extremeThread, nanIn } from '../../test/extreme.ts';
import { CELL_LIBRARY } from '../cells/library.ts';
import { decodeThread } from '../model/decode.ts';
import { applyEdits } from '../model/edit.ts';
import { defaultBoost } from '../model/kinds/boost.ts';
import { defaultBuck } from '../model/kinds/buck.ts';
import { defaultLinear } from '../model/kinds/linear.ts';
import type { Diode } from '../model/parts.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { partsFor } from '../sizing/suggest.ts';
import { readingOf } from '../run/reading/reading.ts';
import { ROW } from '../run/account/series.ts';
import { simulate } from '../run/rundown.ts';
import { findings } from './checks.ts';
import { eases, type Finding } from './finding.ts';

const guard = { ...seriesOhms(0.02, 2.6), tripCurrent: 20 };
const find = (doc: ThreadDocument, id: string): Finding | undefined =>
  findings(doc, simulate(doc)).find((f) => f.id === id);
const words = (f: Finding | undefined) => `${f?.title} ${f?.reason}`.replace(/\u00a0/g, ' ');

describe('any design', () => {
  const laws = (doc: ThreadDocument) => {
    const run = simulate(doc);
    expect(nanIn(run)).toBeUndefined();
    expect(run.series.count).toBeGreaterThan(0);
    for (const f of findings(doc, run)) {
      expect(words(f)).not.toMatch(/NaN|undefined|Infinity/);
      if (!f.action) continue;
      const changed = decodeThread(applyEdits(doc, f.action.edits));
      expect(changed.ok, `${f.id}: ${f.action.label}`).toBe(true);
      if (!changed.ok) continue;
      const after = find(changed.value, f.id);
      expect(after === undefined || eases(f, after), `${f.id}: ${words(f)} → ${words(after)}`).toBe(true);
    }
  };

  it('random and extreme but legal ones, thousands of them by `npm run soak`: no NaN, and every action is taken by the model and eases its finding', () => {
    fc.assert(fc.property(anyThread, laws), { numRuns: 10, seed: 61 });
    fc.assert(fc.property(extremeThread, laws), { numRuns: 10, seed: 62 });
  });
});

it('a run that was given up says from when on nothing is known', () => {
  const doc = chainOf(16);
  const run = simulate(doc);
  expect(run.deadEnd.reason).toBe('unfinished');
  expect(findings(doc, run).find((f) => f.id === 'broken-off:cells')).toMatchObject({
    from: run.deadEnd.time,
  });
});

describe('findings with parts in use', () => {
  const diode: Diode = { type: 'diode', forwardVolts: 0.5, resistance: 0.1 };

  it('headroom names the volts at which the run drops out', () => {
    const base = { ...defaultBuck('b', 'pack', 6.5), maxDuty: 0.92, minInput: 3 };
    const stage = { ...base, parts: { ...partsFor(base, { low: 6.5, high: 8.4 }, 1), rectifier: diode } };
    const doc = thread({
      pack: { series: 2, protection: guard },
      stages: [stage],
      loads: [load('current', 1, { from: 'b', range: { min: 5, max: 7 } })],
      hours: 4,
    });
    const run = simulate(doc, { rows: 4000 });
    const from = run.stageModes.b!.find((m) => m.mode === 'dropout')!.from;
    const reading = readingOf(run);
    const volts = reading.stageReading(reading.rowAt(from), 0).inputVolts;
    const said = words(find(doc, 'headroom:b')).match(/needs (\d\.\d\d) V/)![1];
    expect(Number(said)).toBeCloseTo(volts, 2);
    expect(Number(said)).toBeGreaterThan(6.5 / 0.92 + 0.1);
  });

  it('a boost whose diode drops 0.6 V is not fed from above its output by 0.4 V more', () => {
    const base = { ...defaultBoost('b', 'pack', 8.2), rectifierVolts: 0 };
    const parts = {
      ...partsFor(base, { low: 6, high: 8.4 }, 0.3),
      rectifier: { ...diode, forwardVolts: 0.6 },
    };
    const loads = [load('current', 0.2, { from: 'b', range: { min: 7, max: 9 } })];
    const doc = (used: boolean) =>
      thread({
        pack: { series: 2, protection: guard },
        stages: [{ ...base, parts: { ...parts, used } }],
        loads,
      });
    expect(find(doc(true), 'pass-through:b')).toBeUndefined();
    // What hangs on it stands the 8.4 V, or does not.
    expect(find(doc(false), 'pass-through:b')).toMatchObject({ severity: 'note' });
    const narrow = doc(false);
    narrow.loads[0]!.range.max = 8.3;
    expect(find(narrow, 'pass-through:b')).toMatchObject({ severity: 'fails' });
  });

  it('a divider that sets other volts than the plan, the current of its pin included', () => {
    const base = defaultBuck('b', 'pack', 5);
    const fitted = (pinBias?: number) => {
      const divider = {
        reference: 0.6,
        referenceTolerance: 0.01,
        top: 1e6,
        bottom: 136e3,
        resistorTolerance: 0.01,
      };
      const parts = { ...partsFor(base, { low: 7, high: 12 }, 0.5), divider: { ...divider, pinBias } };
      return thread({
        pack: { series: 3, protection: guard },
        stages: [{ ...base, parts }],
        loads: [load('current', 0.3, { from: 'b', range: { min: 4.5, max: 5.5 } })],
      });
    };
    // 0.6 V · (1 + 1000/136) = 5.012 V; 200 nA through 1 MΩ add 0.2 V.
    expect(find(fitted(), 'divider:b')).toBeUndefined();
    expect(words(find(fitted(200e-9), 'divider:b'))).toMatch(
      /sets 5\.21 V, the plan says 5\.00 V.*1\.00 MΩ over 136 kΩ/,
    );
  });
});

describe('findings say when it begins, and what matters', () => {
  it('from is the first instant beyond the limit, not the worst', () => {
    const heavy = [load('power', 24, { range: { min: 2, max: 5 } })];
    const doc = thread({
      pack: {
        parallel: 8,
        fuse: { rating: 7, resistance: 0.003 },
        protection: { ...guard, tripCurrent: 12 },
      },
      loads: heavy,
    });
    const run = simulate(doc, { rows: 2000 });
    const reading = readingOf(run);
    const begins = (amps: number) =>
      reading.time(reading.firstRow((r) => reading.at(r, ROW.packAmps) > amps)!);
    const found = findings(doc, run);
    const from = (id: string) => found.find((f) => f.id === id)!.from;
    expect(from('fuse:fuse')).toBe(begins(7));
    expect(from('fuse:fuse')).toBeLessThan(0.7 * run.usefulEnd.time);
    expect(from('trip:protection')).toBe(begins(8.4));
    const small = thread({ loads: [load('power', 20, { range: { min: 2, max: 5 } })] });
    const worst = simulate(small);
    const rate = findings(small, worst).find((f) => f.id === 'c-rate:cells')!;
    expect(rate.severity).toBe('danger');
    expect(rate.from).toBeLessThan(worst.worstCell.time);
  });

  it('a trip names the load, and offers a board for what would flow', () => {
    const doc = thread({
      pack: { parallel: 4, protection: { ...guard, tripCurrent: 3 } },
      loads: [load('current', 4, { name: 'Pump', range: { min: 2, max: 5 } })],
    });
    const f = find(doc, 'trip:protection')!;
    expect(words(f)).toMatch(/Pump alone takes 4\.00 A/);
    expect(f.action!.label.replace(/\u00a0/g, ' ')).toBe('Use a board that trips at 6.40 A');
    // By what it takes then, not at the start: a tenth by day, and what trips by night.
    const pump = load('current', 0.1, { name: 'Pump', range: { min: 2, max: 5 } });
    const night: ThreadDocument = {
      ...doc,
      modes: [
        { id: 'day', name: 'Day' },
        { id: 'night', name: 'Night' },
      ],
      programme: {
        segments: [
          { mode: 'day', seconds: 600 },
          { mode: 'night', seconds: 600 },
        ],
        after: 'repeat',
      },
      loads: [{ ...pump, draws: [{ mode: 'night', value: 4 }] }],
    };
    expect(words(find(night, 'trip:protection')!)).toMatch(/Pump alone takes 4\.00 A/);
  });

  it('a fuse far over its rating: the melting time of its class', () => {
    const doc = thread({
      pack: { parallel: 6, fuse: { rating: 4, resistance: 0.003 }, protection: guard },
      loads: [load('current', 9, { range: { min: 2, max: 5 } })],
    });
    expect(words(find(doc, 'fuse:fuse'))).toMatch(
      /225 % of its rating a blade fuse opens within 5\.00 s, a quick 5 × 20 mm fuse opens within 30 min/,
    );
  });

  it('a lead at 100 A/mm² burns', () => {
    const lead = { gaugeSystem: 'mm²' as const, gauge: 0.14, length: 0.3, parallel: 1, temperature: 25 };
    const doc = thread({
      pack: { parallel: 8, leads: [lead], protection: guard },
      loads: [load('current', 14, { range: { min: 1, max: 5 } })],
    });
    const f = find(doc, 'heat:leads')!;
    expect(f.severity).toBe('danger');
    expect(words(f)).toMatch(/14\.0 A, 100 A\/mm².*It burns/);
  });

  it('without protection the stage that empties the cells is named', () => {
    const doc = thread({
      stages: [{ ...defaultBoost('b', 'pack', 5), name: 'Small boost', minInput: 0.9 }],
      loads: [load('current', 0.1, { from: 'b', range: { min: 4.5, max: 5.5 } })],
    });
    expect(words(find(doc, 'no-protection:cells'))).toMatch(/Small boost works down to 900 mV/);
  });

  it('a pack that nobody watches group by group: how low the weakest comes, stated or supposed, and a board mends it', () => {
    const pack = { series: 4, startSoc: 1 };
    const loads = [load('power', 8, { range: { min: 11, max: 20 } })];
    const supposed = find(thread({ pack, loads }), 'per-cell:cells')!;
    expect(supposed.severity).toBe('danger');
    expect(words(supposed)).toMatch(
      /one a little weaker than the rest comes down to [\d.]+ m?V.*others stand at 3/,
    );
    const groups = [
      { capacity: 1, resistance: 1 },
      { capacity: 0.8, resistance: 1.2 },
    ];
    const stated = thread({ pack: { ...pack, groups }, loads });
    const f = find(stated, 'per-cell:cells')!;
    expect(words(f)).toMatch(/group 2 comes down to/);
    const watched = applyEdits(stated, f.action!.edits);
    expect(find(watched, 'per-cell:cells')).toBeUndefined();
    const weak = find(watched, 'weak-group:cells')!;
    const run = simulate(watched);
    expect(run.groups!.volts[1]).toBeCloseTo(watched.pack.protection!.cutoffVolts, 3);
    // A fifth less charge in one of four: three times about 0.2 · 3.5 Ah · 3.6 V stay behind.
    const others = run.groups!.left.reduce((a, b) => a + b) - run.groups!.left[1]!;
    expect(others / 3600).toBeGreaterThan(0.6 * 3 * 0.2 * 3.6 * watched.pack.cell.capacityAh);
    expect(words(weak)).toMatch(/weakest, group 2, ends the run with [\d.]+ Wh left in the others/);
  });

  it('unlike cells side by side: what flows when they are joined, and who carries more than rated', () => {
    const cell = { ...plainCell(2, 3, 4, 0.05), dischargeRate: 2, chargeRate: 0.5, damageVolts: 1 };
    const at = (odd: NonNullable<ThreadDocument['pack']['odd']>) =>
      thread({ cell, pack: { parallel: 2, odd, protection: guard }, loads: [load('current', 6)] });
    // 0.4 V between them over 50 + 100 mΩ: 2.67 A into 2 Ah that may be charged with 1 A.
    const joined = find(at({ count: 1, capacity: 1, resistance: 2, startSoc: 0.6 }), 'joined:cells')!;
    expect(joined).toMatchObject({ severity: 'danger' });
    expect(words(joined)).toMatch(/2\.67 A flow .* 2\.7 times what a cell may be charged with/);
    expect(find(at({ count: 1, capacity: 1, resistance: 2 }), 'joined:cells')).toBeUndefined();
    // 6 A over 50 and 150 mΩ: three quarters, 4.5 A of 2 Ah.
    const uneven = find(at({ count: 1, capacity: 1, resistance: 3 }), 'uneven:cells')!;
    expect(words(uneven)).toMatch(/Each of the others gives up to 4\.50 A, 2\.25 C/);
    expect(find(at({ count: 1, capacity: 1, resistance: 1.1 }), 'uneven:cells')).toBeUndefined();
  });

  it('a start in the cold that the board or the cells themselves do not carry; charging where it is too cold', () => {
    const cell = {
      ...plainCell(2, 3, 4, 0.1),
      temperature: {
        resistance: { celsius: [-10, 25], factors: [8, 1] },
        minCharge: 0,
        grade: 'assumed' as const,
      },
    };
    const at = (watts: number): ThreadDocument => ({
      ...thread({
        cell,
        pack: { protection: guard },
        loads: [load('power', watts)],
      }),
      goals: { hours: 1, chargedFrom: 'Lead' },
      conditions: { minAir: -10, air: 25, maxAir: 30 },
    });
    // 4 V behind 0.82 Ω: at most 4.88 W; 4 W stand at 2.85 V, where 1.4 A leave the cell 2.88.
    expect(find(at(4), 'cold-start:cells')).toBeUndefined();
    expect(words(find(at(4.7), 'cold-start:cells'))).toMatch(
      /4\.70 W pull its cold cells to 2\.\d+ V, where the board opens/,
    );
    expect(words(find(at(6), 'cold-start:cells'))).toMatch(/cannot give 6\.00 W.*800 mΩ/);
    expect(words(find(at(4), 'charge-air:cells'))).toMatch(/from 0 °C; its air goes to -10\.0 °C/);
  });

  it('the wish for the shelf is what idle is judged against', () => {
    const doc = (shelfMonths?: number): ThreadDocument => {
      const made = thread({
        cell: CELL_LIBRARY['18650-balanced']!,
        pack: { protection: guard },
        stages: [{ ...defaultLinear('l', 'pack', 3), quiescentCurrent: 200e-6, minInput: 2.5 }],
        loads: [load('current', 0.1, { from: 'l', range: { min: 2.5, max: 3.5 } })],
      });
      return { ...made, goals: { hours: 1, ...(shelfMonths ? { shelfMonths } : {}) } };
    };
    // 2.6 Ah at 0.2 mA and 2 % a month: well over a year.
    expect(find(doc(), 'idle:cells')).toBeUndefined();
    expect(find(doc(12), 'idle:cells')).toBeUndefined();
    expect(find(doc(24), 'idle:cells')).toMatchObject({ severity: 'fails' });
    expect(words(find(doc(24), 'idle:cells'))).toMatch(/24 months are wanted/);
  });

  it('more cells are not offered where they only lift the rail out of the load’s range', () => {
    // One cell sags by 1 V to 3.2 V, in range; two sag by half as much and stand above it from the start.
    const doc = (max: number) =>
      thread({
        cell: plainCell(1, 3, 4.2, 1),
        hours: 2,
        loads: [load('current', 1, { range: { min: 1, max } })],
      });
    expect(find(doc(5), 'need:cells')!.action).toBeDefined();
    const short = find(doc(3.3), 'need:cells')!;
    expect(short).toMatchObject({ severity: 'fails' });
    expect(short.action).toBeUndefined();
  });
});

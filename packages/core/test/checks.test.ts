import { describe, expect, it } from 'vitest';
import {
  applyEdits,
  CELL_LIBRARY,
  decodeThread,
  defaultBoost,
  defaultBuck,
  defaultLinear,
  findings,
  simulate,
  type Finding,
  type Load,
  type Pack,
  type Stage,
  type ThreadDocument,
} from './core.ts';
import { load, thread } from './build.ts';

const guard: NonNullable<Pack['protection']> = {
  cutoffVolts: 2.6,
  tripCurrent: 20,
  resistance: 0.02,
  quiescentCurrent: 5e-6,
  grade: 'assumed',
};

function design(parts: {
  pack?: Partial<Pack>;
  stages?: Stage[];
  loads: Load[];
  hours?: number;
}): ThreadDocument {
  return thread({ ...parts, pack: { protection: guard, ...parts.pack } });
}

function find(doc: ThreadDocument, id: string): Finding | undefined {
  expect(decodeThread(doc)).toMatchObject({ ok: true });
  return findings(doc, simulate(doc)).find((f) => f.id === id);
}

/** The finding is there, says its numbers, and its action makes it go away. */
function found(doc: ThreadDocument, id: string, words: RegExp, severity: Finding['severity']): Finding {
  const f = find(doc, id);
  expect(f, id).toBeDefined();
  expect(`${f!.title} ${f!.reason}`.replace(/\u00a0/g, ' ')).toMatch(words);
  expect(f!.severity).toBe(severity);
  if (f!.action) expect(find(applyEdits(doc, f!.action.edits), id), `${id} after its action`).toBeUndefined();
  return f!;
}

const volts = (min: number, max: number) => ({ range: { min, max } });

describe('checks', () => {
  it('a sound design has nothing against it', () => {
    const doc = design({
      pack: { series: 3 },
      stages: [{ ...defaultBuck('b', 'pack', 5), grade: 'measured' }],
      loads: [load('current', 0.5, { from: 'b', ...volts(4.8, 5.2) })],
      hours: 6,
    });
    expect(findings(doc, simulate(doc)).map((f) => f.severity)).toEqual([]);
  });

  it('a load run direct that the full pack over-volts', () => {
    const doc = design({ pack: { series: 3 }, loads: [load('current', 0.2, volts(9, 12))] });
    const f = found(doc, 'over-volts:load', /12\.\d V, more than the 12\.0 V it stands/, 'danger');
    expect(f.from).toBe(0);
  });

  it('a load run direct that the sagging pack starves', () => {
    const doc = design({ pack: { series: 3 }, loads: [load('current', 0.5, volts(10.8, 13))], hours: 6 });
    found(doc, 'under-volts:load', /less than 10\.8 V .*sagged to 10\.8 V/, 'fails');
  });

  it('a boost fed from above its output passes through', () => {
    const doc = design({
      pack: { series: 3 },
      stages: [defaultBoost('b', 'pack', 9)],
      loads: [load('current', 0.2, { from: 'b', ...volts(8.5, 9.5) })],
    });
    found(doc, 'pass-through:b', /a boost fed from above its output.*cannot step down/s, 'fails');
  });

  it('a buck and a linear stage without headroom, from when on', () => {
    const buck = design({
      pack: { series: 2 },
      stages: [{ ...defaultBuck('b', 'pack', 6), maxDuty: 0.9, minInput: 3 }],
      loads: [load('current', 0.5, { from: 'b', ...volts(5, 6.5) })],
      hours: 12,
    });
    const f = found(buck, 'headroom:b', /needs 6\.73 V at its input/, 'fails');
    expect(f.from).toBeGreaterThan(60);
    const linear = design({
      stages: [{ ...defaultLinear('l', 'pack', 3.3), dropoutVolts: 0.4 }],
      loads: [load('current', 0.1, { from: 'l', ...volts(3, 3.5) })],
      hours: 40,
    });
    found(linear, 'headroom:l', /needs 3\.76 V/, 'fails');
  });

  it('input over the converter maximum', () => {
    const doc = design({
      pack: { series: 6 },
      stages: [{ ...defaultBuck('b', 'pack', 5), maxInput: 24 }],
      loads: [load('current', 0.2, { from: 'b', ...volts(4.8, 5.2) })],
    });
    found(doc, 'input-maximum:b', /25\.2 V, over its 24\.0 V/, 'danger');
    expect(simulate(doc).usefulEnd).toMatchObject({ time: 0, stage: { id: 'b', mode: 'overInput' } });
  });

  it('a stage that locks out while the cells are still half full', () => {
    const doc = design({
      pack: { series: 3 },
      stages: [{ ...defaultBuck('b', 'pack', 5), minInput: 11 }],
      loads: [load('current', 0.5, { from: 'b', ...volts(4.8, 5.2) })],
      hours: 8,
    });
    found(doc, 'lock-out:b', /locks out below 11\.0 V with \d+\.\d Wh left/, 'fails');
  });

  it('no over-discharge protection, or one below what damages the cell', () => {
    const loads = [load('current', 0.5, volts(2, 5))];
    found(
      design({ pack: { protection: undefined }, loads }),
      'no-protection:cells',
      /below 2\.75 V a cell/,
      'danger',
    );
    const low = design({ pack: { protection: { ...guard, cutoffVolts: 1.5 } }, loads });
    found(low, 'cut-off:cells', /opens at 1\.50 V, below the 2\.00 V/, 'danger');
  });

  it('current: C-rate, trip, fuse and lead drop, each with its numbers', () => {
    const heavy = [load('power', 30, volts(2, 5))];
    found(
      design({ loads: heavy }),
      'c-rate:cells',
      /Each cell gives \d+\.\d A, \d\.\d\d C; it is rated 2 C/,
      'danger',
    );
    const trip = design({ pack: { parallel: 6, protection: { ...guard, tripCurrent: 9 } }, loads: heavy });
    found(trip, 'trip:protection', /trips at 9\.00 A/, 'fails');
    expect(simulate(trip).deadEnd.reason).toBe('trip');
    const fuse = design({ pack: { parallel: 6, fuse: { rating: 8, resistance: 0.005 } }, loads: heavy });
    found(fuse, 'fuse:fuse', /through a 8\.00 A fuse/, 'fails');
    const leads = [{ gaugeSystem: 'AWG' as const, gauge: 22, length: 1, parallel: 1, temperature: 25 }];
    found(design({ pack: { parallel: 6, leads }, loads: heavy }), 'drop:leads', /% of the pack/, 'tight');
  });

  it('a pack that collapses says the most it can give', () => {
    const cell = CELL_LIBRARY['14500']!;
    const doc = thread({
      cell,
      pack: { protection: { ...guard, cutoffVolts: 0.5 } },
      loads: [load('power', 26, volts(1, 5))],
    });
    found(doc, 'collapse:cells', /The most it can give there is 2\d\.\d W/, 'fails');
  });

  it('a linear regulator turned into a heater', () => {
    const doc = design({
      pack: { series: 3 },
      stages: [{ ...defaultLinear('l', 'pack', 3.3), thermalResistance: 60, outputLimit: 1 }],
      loads: [load('current', 0.25, { from: 'l', ...volts(3, 3.5) })],
    });
    // 12.5 V − 3.3 V at 0.25 A is 2.3 W; 60 K/W above 25 °C is 163 °C.
    found(
      doc,
      'junction:l',
      /2\.3\d W into heat: in 25 °C air it would reach 16\d °C; its limit is 125 °C/,
      'fails',
    );
  });

  it('idle drain: 8 mA empties 2.6 Ah in about a fortnight', () => {
    const stage = defaultBuck('b', 'pack', 3.3);
    stage.loss.quiescentCurrent = 8e-3;
    stage.minInput = 2.5;
    const doc = thread({
      cell: CELL_LIBRARY['18650-balanced']!,
      pack: { protection: { ...guard, quiescentCurrent: 0 } },
      stages: [stage],
      loads: [load('current', 0.1, { from: 'b', ...volts(2.5, 3.5) })],
    });
    const f = found(doc, 'idle:cells', /8\.00 mA flows with everything off.*empty after 13 days/s, 'tight');
    expect(f.element).toBe('cells');
  });

  it('the need: short by how much, and parallel cells that meet it', () => {
    const doc = design({ loads: [load('current', 1, volts(2, 5))], hours: 5 });
    found(doc, 'need:cells', /lasts 3 h \d+ min; 5 h are needed Short by/, 'fails');
  });

  it('each load is told its own cause, after the finding on the stage that causes it', () => {
    const doc = design({
      pack: { series: 3 },
      stages: [
        { ...defaultLinear('a', 'pack', 5), name: 'First' },
        { ...defaultBuck('b', 'pack', 5), name: 'Second' },
      ],
      loads: [
        load('current', 0.9, { id: 'x', from: 'a', ...volts(4.8, 5.2) }),
        load('current', 2.5, { id: 'y', from: 'b', ...volts(4.8, 5.2) }),
      ],
    });
    found(
      doc,
      'current-limit:a',
      /First collapses .*ask for 900 mA at 5\.00 V; it gives 500 mA at most/,
      'fails',
    );
    expect(find(doc, 'under-volts:x')!.reason).toMatch(/^First collapses/);
    expect(find(doc, 'under-volts:y')!.reason).toMatch(/^Second collapses/);
    const ids = findings(doc, simulate(doc)).map((f) => f.id);
    expect(ids.indexOf('current-limit:b')).toBeLessThan(ids.indexOf('under-volts:y'));
  });
});

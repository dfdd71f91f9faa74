import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';
import {
  applyEdits,
  backupFindings,
  backupOf,
  CELL_LIBRARY,
  charge,
  Reading,
  decodeThread,
  defaultLinear,
  demoThreads,
  outage,
  type Charging,
  type ThreadDocument,
} from './core.ts';
import { load, thread } from './build.ts';
import { anyWhole } from './everything.ts';
import { nanIn } from './extreme.ts';
import { QUESTIONS } from './wholeAnswers.ts';
import { chargeFindings } from '../src/checks/charging/charging.ts';
import { eases } from '../src/checks/finding.ts';
import type { Edit } from '../src/model/edit.ts';
import { EFFORT } from '../src/plant/effort.ts';
import { Aside } from '../src/run/step/aside.ts';

/** Random threads; a thousand by `npm run soak`. */
const RUNS = 3;
/** What of the work of a run may lie beyond what it may cost: a search that was under way, and stages looked at before it. */
const BEYOND = 1.5;
const CLOSED = 1e-6;

function hung(name: string): ThreadDocument {
  const text = readFileSync(new URL(`./reference/hung/${name}.thread.json`, import.meta.url), 'utf8');
  const decoded = decodeThread(JSON.parse(text));
  if (!decoded.ok) throw new Error(JSON.stringify(decoded.issues));
  return decoded.value;
}

function look(doc: ThreadDocument, questions = Object.keys(QUESTIONS)): void {
  for (const name of questions) {
    const ask = QUESTIONS[name]!;
    const asked = ask(doc);
    if (!asked) continue;
    expect(nanIn(asked.answer), name).toBeUndefined();
    for (const { closure } of asked.ledgers) expect(closure, name).toBeLessThan(CLOSED);
    expect(
      asked.words.filter((w) => /NaN|undefined|Infinity/.test(w)),
      name,
    ).toEqual([]);
    if (asked.counts && !asked.cut) expect(asked.counts.work, name).toBeLessThan(BEYOND * EFFORT);
  }
}

describe('threads on which everything meets', () => {
  it.each([
    ['random-60', ['charge', 'outage']],
    ['random-123', ['backup', 'plan']],
    ['random-133', ['backup']],
    ['random-51', ['backup']],
    ['random-91', ['charge']],
    ['random-92', ['charge']],
    // The demand jumps, and the cells creep between both sides of it.
    ['hunts-warm', ['charge']],
    ['hunts-unlike', ['charge']],
    ['hunts-empty', ['outage']],
    ['door-lock-4V0', ['backup']],
  ])('%s: what hung, crept or stayed open ends, and its account closes', (name, questions) =>
    look(hung(name), questions),
  );

  it('between both sides of a jump the path is on neither for less than no time', () => {
    const { hunt } = Aside.prototype;
    const hunted = vi.spyOn(Aside.prototype, 'hunt');
    const shares: number[] = [];
    hunted.mockImplementation(function (this: Aside, ...args) {
      const length = hunt.apply(this, args);
      if (length !== undefined) shares.push(...this.step.nodes.map((n) => n.share));
      return length;
    });
    try {
      look(hung('hunts-empty'), ['outage']);
      look(hung('hunts-warm'), ['charge']);
    } finally {
      hunted.mockRestore();
    }
    expect(shares.length).toBeGreaterThan(10);
    expect(Math.min(...shares)).toBeGreaterThanOrEqual(0);
  });

  it('any thread with a programme, unlike cells, cold, a charger and mains', () => {
    fc.assert(
      fc.property(anyWhole, (doc) => look(doc)),
      { numRuns: RUNS, seed: 7 },
    );
  });

  it('what breaks off is told, with how far it is known', () => {
    const cut = hung('random-60');
    const filled = charge(cut);
    expect(filled.end.reason).toBe('unfinished');
    expect(chargeFindings(cut, filled).map((f) => f.id)).toContain('charge-breaks-off:charger');
    const backup = { span: 48, outages: [{ from: 1, hours: 1 }] };
    const found = backupOf({ ...cut, backup });
    expect(found.result.end.whole).toBe(false);
    expect(backupFindings({ ...cut, backup }, found).map((f) => f.id)).toContain('breaks-off:backup');
  });
});

describe('a charge that begins anew', () => {
  const lock = demoThreads().find((t) => t.name.includes('lock'))!;
  const volts = (v: number): Edit[] => [
    { op: 'replace', path: ['charging', 'stage', 'outputVolts'], value: v },
  ];
  const anew = (v: number): Edit[] => [
    { op: 'replace', path: ['charging', 'control', 'recharge'], value: v },
  ];
  const inSeries = (n: number): Edit[] => [{ op: 'replace', path: ['pack', 'series'], value: n }];

  it.each<[string, Edit[]]>([
    ['2 in series', inSeries(2)],
    ['3 in series', inSeries(3)],
    ['4.0 V', volts(4)],
    ['3.6 V', volts(3.6)],
    ['3.0 V', volts(3)],
    ['anew below 4.2 V', anew(4.2)],
  ])('above what cells are charged to ends all the same, and is told: %s', (_, edits) => {
    const doc = applyEdits(lock, edits);
    const { result } = backupOf(doc);
    expect(result.end.whole).toBe(true);
    expect(result.ledger.closure).toBeLessThan(CLOSED);
    const told = chargeFindings(doc, charge(doc)).find((f) => f.id === 'begins-anew:charger')!;
    const mended = applyEdits(doc, told.action!.edits);
    const after = chargeFindings(mended, charge(mended)).find((f) => f.id === told.id);
    expect(after === undefined || eases(told, after)).toBe(true);
  });

  it('just below what they rest at waits until the volts have fallen', () => {
    const { outputVolts } = lock.charging!.stage as { outputVolts: number };
    const doc = applyEdits(lock, anew(outputVolts - 0.001));
    expect(backupOf(doc).result.end.whole).toBe(true);
    expect(chargeFindings(doc, charge(doc)).map((f) => f.id)).not.toContain('begins-anew:charger');
    // It does begin anew once they have: days later the cells still stand next to where it charges to.
    const rows = new Reading(outage(doc, [], 200 * 3600, {}, { rows: 400 }).series);
    const later = Array.from({ length: rows.count }, (_, r) => r).filter(
      (r) => rows.at(r, 'time') > 50 * 3600,
    );
    expect(Math.min(...later.map((r) => rows.at(r, 'cellVolts')))).toBeGreaterThan(outputVolts - 0.02);
  });
});

describe('a pack that nothing is left of', () => {
  const cell = { ...CELL_LIBRARY['18650-energy']!, selfDischargePerMonth: 0 };
  const dark = (pack: Partial<ThreadDocument['pack']>, more: Partial<ThreadDocument> = {}) => {
    const charging: Charging = {
      source: { kind: 'supply', name: 'S', volts: 5, droop: 0, limit: 2, beyond: 'hard', grade: 'assumed' },
      stage: { ...defaultLinear('c', 'source', 4.2), outputLimit: 2, maxInput: 30 },
      control: { current: 0.5, sense: 'output', terminate: 0.05 },
      meanwhile: 'battery',
      from: 1,
    };
    const doc = {
      ...thread({ cell, pack, loads: [load('power', 0.5, { range: { min: 2, max: 5 } })] }),
      charging,
      ...more,
    };
    const hour = 3600;
    return outage(doc, [{ from: 1 * hour, to: 60 * hour }], 70 * hour);
  };

  it('stands in the dark until mains is back, its unlike cells coming level, its account closed', () => {
    const { dark: none, ledger } = dark({ parallel: 2, odd: { count: 1, capacity: 0.6, resistance: 2 } });
    expect(none).toHaveLength(1);
    expect(none[0]!.to).toBeCloseTo(60 * 3600, 3);
    expect(ledger.closure).toBeLessThan(CLOSED);
    expect(ledger.entries.find((e) => e.mechanism === 'between cells')!.joules).toBeGreaterThan(0);
  });

  it('cools to the air as it stands, and what it then holds less is booked', () => {
    const warmth = { heatCapacity: 40, resistance: 8, grade: 'assumed' as const };
    const { ledger } = dark({ warmth }, { conditions: { minAir: -10, air: -5, maxAir: 20 } });
    expect(ledger.closure).toBeLessThan(CLOSED);
    expect(ledger.warmed).not.toBe(0);
  });

  it('counts what loads do not get at the middle of its own volts', () => {
    const lfp = CELL_LIBRARY['26650-lfp']!;
    const amps = 3;
    const doc = (record: typeof cell) => ({
      ...thread({
        cell: record,
        pack: { startSoc: 0.02 },
        loads: [load('current', amps, { range: { min: 1, max: 99 } })],
      }),
      charging: {
        source: {
          kind: 'supply',
          name: 'S',
          volts: 12,
          droop: 0,
          limit: 2,
          beyond: 'hard',
          grade: 'assumed',
        },
        stage: { ...defaultLinear('c', 'source', 3.6), outputLimit: 2, maxInput: 30 },
        control: { current: 0.5, sense: 'output', terminate: 0.05 },
        meanwhile: 'battery',
        from: 1,
      } as Charging,
    });
    const result = outage(doc(lfp), [{ from: 0, to: 7200 }], 7200, { startSoc: 0.02 });
    const seconds = result.dark.reduce((s, d) => s + d.to - d.from, 0);
    expect(result.unserved / seconds / amps).toBeGreaterThan(3.2);
    expect(result.unserved / seconds / amps).toBeLessThan(3.4);
  });
});

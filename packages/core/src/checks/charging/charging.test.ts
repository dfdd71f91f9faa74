import { describe, expect, it } from 'vitest';
import { stopVolts } from '../../charging/volts.ts';
import { load, plainCell, seriesOhms, thread } from '../../../test/build.ts';
import {
  applyEdits,
  backupFindings,
  backupOf,
  charge,
  chargeFindings,
  contractSource,
  defaultBoost,
  demoThreads,
  suggestCharging,
  usualSources,
  type Charging,
  type Finding,
  type SupplySource,
  type ThreadDocument,
} from '../../../test/core.ts';

const supply = (volts: number, more: Partial<SupplySource> = {}): SupplySource => ({
  name: 'S',
  kind: 'supply',
  volts,
  droop: 0,
  limit: 3,
  beyond: 'hard',
  grade: 'assumed',
  ...more,
});

const cell = plainCell(3, 3, 4.2, 0.05);

/** Three in series on a charger that suits them, but for what is changed. */
function doc(change: (c: Charging) => Charging = (c) => c, series = 3): ThreadDocument {
  const base = thread({ cell, pack: { series }, loads: [load('power', 0.5)] });
  return { ...base, charging: change(suggestCharging(base, supply(16))) };
}

const found = (d: ThreadDocument) => chargeFindings(d, charge(d));
const find = (d: ThreadDocument, id: string): Finding | undefined => found(d).find((f) => f.id === id);
const set = (outputVolts: number) => (c: Charging) =>
  ({ ...c, stage: { ...c.stage, outputVolts } }) as Charging;
/** The thread with what a finding offers. */
const mended = (d: ThreadDocument, id: string) => applyEdits(d, find(d, id)!.action!.edits);
const plain = (f: Finding | undefined) => `${f?.title} ${f?.reason}`.replace(/\s/g, ' ');

describe('what a charge is checked for', () => {
  it('full volts: 4.2·S, 3S 12.6, 4S 16.8, 5S 21.0, 6S 25.2, 7S 29.4: common practice, no source', () => {
    for (const [series, full] of [
      [3, 12.6],
      [4, 16.8],
      [5, 21],
      [6, 25.2],
      [7, 29.4],
    ] as const) {
      const over = doc((c) => ({ ...set(1.02 * full)(c), source: supply(40) }), series);
      const { action } = find(over, 'charge-volts:charger')!;
      expect(action!.edits[0]!.value).toBeCloseTo(full, 9);
      // 4.10 to 4.16 V a cell is what one is trimmed to: common practice, no source.
      const { stage } = suggestCharging(over, supply(40));
      expect((stage as { outputVolts: number }).outputVolts / full).toBeGreaterThan(4.1 / 4.2);
      expect((stage as { outputVolts: number }).outputVolts / full).toBeLessThan(4.16 / 4.2);
    }
  });

  it('set too high, for another count of cells, another chemistry; by its parts', () => {
    expect(find(doc(set(16.8)), 'charge-volts:charger')).toMatchObject({ severity: 'danger' });
    expect(plain(find(doc(set(16.8)), 'charge-volts:charger'))).toContain('set for 4 in series; there are 3');
    expect(plain(find(doc(set(13.05)), 'charge-volts:charger'))).toContain('set for a 4.35 V cell');
    // 12.6 V within a per cent is 4.242 a cell at worst, as half the world charges: tight. 4.28 is not.
    const usual = doc(set(12.6));
    expect(find(usual, 'charge-volts:charger')).toMatchObject({ severity: 'tight' });
    expect(find(doc(set(12.84)), 'charge-volts:charger')).toMatchObject({ severity: 'danger' });
    // Trimming takes it below.
    const trimmed = mended(usual, 'charge-volts:charger');
    expect(find(trimmed, 'charge-volts:charger')).toBeUndefined();
    // Trimmed to 4.10 to 4.16 V a cell: common practice, no source.
    const volts = (trimmed.charging!.stage as { outputVolts: number }).outputVolts / 3;
    expect(volts).toBeGreaterThan(4.1);
    expect(volts).toBeLessThan(4.16);
  });

  it('a diode behind it: never full, by how much; a bare diode: over', () => {
    const diode = { volts: 0.7, resistance: 0 };
    const d = doc((c) => ({ ...set(12.6)(c), diode }));
    expect(plain(find(d, 'charge-low:charger'))).toMatch(/stops at 3\.97 V a cell.*keeps 700 mV/);
    // Its drop falls with the current: no volts behind it are right.
    expect(find(d, 'charge-low:charger')!.action).toBeUndefined();
    expect(find(doc(set(11.5)), 'charge-low:charger')!.action).toBeDefined();
    // Set to make up for the drop it is right as it charges, and over once nothing flows.
    const made = doc((c) => ({ ...set(13.2)(c), diode }));
    expect(find(made, 'charge-volts:charger')).toMatchObject({ severity: 'danger' });
    expect(plain(find(made, 'charge-volts:charger'))).toMatch(/4\.40 V a cell.*once little current flows/);
    const bare = doc((c) => ({
      ...c,
      diode,
      stage: {
        id: 'c',
        name: 'Wire',
        from: 'source',
        kind: 'direct',
        resistance: 0.1,
        maxInput: 60,
        grade: 'assumed',
      },
    }));
    delete bare.charging!.control;
    expect(find(bare, 'no-charger:charger')).toMatchObject({ severity: 'danger' });
    expect(find(bare, 'over-charged:cells')).toMatchObject({ severity: 'danger' });
  });

  it('a fixed chip is not trimmed; a divider in use is what is built, whatever was asked, until its pair is another', () => {
    const fixed = doc((c) => ({ ...set(12.6)(c), control: { ...c.control!, fixed: 0.015 } }));
    expect(plain(find(fixed, 'charge-volts:charger'))).toMatch(/4\.26 V a cell.*as its chip is fixed: 63 mV/);
    expect(find(fixed, 'charge-volts:charger')).toMatchObject({ severity: 'danger' });
    expect(find(fixed, 'charge-volts:charger')!.action).toBeUndefined();
    // 1.2 V · (1 + 105/11) = 12.65 V, asked for 12.3.
    const parts = { reference: 1.2, referenceTolerance: 0.01, resistorTolerance: 0.01 };
    const divider = { ...parts, top: 105e3, bottom: 11e3 };
    const built = doc((c) => ({ ...set(12.3)(c), control: { ...c.control!, divider } }));
    expect(charge(built).phases.at(-1)).toBeDefined();
    expect(plain(find(built, 'charge-volts:charger'))).toMatch(/Set to 12\.7 V.*by its parts/);
    const cured = mended(built, 'charge-volts:charger');
    expect(find(cured, 'charge-volts:charger')).toBeUndefined();
    expect(stopVolts(cured.charging!)!.most).toBeLessThanOrEqual(12.6);
    expect(stopVolts(cured.charging!)!.set).toBeGreaterThan(12.1);
  });

  it('never ends with the loads on: they are kept off', () => {
    const d = doc((c) => ({ ...c, meanwhile: 'battery', control: { ...c.control!, terminate: 0.02 } }));
    const base = { ...d, loads: [load('current', 0.1)] };
    expect(plain(find(base, 'never-ends:charger'))).toMatch(/never ends.*loads alone take up to 100 mA/);
    expect(find(mended(base, 'never-ends:charger'), 'never-ends:charger')).toBeUndefined();
  });

  it('a source below the pack, one that lets go, a contract nobody offers, too many volts', () => {
    const low = doc((c) => ({ ...c, source: supply(11) }));
    expect(plain(find(low, 'never-ends:charger'))).toMatch(
      /stays at \d+ %: 11\.0 V are too few above the pack/,
    );
    const weak = supply(16, { limit: 0.5, beyond: 'hiccup' });
    const lets = doc(({ control, ...c }) => {
      const rest = { ...control! };
      delete rest.inputLimit;
      return { ...c, control: rest, source: weak };
    });
    expect(find(lets, 'source-asked:source')).toMatchObject({ severity: 'fails' });
    const held = charge(mended(lets, 'source-asked:source'));
    expect(held.end.reason).not.toBe('never');
    const asked = doc((c) => ({ ...c, source: { ...contractSource(20, 45), asks: 18 } as never }));
    expect(plain(find(asked, 'contract:source'))).toContain(
      'asks for 18.0 V; the source offers none and gives 15.0 V',
    );
    expect(
      find(
        doc((c) => ({ ...c, source: supply(48) })),
        'charge-input:charger',
      ),
    ).toMatchObject({
      severity: 'danger',
    });
  });

  it('a step-up behind more volts than the pack has cannot hold anything back', () => {
    const boost = thread({ cell, pack: { series: 3 }, loads: [] });
    const own = suggestCharging(boost, supply(5));
    expect(own.stage.kind).toBe('boost');
    const d = { ...boost, charging: { ...own, source: supply(12) } };
    expect(find(d, 'charge-through:charger')).toMatchObject({ severity: 'danger' });
    expect(find({ ...boost, charging: own }, 'charge-through:charger')).toBeUndefined();
  });

  it('too fast, too cold, with nothing that keeps the groups even', () => {
    const fast = doc((c) => ({
      ...c,
      control: { ...c.control!, current: 6, inputLimit: 10 },
      source: supply(16, { limit: 10 }),
    }));
    expect(find(fast, 'charge-rate:cells')).toMatchObject({ severity: 'danger' });
    expect(find(mended(fast, 'charge-rate:cells'), 'charge-rate:cells')?.severity).not.toBe('danger');
    // Where the source holds it back, what is offered is what the cells may have, not a part of what was asked.
    const asked = fast.charging!.control!.current;
    const source = supply(16, { limit: 0.9 * asked });
    const weak = {
      ...fast,
      charging: { ...fast.charging!, source, control: { ...fast.charging!.control!, current: 4 * asked } },
    };
    const offered = find(weak, 'charge-rate:cells')!.action!.edits[0]!.value as number;
    expect(offered).toBeLessThanOrEqual(
      weak.pack.cell.chargeRate * weak.pack.cell.capacityAh * weak.pack.parallel,
    );
    expect(find(mended(weak, 'charge-rate:cells'), 'charge-rate:cells')).toBeUndefined();
    const cold = { ...doc(), conditions: { minAir: -10, air: 20, maxAir: 30 } };
    expect(find(cold, 'charge-air:cells')).toMatchObject({ severity: 'danger' });
    expect(find(mended(cold, 'charge-air:cells'), 'charge-air:cells')).toBeUndefined();
    expect(charge(mended(cold, 'charge-air:cells'), undefined, { air: -5 }).end.reason).toBe('cold');
    expect(find(doc(), 'no-balance:protection')).toMatchObject({ severity: 'tight' });
    expect(
      find(
        doc((c) => c, 1),
        'no-balance:protection',
      ),
    ).toBeUndefined();
  });

  it('groups apart: the highest goes over, the board is too slow to bring them even', () => {
    const apart = (more: object) => {
      const d = doc();
      const groups = [{ capacity: 1, resistance: 1, startSoc: 0.6 }];
      return { ...d, pack: { ...d.pack, startSoc: 0.5, groups, ...more } };
    };
    const alone = found(apart({}));
    expect(alone.map((f) => f.id)).toContain('no-balance:protection');
    const protection = {
      cutoffVolts: 2.6,
      tripCurrent: 20,
      resistance: 0,
      quiescentCurrent: 0,
      balanceCurrent: 0.05,
      balanceVolts: 4.1,
      grade: 'assumed' as const,
    };
    // A tenth of 3 Ah at 50 mA: six hours.
    const slow = find(apart({ protection }), 'slow-balance:protection')!;
    expect(plain(slow)).toMatch(/would bleed 50\.0 mA for 6 h .* The fullest is group 1/);
    // What its record knows ends at full: a cell that goes on above shows the highest group over.
    const above = plainCell(3, 3, 4.4, 0.05);
    const over = apart({ cell: { ...above, fullVolts: 4.2 } });
    expect(plain(find(over, 'group-over:cells'))).toMatch(/group 1, comes to 4\.[23]/);
  });

  it('emptied too far, a holder without a mark, a boost that goes on below the end, two guards at once', () => {
    const own = { ...cell, endVolts: 3.1, damageVolts: 2.4 };
    const at = (restVolts: number, control = {}) =>
      doc((c) => ({ ...c, restVolts, control: { ...c.control!, ...control } }));
    const based = (d: ThreadDocument) => ({ ...d, pack: { ...d.pack, cell: own } });
    expect(find(based(at(2.2)), 'emptied:cells')).toMatchObject({ severity: 'danger' });
    const bare = based(at(2.6));
    delete bare.charging!.control!.precharge;
    expect(find(bare, 'emptied:cells')).toMatchObject({ severity: 'fails' });
    expect(find(mended(bare, 'emptied:cells'), 'emptied:cells')).toBeUndefined();
    // It begins gently, and its first phase is that.
    expect(charge(mended(bare, 'emptied:cells')).phases[0]!.limit).toBe('precharge');

    const held = doc();
    held.pack = { ...held.pack, holder: 'open' };
    expect(find(held, 'reversed:cells')).toMatchObject({ severity: 'danger' });
    expect(find(mended(held, 'reversed:cells'), 'reversed:cells')).toBeUndefined();

    const low = doc();
    low.pack = { ...low.pack, cell: own };
    low.stages = [{ ...defaultBoost('b', 'pack', 15), minInput: 6 }];
    low.loads = [load('power', 0.5, { from: 'b', range: { min: 10, max: 16 } })];
    expect(find(low, 'works-below:b')).toMatchObject({ severity: 'fails' });
    expect(find(mended(low, 'works-below:b'), 'works-below:b')).toBeUndefined();
    const guard = {
      cutoffVolts: 2.8,
      tripCurrent: 20,
      resistance: 0,
      quiescentCurrent: 0,
      grade: 'assumed' as const,
    };
    const both = { ...low, stages: [{ ...low.stages[0]!, minInput: 8.4 } as never] };
    both.pack = { ...low.pack, protection: { ...guard, wakeUp: true } };
    expect(plain(find(both, 'two-guards:b'))).toContain('nothing runs until a charger wakes it');
    both.pack = { ...low.pack, protection: { ...guard, wakeUp: true, cutoffVolts: 2.5 } };
    expect(find(both, 'two-guards:b')).toBeUndefined();
  });

  it('a 3 Ah pack at 0.66 C takes about 1 h 42 min from cut-off: common practice, no source', () => {
    const d = doc((c) => ({
      ...c,
      source: supply(16, { limit: 10 }),
      control: { current: 1.98, sense: 'output', terminate: 0.15 },
      from: 0.02,
    }));
    const { end } = charge(d);
    expect(end.time / 3600).toBeGreaterThan(1.4);
    expect(end.time / 3600).toBeLessThan(1.9);
  });

  it('phone adapters give 3 to 3.5 A at 9 or 12 V, so at most 42 W: common practice, no source', () => {
    for (const source of usualSources()) {
      if (source.kind !== 'contracts' || source.asks > 12) continue;
      for (const o of source.offers) if (o.volts <= 12) expect(o.volts * o.amps).toBeLessThanOrEqual(42);
    }
  });

  it('usual sources and the demo threads: what is suggested charges, and what is offered may stand', () => {
    for (const source of usualSources()) {
      const base = thread({ cell, pack: { series: 2 }, loads: [] });
      const d = { ...base, charging: suggestCharging(base, source) };
      const { end } = charge(d);
      expect([source.name, end.reason]).toEqual([source.name, 'terminated']);
    }
    for (const d of demoThreads().filter((t) => t.charging)) {
      expect(found(d).filter((f) => f.severity === 'danger')).toEqual([]);
    }
  });

  it('a current beyond what the charger gives itself, and one within it', () => {
    const chip = (current: number) =>
      doc((c) => ({
        ...c,
        stage: { ...c.stage, outputLimit: 1 } as Charging['stage'],
        control: { ...c.control!, current },
      }));
    const over = find(chip(2.14), 'charge-own-limit:charger')!;
    expect(plain(over)).toContain('set to 2.14 A, beyond the 1.00 A it gives');
    expect(find(mended(chip(2.14), 'charge-own-limit:charger'), 'charge-own-limit:charger')).toBeUndefined();
    expect(find(chip(1), 'charge-own-limit:charger')).toBeUndefined();
  });

  it('a board that would bleed above where the charger stops never balances', () => {
    const board = (balanceVolts: number) => {
      const d = doc(set(12.3));
      const protection = { ...seriesOhms(0, 2.6), balanceCurrent: 0.05, balanceVolts };
      return { ...d, pack: { ...d.pack, protection } };
    };
    expect(plain(find(board(4.18), 'never-balances:protection'))).toContain(
      'stops at 4.10 V: it never balances',
    );
    expect(find(board(4.08), 'never-balances:protection')).toBeUndefined();
  });

  it('a source that lets go under what goes straight past a step-up: the danger is told all the same', () => {
    const boost = (beyond: SupplySource['beyond'], volts: number) =>
      doc((c) => ({
        ...c,
        source: supply(volts, { limit: 1.35, beyond }),
        stage: defaultBoost('c', 'source', 12.4),
        control: { ...c.control!, current: 1 },
      }));
    for (const beyond of ['hard', 'hiccup'] as const)
      expect(find(boost(beyond, 20), 'charge-through:charger')).toMatchObject({ severity: 'danger' });
    // Nothing comes of it while it lets go.
    expect(charge(boost('hiccup', 20)).fastest.amps).toBe(0);
    expect(charge(boost('hard', 20)).fastest.amps).toBeGreaterThan(1);
    expect(find(boost('hiccup', 5), 'charge-through:charger')).toBeUndefined();
  });

  it('mains that comes back to a pack that never comes up is told as that, not as mains that is gone', () => {
    // A step-up without a lock-out of its own takes 0.5 A of an empty cell; 0.1 A of gentle current is all that comes.
    const boost = { ...defaultBoost('b', 'pack', 5.1), minInput: 1.5 };
    const base = thread({
      cell,
      pack: { series: 1 },
      stages: [boost],
      loads: [load('power', 1.27, { from: 'b', range: { min: 4.6, max: 5.5 } })],
    });
    const backup = { span: 48, outages: [{ from: 2, hours: 14 }] };
    const charging = { ...suggestCharging(base, supply(5)), meanwhile: 'battery' as const };
    const held = (current: number): ThreadDocument => ({
      ...base,
      backup,
      charging: {
        ...charging,
        control: { ...charging.control!, current: 1, precharge: { below: 3, current, timer: 40 } },
      },
    });
    const dark = (d: ThreadDocument) =>
      backupFindings(d, backupOf(d)).find((f) => f.id === 'goes-dark:backup');
    expect(plain(dark(held(0.1)))).toContain('Mains comes back, and they stay off');
    expect(plain(dark(held(0.9)))).toContain('The pack is empty, and mains not back');
  });
});

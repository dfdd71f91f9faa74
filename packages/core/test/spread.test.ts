import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { CellGroup } from '../src/model/group.ts';
import { readingOf } from '../src/run/reading/reading.ts';
import { CELL_LIBRARY, decodeThread, ROW, simulate, type ThreadDocument } from './core.ts';
import { load, plainCell, seriesOhms, thread } from './build.ts';
import { caseOf, input, meets, type Case } from './cases.ts';
import { cellOf } from './schedules.ts';

const WH = 3600;

/** The list of a case that says [capacity in Ah, resistance, charge at the start] of each group or cell. */
function listOf(c: Case, name: string): [number, number, number][] {
  return (c.inputs[name] as unknown as { value: [number, number, number][] }).value;
}

/** A case of groups in series as a thread. @param rated [Ah] of the record */
function seriesThread(c: Case, rated: number): ThreadDocument {
  const { unit } = c.inputs.load as unknown as { unit: string };
  const groups = listOf(c, 'groups').map(([ah, resistance, startSoc]) => {
    return { capacity: ah / rated, resistance, startSoc };
  });
  const cell = cellOf({ ...c, inputs: { ...c.inputs, cell_capacity: { value: rated as never } } });
  return thread({
    cell,
    pack: {
      series: groups.length,
      groups,
      protection: seriesOhms(input(c, 'Rext'), input(c, 'cut_off_group')),
    },
    loads: [load(unit.startsWith('A') ? 'current' : 'power', input(c, 'load'))],
  });
}

const mean = (of: number[]) => of.reduce((a, b) => a + b) / of.length;

describe('groups in series that differ, against quadrature over charge elsewhere', () => {
  for (const [id, rated] of [
    ['H3-SER-1', 3.2],
    ['H3-SER-2', 2.6],
  ] as const) {
    const c = caseOf('H3_spread', id);
    it(`${id}: ${c.description}`, () => {
      const doc = seriesThread(c, rated);
      expect(decodeThread(doc)).toMatchObject({ ok: true });
      const run = simulate(doc);
      const { groups } = doc.pack;
      const same = { ...doc.pack, groups: doc.pack.groups!.map(() => meanOf(groups!)) };
      const out = (element: string) =>
        run.ledger.entries.filter((e) => e.element === element).reduce((s, e) => s + e.joules, 0) / WH;
      const [first] = listOf(c, 'groups');
      meets(c, {
        runtime: run.usefulEnd.time / WH,
        ends_by: run.deadEnd.reason === 'cutoff' ? 'group' : 'pack',
        energy_at_terminals: out('load'),
        heat_in_cells: out('cells'),
        charge: (first![2] - run.groups!.soc[0]!) * first![0],
        soc_of_groups_at_end: run.groups!.soc,
        group_voltages_at_end: run.groups!.volts,
        ocv_energy_left_in_groups: run.groups!.left.map((j) => j / WH),
        runtime_if_all_groups_were_the_mean: simulate({ ...doc, pack: same }).usefulEnd.time / WH,
        weakest_group: run.groups!.weakest,
      });
      expect(run.ledger.closure).toBeLessThan(1e-9);
      expect(run.ledger.left / WH).toBeCloseTo(run.groups!.left.reduce((a, b) => a + b) / WH, 6);
    });
  }

  function meanOf(groups: CellGroup[]): CellGroup {
    const of = (name: keyof CellGroup) => mean(groups.map((g) => g[name]!));
    return { capacity: of('capacity'), resistance: of('resistance'), startSoc: of('startSoc') };
  }

  it('all alike are one cell many times, bit for bit but for rounding', () => {
    const cell = CELL_LIBRARY['18650-balanced']!;
    const doc = thread({ cell, pack: { series: 3, startSoc: 0.9 }, loads: [load('power', 20)] });
    const alike = {
      ...doc,
      pack: { ...doc.pack, groups: [1, 2, 3].map(() => ({ capacity: 1, resistance: 1 })) },
    };
    const [one, other] = [simulate(doc), simulate(alike)];
    expect(other.usefulEnd.time / one.usefulEnd.time).toBeCloseTo(1, 6);
    expect(other.ledger.stored / one.ledger.stored).toBeCloseTo(1, 9);
    expect(other.leftBehind).toBeCloseTo(one.leftBehind, 2);
    expect(other.idle.hoursToEnd / one.idle.hoursToEnd).toBeCloseTo(1, 6);
  });

  it('closes its account, stays the same in another order, and never lasts longer for a weaker group', () => {
    const cell = CELL_LIBRARY['21700-energy']!;
    const group = fc.record({
      capacity: fc.double({ min: 0.7, max: 1.1, noNaN: true }),
      resistance: fc.double({ min: 0.7, max: 3, noNaN: true }),
      startSoc: fc.double({ min: 0.5, max: 1, noNaN: true }),
    });
    fc.assert(
      fc.property(
        fc.array(group, { minLength: 2, maxLength: 5 }),
        fc.integer({ min: 0, max: 4 }),
        fc.double({ min: 2, max: 25, noNaN: true }),
        (groups, which, watts) => {
          const at = (some: CellGroup[]) => {
            const pack = { series: groups.length, groups: some, protection: seriesOhms(0.02, 2.8) };
            return simulate(thread({ cell, pack, loads: [load('power', watts)] }));
          };
          const run = at(groups);
          expect(run.ledger.closure).toBeLessThan(1e-6);
          const turned = at([...groups.slice(1), groups[0]!]);
          expect(turned.deadEnd.time / run.deadEnd.time).toBeCloseTo(1, 6);
          expect(turned.groups!.soc[groups.length - 1]).toBeCloseTo(run.groups!.soc[0]!, 6);
          const k = which % groups.length;
          const weaker = groups.map((g, n) =>
            n === k ? { ...g, capacity: 0.97 * g.capacity, resistance: 1.1 * g.resistance } : g,
          );
          expect(at(weaker).deadEnd.time).toBeLessThan(run.deadEnd.time * (1 + 1e-6));
        },
      ),
      { numRuns: 40, seed: 9 },
    );
  });

  it('on the shelf the first group to come to its end decides: by hand, under a steady draw', () => {
    const cell = { ...plainCell(2, 3, 4, 0.01), endVolts: 3.2, damageVolts: 3.1 };
    const idle = (groups?: CellGroup[]) => {
      const protection = { ...seriesOhms(0), quiescentCurrent: 1e-3 };
      return simulate(
        thread({
          cell,
          pack: { series: 2, protection, ...(groups ? { groups } : {}) },
          loads: [load('power', 1)],
        }),
      ).idle;
    };
    // 1 mA out of 2 Ah from full to 20 %: 1,600 h; from 60 % of 1.6 Ah to 20 %: 640; to harm at 10 %: 800.
    expect(idle().hoursToEnd).toBeCloseTo(1600, 3);
    const unlike = idle([{ capacity: 0.8, resistance: 1, startSoc: 0.6 }]);
    expect(unlike.hoursToEnd).toBeCloseTo(640, 3);
    expect(unlike.hoursToDamage).toBeCloseTo(800, 3);
  });

  it('one that begins empty ends the run at once; one empty and another full have nothing to pass: refused', () => {
    const cell = CELL_LIBRARY['18650-energy']!;
    const at = (groups: CellGroup[]) =>
      thread({ cell, pack: { series: 3, groups }, loads: [load('power', 5)] });
    const empty = at([{ capacity: 1, resistance: 1, startSoc: 0 }]);
    const half = { ...empty, pack: { ...empty.pack, startSoc: 0.5 } };
    expect(decodeThread(half).ok).toBe(true);
    expect(simulate(half).deadEnd).toMatchObject({ time: 0, reason: 'empty' });
    const full = decodeThread(empty);
    expect(full.ok ? [] : full.issues.map((i) => i.path)).toEqual(['pack.groups']);
  });

  it('is cut off by its weakest group, not by the mean of all', () => {
    const cell = CELL_LIBRARY['18650-energy']!;
    const groups = [{ capacity: 0.85, resistance: 1.5 }];
    const pack = { series: 4, groups, protection: seriesOhms(0.02, 2.9) };
    const run = simulate(thread({ cell, pack, loads: [load('power', 10)] }), { rows: 200 });
    expect(run.deadEnd.reason).toBe('cutoff');
    expect(run.groups!.volts[run.groups!.weakest]).toBeCloseTo(2.9, 3);
    const reading = readingOf(run);
    expect(reading.at(reading.last, ROW.cellVolts)).toBeGreaterThan(3.2);
  });
});

describe('cells side by side that differ, against adaptive integration elsewhere', () => {
  /** A case of two cells in parallel as a thread. @param waits whether they are joined for an hour before the load */
  function sideBySide(c: Case, waits: boolean): ThreadDocument {
    const [usual, other] = listOf(c, 'cells');
    const [rated, , startSoc] = usual!;
    const [ah, resistance, own] = other!;
    const cell = cellOf({ ...c, inputs: { ...c.inputs, cell_capacity: { value: rated as never } } });
    const { unit } = c.inputs.load as unknown as { unit: string };
    const range = { min: input(c, 'cut_off'), max: 100 };
    const one = load(unit.startsWith('A') ? 'current' : 'power', input(c, 'load'), { range });
    const odd = { count: 1, capacity: ah / rated, resistance, startSoc: own };
    const doc = thread({
      cell,
      pack: { parallel: 2, startSoc, odd, protection: seriesOhms(input(c, 'Rext'), 0.5) },
      loads: [waits ? { ...one, draws: [{ mode: 'rest', value: 0 }] } : one],
    });
    if (!waits) return doc;
    const segments = [
      { mode: 'rest', seconds: 3600 * input(c, 'rest_before_load') },
      { mode: 'on', seconds: 10 },
    ];
    const modes = ['rest', 'on'].map((id) => ({ id, name: id }));
    return { ...doc, modes, programme: { segments, after: 'stay' } };
  }

  for (const id of ['H3-PAR-1', 'H3-PAR-0']) {
    const c = caseOf('H3_spread', id);
    it(`${id}: ${c.description}`, () => {
      const waits = id === 'H3-PAR-0';
      const doc = sideBySide(c, waits);
      expect(decodeThread(doc)).toMatchObject({ ok: true });
      const run = simulate(doc);
      const { time, odd, others, oddSoc, othersSoc } = run.sharing!;
      const begins = time.findLastIndex((t) => t <= (waits ? 3600 * (1 + 1e-9) : 0));
      const ends = time.findIndex((t) => t >= run.usefulEnd.time * (1 - 1e-9));
      const under = time.map((_, k) => k).filter((k) => k >= begins && k <= ends);
      const mostOf = (of: number[]) => Math.max(...under.map((k) => of[k]!));
      const out = (element: string, mechanism?: string) =>
        run.ledger.entries
          .filter((e) => e.element === element && (!mechanism || e.mechanism === mechanism))
          .reduce((s, e) => s + e.joules, 0) / WH;
      const rest = waits ? 1 : 0;
      const settled = begins - 1;
      meets(
        c,
        {
          currents_at_start: [others[begins], odd[begins]],
          currents_at_end: [others[ends], odd[ends]],
          largest_current_of_each: [mostOf(others), mostOf(odd)],
          runtime: run.usefulEnd.time / WH - rest,
          soc_at_end: [othersSoc[ends], oddSoc[ends]],
          largest_soc_gap: mostOf(oddSoc.map((z, k) => Math.abs(z - othersSoc[k]!))),
          energy_at_terminals: out('load'),
          heat_in_cells: out('cells'),
          currents_when_joined: [others[0], odd[0]],
          soc_after_rest: [othersSoc[settled], oddSoc[settled]],
          heat_of_equalising: waits ? equalising(doc) : NaN,
        },
        [],
      );
      expect(run.ledger.closure).toBeLessThan(1e-7);
    });
  }

  /** [Wh] that an hour of rest turns to heat: all that is between cells of a run that ends as its load begins. */
  function equalising(doc: ThreadDocument): number {
    const heavy = doc.loads.map((l) => ({ ...l, power: 1e4 }));
    const run = simulate({ ...doc, loads: heavy });
    expect(run.deadEnd.time).toBeCloseTo(3600, 3);
    return run.ledgerAtDead.entries.filter((e) => e.mechanism === 'between cells')[0]!.joules / WH;
  }

  it('odd ones that are like the rest change nothing; branches, warmth and counts of cells close the account', () => {
    const cell = CELL_LIBRARY['18650-balanced']!;
    const doc = thread({ cell, pack: { series: 2, parallel: 3 }, loads: [load('power', 15)] });
    const alike = { ...doc.pack, odd: { count: 1, capacity: 1, resistance: 1 } };
    const [one, same] = [simulate(doc), simulate({ ...doc, pack: alike })];
    expect(same.usefulEnd.time / one.usefulEnd.time).toBeCloseTo(1, 6);
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 3 }),
        fc.double({ min: 0.5, max: 1.1, noNaN: true }),
        fc.double({ min: 0.7, max: 4, noNaN: true }),
        fc.double({ min: 0.6, max: 1, noNaN: true }),
        fc.double({ min: 3, max: 60, noNaN: true }),
        fc.boolean(),
        (count, capacity, resistance, startSoc, watts, warms) => {
          const warmth = { heatCapacity: 200, resistance: 6, grade: 'assumed' as const };
          const odd = { count, capacity, resistance, startSoc };
          const pack = { series: 2, parallel: 4, odd, ...(warms ? { warmth } : {}) };
          const run = simulate(thread({ cell, pack, loads: [load('power', watts)] }));
          expect(run.ledger.closure).toBeLessThan(1e-6);
          const { odd: amps, others } = run.sharing!;
          // What all give together is what the pack gives: by the first instant.
          const first = count * amps[0]! + (4 - count) * others[0]!;
          expect(first).toBeGreaterThan(0);
          expect(run.deadEnd.time).toBeLessThan(one.deadEnd.time * 20);
        },
      ),
      { numRuns: 40, seed: 4 },
    );
  });

  it('come level over weeks while they drain by themselves: in few steps, the account closed', () => {
    const slow = { ...CELL_LIBRARY['18650-balanced']!, capacityAh: 500, selfDischargePerMonth: 0.03 };
    const odd = { count: 1, capacity: 0.87, resistance: 3.3, startSoc: 0.9 };
    const pack = { series: 2, parallel: 3, startSoc: 0.15, odd };
    const run = simulate(thread({ cell: slow, pack, loads: [load('power', 0.05)] }));
    expect(run.ledgerAtDead.closure).toBeLessThan(1e-6);
    expect(run.counts.steps + run.counts.rejected).toBeLessThan(400);
    // What goes round turns to heat: more than a tenth of a per cent of what was stored.
    const between = run.ledgerAtDead.entries.find((e) => e.mechanism === 'between cells')!;
    expect(between.joules / run.ledger.stored).toBeGreaterThan(1e-3);
  });

  it('under a programme that repeats they are taken together: their charge summed, their resistances in parallel', () => {
    const cell = CELL_LIBRARY['18650-balanced']!;
    const { capacityAh } = cell;
    const one = { ...load('power', 5), draws: [{ mode: 'off', value: 0.01 }] };
    const base = thread({ cell, pack: { parallel: 2 }, loads: [one] });
    const programme = {
      after: 'repeat' as const,
      segments: [
        { mode: 'on', seconds: 5 },
        { mode: 'off', seconds: 55 },
      ],
    };
    const doc: ThreadDocument = { ...base, modes: ['on', 'off'].map((id) => ({ id, name: id })), programme };
    const odd = simulate({ ...doc, pack: { ...doc.pack, odd: { count: 1, capacity: 0.6, resistance: 3 } } });
    const times = (of: number[]) => of.map((r) => (r * 2) / (1 + 1 / 3));
    const together = {
      ...cell,
      capacityAh: 0.8 * capacityAh,
      r0: { ...cell.r0, ohms: times(cell.r0.ohms) },
      branches: cell.branches.map((b) => ({ ...b, ohms: times(b.ohms) })),
    };
    const other = simulate({ ...doc, pack: { ...doc.pack, cell: together } });
    expect(odd.sharing).toBeUndefined();
    expect(odd.usefulEnd.time / other.usefulEnd.time).toBeCloseTo(1, 6);
    expect(odd.ledger.closure).toBeLessThan(1e-6);
  });
});

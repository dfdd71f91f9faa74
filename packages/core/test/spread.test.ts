import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { CellGroup } from '../src/model/group.ts';
import { readingOf } from '../src/solver/reading.ts';
import { CELL_LIBRARY, decodeThread, ROW, simulate, type ThreadDocument } from './core.ts';
import { load, seriesOhms, thread } from './build.ts';
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

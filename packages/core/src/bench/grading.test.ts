import { describe, expect, it } from 'vitest';
import { load, plainCell, seriesOhms, thread } from '../../test/build.ts';
import { caseOf, input, meets } from '../../test/cases.ts';
import { decodeThread, type ThreadDocument } from '../../test/core.ts';
import { changeThread } from '../model/changeThread.ts';
import type { BenchCell } from '../model/readings.ts';
import { randomOf } from '../numeric/random.ts';
import { gradedFrom } from './gradedTable.ts';
import {
  gradeOf,
  labelOf,
  layOut,
  lying,
  matchCells,
  strandedBy,
  withGroups,
  type Match,
} from './grading.ts';

const cellsOf = (list: [string, number, number, number][]): BenchCell[] =>
  list.map(([id, capacityAh, milliohms, lost]) => ({
    id,
    capacityAh,
    ohms: milliohms / 1000,
    lostVolts: lost / 1000,
  }));

/** 4S of P cells of 2.4 Ah, a load of half an ampere a cell. */
function pack(series: number, parallel: number, graded: BenchCell[]): ThreadDocument {
  const cell = plainCell(2.4, 3, 4.2, 0.03);
  const protection = seriesOhms(0, 3.05);
  const loads = [load('current', 0.5 * parallel)];
  return { ...thread({ cell, pack: { series, parallel, protection }, loads }), graded };
}

describe('grading', () => {
  const c = caseOf('H9_bench', 'H9-MATCH-1');
  const cells = cellsOf((c.inputs.cells as unknown as { value: [string, number, number, number][] }).value);
  // As the case has it.
  const refusals = { capacityAh: 1.8, ohms: 0.075, lostVolts: 0.02, restVolts: 0 };

  it('H9-MATCH-1: ten salvaged cells into 4S2P, by every partition', () => {
    const [s, p] = [input(c, 'S'), input(c, 'P')];
    const doc = pack(s, p, cells);
    const refused = cells.filter((cell) => gradeOf(cell, doc, refusals).grade === 'refused');
    const match = matchCells(
      cells.filter((cell) => !refused.includes(cell)),
      s,
      p,
    )!;
    const groups = match.groups.map((g) => [...g].sort()).sort((a, b) => (a[0]! < b[0]! ? -1 : 1));
    meets(
      c,
      {
        rejected: refused.map((r) => r.id),
        spare: match.spare,
        smallest_spread: match.spread,
        number_of_optima: match.optima,
        weakest_group: match.weakest,
      },
      ['groups'],
    );
    expect(groups).toEqual((c.expected.groups as unknown as { value: string[][] }).value);
    expect(match.exact).toBe(true);
    expect(gradeOf(cells[3]!, doc, refusals).why).toContain('38 mV lost at rest, 20 mV at most');
  });

  it('the heuristic uses each cell once and comes near what every partition finds', () => {
    const random = randomOf(7, 1);
    const many: BenchCell[] = Array.from({ length: 60 }, (_, k) => ({
      id: `${k + 1}`,
      capacityAh: 1.9 + 0.7 * random(),
      ohms: 0.04,
    }));
    const found = matchCells(many, 10, 6)!;
    expect(found.exact).toBe(false);
    expect(new Set(found.groups.flat()).size).toBe(60);
    // By chance groups of six lie 0.2·√6 = 0.5 Ah apart and more.
    expect(found.spread).toBeLessThan(0.02);
    // Twelve cells into 4S3P, exactly: no exchange of two cells is better.
    const twelve = many.slice(0, 12);
    const exact = matchCells(twelve, 4, 3)!;
    const ah = new Map(twelve.map((cell) => [cell.id, cell.capacityAh!]));
    const spreadOf = (groups: string[][]) => {
      const sums = groups.map((g) => g.reduce((sum, id) => sum + ah.get(id)!, 0));
      return Math.max(...sums) - Math.min(...sums);
    };
    expect(exact.exact).toBe(true);
    expect(spreadOf(exact.groups)).toBeCloseTo(exact.spread, 12);
    for (let g = 0; g < 4; g++)
      for (let h = g + 1; h < 4; h++)
        for (let i = 0; i < 9; i++) {
          const swapped = exact.groups.map((group) => [...group]);
          const [a, b] = [Math.floor(i / 3), i % 3];
          [swapped[g]![a], swapped[h]![b]] = [swapped[h]![b]!, swapped[g]![a]!];
          expect(spreadOf(swapped)).toBeGreaterThanOrEqual(exact.spread - 1e-12);
        }
    expect(matchCells(twelve, 5, 3)).toBeUndefined();
  });

  it('laid out they are groups of the pack; what the weakest strands is by hand', () => {
    const four = cellsOf([
      ['a', 2.4, 30, 0],
      ['b', 2.4, 30, 0],
      ['c', 1.8, 30, 0],
      ['d', 1.2, 30, 0],
    ]);
    const doc = pack(2, 1, four);
    expect(gradeOf(four[3]!, doc).grade).toBe('refused');
    expect(gradeOf(four[0]!, doc).grade).toBe('A');
    expect(gradeOf({ id: 'e' }, doc)).toMatchObject({ grade: 'open', why: 'measure capacity' });
    const match: Pick<Match, 'groups'> = { groups: [['a'], ['c']] };
    const laid = changeThread(doc, layOut(doc, match));
    if (!laid.ok) throw new Error('refused');
    const after = laid.value.doc;
    expect(after.graded!.map((x) => x.group ?? x.lies)).toEqual([0, 'drawer', 1, 'aside']);
    expect(lying(after)).toMatchObject({ full: true, spread: expect.closeTo(0.6, 9) });
    expect(withGroups(after)!.pack.groups).toEqual([
      { capacity: 1, resistance: 1 },
      { capacity: 0.75, resistance: 1 },
    ]);
    expect(decodeThread(withGroups(after)!).ok).toBe(true);
    const stranded = strandedBy(after)!;
    // Both give 0.5 A until the second is at 3.05 V loaded, 3.065 V at rest: 1.8·(4.2 − 3.065)/1.2 = 1.7025 Ah.
    expect(stranded.hours).toBeCloseTo(1.7025 / 0.5, 3);
    expect(stranded.charge).toBeCloseTo(0.6, 9);
    // The first then rests at 4.2 − 1.7025/2 V, 0.6975 Ah above the empty: mean volts between it and the end, less what the second holds.
    const rest = 4.2 - 1.7025 / 2;
    const above = (volts: number, ah: number) => ((volts - 3.01) / 1.2) * ah * ((volts + 3.01) / 2);
    expect(stranded.energy).toBeCloseTo(above(rest, 2.4) - above(3.065, 1.8), 3);
    expect(strandedBy(doc)).toBeUndefined();
    // Side by side 30 and 60 mΩ are 20 mΩ, of two as the record has it 15 mΩ.
    const pair = pack(1, 2, [
      { id: 'a', capacityAh: 2.4, ohms: 0.03, group: 0 },
      { id: 'b', capacityAh: 2.4, ohms: 0.06, group: 0 },
    ]);
    expect(withGroups(pair)!.pack.groups![0]!.resistance).toBeCloseTo(4 / 3, 4);
    expect(labelOf(gradeOf(after.graded![2]!, after), 2)).toEqual([
      'c  grade C',
      '1.800 Ah  30 mΩ',
      'B1–B2 of 2S',
    ]);
  });

  it('a table of cells, its units in the heads or behind the numbers', () => {
    const table = [
      ['Cell', 'Capacity (mAh)', 'R (mΩ) resistance', 'leak test mV'],
      ['7', '2187', '41,8', '8.3'],
      ['8', '2.2 Ah', '0.05 Ω', ''],
      ['7', '1', '1', '1'],
      ['9', 'none', '40', '2'],
    ];
    const { cells: read, issues } = gradedFrom(table);
    expect(read[0]).toEqual({
      id: '7',
      capacityAh: expect.closeTo(2.187, 9),
      ohms: expect.closeTo(0.0418, 9),
      lostVolts: expect.closeTo(0.0083, 9),
    });
    expect(read[1]).toEqual({ id: '8', capacityAh: 2.2, ohms: 0.05 });
    expect(issues.map((i) => i.path)).toEqual(['line 4', 'line 5']);
    expect(gradedFrom([['a', 'b']]).issues[0]!.allowed).toContain('cell and capacity');
  });
});

import type { BenchCell } from '../model/readings.ts';
import type { Edit } from '../model/edit.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { compile } from '../plant/compile.ts';
import { answersOf } from '../run/rundown.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';

/** Beyond what a cell is not used. */
export interface Refusals {
  /** [Ah] at least, [Ω] at most, [V] lost in the rest test at most, [V] at rest at least */
  capacityAh: number;
  ohms: number;
  lostVolts: number;
  restVolts: number;
}

/** Shares of the rated capacity and times the rated resistance; volts lost over a fortnight. Common practice, no source. */
const LEAST_CAPACITY = 0.7;
const MOST_RESISTANCE = 2.5;
const MOST_LOST = 0.02;
const GRADE = [
  { grade: 'A', capacity: 0.9, resistance: 1.4 },
  { grade: 'B', capacity: 0.8, resistance: 1.8 },
] as const;

/** What is usual to refuse of a record's cells. */
export function usualRefusals({ pack: { cell } }: Pick<ThreadDocument, 'pack'>): Refusals {
  const { r0, branches } = ratedOhms(cell);
  return {
    capacityAh: LEAST_CAPACITY * cell.capacityAh,
    ohms: MOST_RESISTANCE * (r0 + branches),
    lostVolts: MOST_LOST,
    restVolts: cell.damageVolts,
  };
}

function ratedOhms(cell: ThreadDocument['pack']['cell']): { r0: number; branches: number } {
  const at = (list: readonly number[]) => list[list.length >> 1]!;
  return { r0: at(cell.r0.ohms), branches: cell.branches.reduce((s, b) => s + at(b.ohms), 0) };
}

/** How a cell was graded. */
export interface Graded {
  cell: BenchCell;
  grade: 'A' | 'B' | 'C' | 'refused' | 'open';
  /** why it is refused, or what is still to be measured */
  why?: string;
}

const mV = (volts: number) => `${(1000 * volts).toFixed(0)} mV`;
const mΩ = (ohms: number) => `${(1000 * ohms).toFixed(0)} mΩ`;

/** Grade a cell by what was measured of it; one without capacity or resistance stays open. */
export function gradeOf(
  cell: BenchCell,
  doc: Pick<ThreadDocument, 'pack'>,
  refusals = usualRefusals(doc),
): Graded {
  const { restVolts, capacityAh, ohms, lostVolts } = cell;
  const no = (why: string): Graded => ({ cell, grade: 'refused', why });
  if (restVolts !== undefined && restVolts < refusals.restVolts)
    return no(`rests at ${restVolts} V, below what harms it: not to be charged again`);
  if (lostVolts !== undefined && lostVolts > refusals.lostVolts)
    return no(`sinks: ${mV(lostVolts)} lost at rest, ${mV(refusals.lostVolts)} at most`);
  if (capacityAh !== undefined && capacityAh < refusals.capacityAh)
    return no(`holds ${capacityAh} Ah, ${Number(refusals.capacityAh.toPrecision(3))} Ah at least`);
  if (ohms !== undefined && ohms > refusals.ohms)
    return no(`resists with ${mΩ(ohms)}, ${mΩ(refusals.ohms)} at most`);
  if (capacityAh === undefined || ohms === undefined)
    return { cell, grade: 'open', why: `measure ${capacityAh === undefined ? 'capacity' : 'resistance'}` };
  const rated = ratedOhms(doc.pack.cell);
  const found = GRADE.find(
    (g) =>
      capacityAh >= g.capacity * doc.pack.cell.capacityAh &&
      ohms <= g.resistance * (rated.r0 + rated.branches),
  );
  return { cell, grade: found?.grade ?? 'C' };
}

/** Cells put into groups. */
export interface Match {
  /** numbers of the cells of each group, as they were given */
  groups: string[][];
  /** numbers left over */
  spare: string[];
  /** [Ah] largest less smallest sum of a group, and the smallest */
  spread: number;
  weakest: number;
  /** whether every way to put them was looked at; else from the largest down, then exchanges as long as one is better */
  exact: boolean;
  /** ways that are as good; of the exact search */
  optima?: number;
}

/** Ways up to which all are looked at. */
const MOST_WAYS = 600_000;
/** [Ah] within which two spreads are one. */
const SAME = 1e-9;

/**
 * Cells into groups in series whose sums of capacity lie as close together as can be: of the accepted the largest are used. Every
 * partition where there are few; else largest first into the smallest group that has room, then exchanges of two cells as long
 * as one is better (common practice for number partitioning).
 * @returns undefined where there are too few cells
 */
export function matchCells(cells: readonly BenchCell[], series: number, parallel: number): Match | undefined {
  const able = cells.filter((c) => c.capacityAh !== undefined);
  const need = series * parallel;
  if (able.length < need) return undefined;
  const sorted = [...able].sort((a, b) => b.capacityAh! - a.capacityAh!);
  const used = sorted.slice(0, need);
  const spare = sorted.slice(need).map((c) => c.id);
  const ah = used.map((c) => c.capacityAh!);
  const ways = partitions(series, parallel);
  const { groups, optima } =
    ways <= MOST_WAYS
      ? exactMatch(ah, series, parallel)
      : { groups: nearMatch(ah, series, parallel), optima: undefined };
  const sums = groups.map((g) => g.reduce((s, k) => s + ah[k]!, 0));
  return {
    groups: groups.map((g) => g.map((k) => used[k]!.id)),
    spare,
    spread: Math.max(...sums) - Math.min(...sums),
    weakest: Math.min(...sums),
    exact: ways <= MOST_WAYS,
    ...(optima === undefined ? {} : { optima }),
  };
}

/** Ways to part S·P cells into S groups of P. */
function partitions(series: number, parallel: number): number {
  let ways = 1;
  // The first cell left goes with any P − 1 of the others.
  for (let left = series * parallel; left > 0; left -= parallel)
    for (let k = 1; k < parallel; k++) ways *= (left - k) / k;
  return ways;
}

function exactMatch(ah: readonly number[], series: number, parallel: number) {
  const groups: number[][] = Array.from({ length: series }, () => []);
  let best: number[][] = [];
  let [least, optima] = [Infinity, 0];
  const used = new Uint8Array(ah.length);
  const close = (g: number, low: number, high: number) => {
    if (high - low > least + SAME) return;
    if (g === series) {
      const spread = high - low;
      if (spread < least - SAME) [least, optima, best] = [spread, 0, groups.map((x) => [...x])];
      optima++;
      return;
    }
    const first = used.indexOf(0);
    used[first] = 1;
    fill(g, [first], first + 1, ah[first]!, low, high);
    used[first] = 0;
  };
  const fill = (g: number, own: number[], from: number, sum: number, low: number, high: number) => {
    if (own.length === parallel) {
      groups[g] = own;
      close(g + 1, Math.min(low, sum), Math.max(high, sum));
      return;
    }
    for (let k = from; k < ah.length; k++) {
      if (used[k]) continue;
      used[k] = 1;
      fill(g, [...own, k], k + 1, sum + ah[k]!, low, high);
      used[k] = 0;
    }
  };
  close(0, Infinity, -Infinity);
  return { groups: best, optima };
}

function nearMatch(ah: readonly number[], series: number, parallel: number): number[][] {
  const groups: number[][] = Array.from({ length: series }, () => []);
  const sums = new Float64Array(series);
  ah.forEach((a, k) => {
    let to = -1;
    for (let g = 0; g < series; g++)
      if (groups[g]!.length < parallel && (to < 0 || sums[g]! < sums[to]!)) to = g;
    groups[to]!.push(k);
    sums[to]! += a;
  });
  const mean = sums.reduce((s, v) => s + v, 0) / series;
  const square = (v: number) => (v - mean) ** 2;
  for (let better = true; better;) {
    better = false;
    for (let g = 0; g < series; g++) {
      for (let h = g + 1; h < series; h++) {
        for (let i = 0; i < parallel; i++) {
          for (let j = 0; j < parallel; j++) {
            const by = ah[groups[h]![j]!]! - ah[groups[g]![i]!]!;
            const now = square(sums[g]!) + square(sums[h]!);
            if (square(sums[g]! + by) + square(sums[h]! - by) >= now - 1e-12) continue;
            [groups[g]![i], groups[h]![j]] = [groups[h]![j]!, groups[g]![i]!];
            sums[g]! += by;
            sums[h]! -= by;
            better = true;
          }
        }
      }
    }
  }
  return groups;
}

/** What groups as they lie come to. */
export interface Lying {
  /** [Ah] sum and [Ω] together of each group; cells without a figure count as the record's */
  groups: { ah: number; ohms: number; count: number }[];
  /** [Ah] largest less smallest */
  spread: number;
  full: boolean;
}

/** Sums of the groups as the cells lie. */
export function lying({ pack, graded = [] }: ThreadDocument): Lying {
  const rated = ratedOhms(pack.cell);
  const groups = Array.from({ length: pack.series }, (_, g) => {
    const own = graded.filter((c) => c.group === g);
    const siemens = own.reduce((s, c) => s + 1 / Math.max(1e-6, c.ohms ?? rated.r0 + rated.branches), 0);
    return {
      ah: own.reduce((s, c) => s + (c.capacityAh ?? pack.cell.capacityAh), 0),
      ohms: siemens > 0 ? 1 / siemens : Infinity,
      count: own.length,
    };
  });
  const ah = groups.map((g) => g.ah);
  return {
    groups,
    spread: Math.max(...ah) - Math.min(...ah),
    full: groups.every((g) => g.count === pack.parallel),
  };
}

/** Edits that put a match into the thread: each cell where it goes, the rest into the drawer, refused ones aside. */
export function layOut(doc: ThreadDocument, { groups }: Pick<Match, 'groups'>): Edit[] {
  const value = (doc.graded ?? []).map(({ group: _group, lies: _lies, ...cell }): BenchCell => {
    const group = groups.findIndex((g) => g.includes(cell.id));
    if (group >= 0) return { ...cell, group };
    return { ...cell, lies: gradeOf(cell, doc).grade === 'refused' ? 'aside' : 'drawer' };
  });
  return [{ op: 'replace', path: ['graded'], value }];
}

/** The thread whose groups are as the cells lie in them. @returns undefined while a group is not full */
export function withGroups(doc: ThreadDocument): ThreadDocument | undefined {
  const { groups, full } = lying(doc);
  if (!full) return undefined;
  const { cell, parallel } = doc.pack;
  const rated = ratedOhms(cell);
  const alone = (rated.r0 + rated.branches) / parallel;
  const clamp = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));
  const { odd, ...pack } = doc.pack;
  void odd;
  return {
    ...doc,
    pack: {
      ...pack,
      groups: groups.map(({ ah, ohms }) => ({
        capacity: clamp(Number((ah / parallel / cell.capacityAh).toPrecision(5)), 0.05, 3),
        resistance: clamp(Number((ohms / alone).toPrecision(5)), 0.05, 20),
      })),
    },
  };
}

/** What groups as they lie strand. */
export interface Stranded {
  /** [Wh] that the others still hold above the end volts when the weakest has ended the run; [Ah] by their sums alone */
  energy: number;
  charge: number;
  /** [h] the run with these groups */
  hours: number;
}

/** Energy that a match strands: of a run with these groups. @returns undefined while a group is not full */
export function strandedBy(doc: ThreadDocument): Stranded | undefined {
  const other = withGroups(doc);
  if (!other) return undefined;
  const { groups } = lying(doc);
  const least = Math.min(...groups.map((g) => g.ah));
  const run = answersOf(compile(other));
  const left = run.groups?.left ?? [];
  const weakest = run.groups ? left[run.groups.weakest]! : 0;
  return {
    energy: left.reduce((s, j) => s + Math.max(0, j - weakest), 0) / SECONDS_PER_HOUR,
    charge: groups.reduce((s, g) => s + g.ah - least, 0),
    hours: run.usefulEnd.time / SECONDS_PER_HOUR,
  };
}

/** Words for a cell's label: number, grade, capacity, resistance. */
export function labelOf({ cell, grade }: Graded, series: number): string[] {
  const { id, capacityAh, ohms, group } = cell;
  return [
    `${id}  ${grade === 'refused' ? 'DO NOT USE' : grade === 'open' ? '—' : `grade ${grade}`}`,
    `${capacityAh === undefined ? '—' : `${capacityAh.toFixed(3)} Ah`}  ${ohms === undefined ? '—' : mΩ(ohms)}`,
    group === undefined ? 'spare' : `B${group}–B${group + 1} of ${series}S`,
  ];
}

import { drawn, figuresOf } from '../belief/figures.ts';
import type { FigureTolerance } from '../model/belief.ts';
import type { CellRecord } from '../model/cell.ts';
import type { Edit } from '../model/edit.ts';
import type { ThreadDocument } from '../model/thread.ts';
import type { Conditions } from '../plant/conditions.ts';
import { setFigures } from './direct.ts';
import { valueOf } from './observations.ts';
import type { Explanation, Moved } from './explain.ts';

/** Deviations that a figure must have moved, and share of its doubt that must be gone, to count as measured. */
const MOVED = 0.05;
const KNOWN = 0.7;
/** Deviations beyond which a figure is not believed: something else is wrong. */
const FAR = 3;

/** Figures that readings have settled: moved, or known much better than before. */
export function settledBy({ moved }: Explanation): Moved[] {
  return moved.filter((m) => m.doubt < KNOWN && Math.abs(m.score) > MOVED);
}

/** Deviations beyond which a reading stays off whatever the figures. */
const MISFIT = 3;

/** Steps whose readings no figures within their tolerances bring together with the others: they cannot all be true. */
export function misfits({ fits }: Explanation): Explanation['fits'] {
  return fits.filter((f) => !f.step.startsWith('curve:') && Math.abs(f.after) > MISFIT);
}

/** Figures that would have to be so far off that the readings, or what is stated of them, are not believed. */
export function beyondBelief({ moved }: Explanation): Moved[] {
  return moved.filter((m) => Math.abs(m.score) > FAR);
}

/**
 * Edits that take what readings say into the design: the figures they settle, their grade then *measured*, each known as well
 * as the readings leave it. Readings stay, marked as taken, so that nothing counts twice.
 * @param found an explanation that settled and asks for nothing beyond belief; nothing is taken of another
 * @param on the day, as it is to be read: 2026-05-01
 */
export function takeOver(doc: ThreadDocument, found: Explanation, on: string): Edit[] {
  if (!found.settled || beyondBelief(found).length > 0) return [];
  const taken = settledBy(found);
  const score = (id: string) => taken.find((m) => m.figure.id === id)?.score;
  const set = setFigures(doc).reduce((d, s) => {
    const by = score(s.figure.id);
    return by === undefined ? d : s.with(d, Number(valueOf(s, by).toPrecision(5)));
  }, doc);
  const own = figuresOf(doc);
  const scores = own.map((f) => score(f.id) ?? 0);
  const { doc: varied, conditions = {} } = drawn(set, own, scores);
  const of = (element: string) => taken.some((m) => m.figure.element === element);
  const edits: Edit[] = [];
  const put = (path: Edit['path'], value: unknown) => edits.push({ op: 'replace', path, value });
  const grade = 'measured' as const;
  if (of('cells')) put(['pack', 'cell'], measuredCell(doc.pack.cell, conditions, on));
  if (of('protection')) put(['pack', 'protection'], { ...set.pack.protection!, grade });
  for (const stage of varied.stages) if (of(stage.id)) put(['stages', stage.id], { ...stage, grade });
  for (const load of varied.loads) if (of(load.id)) put(['loads', load.id], { ...load, grade });
  const { charging } = set;
  if (charging && of('source')) put(['charging', 'source'], { ...charging.source, grade });
  if (charging && of('charger')) {
    put(['charging', 'stage'], { ...charging.stage, grade });
    put(['charging', 'control'], charging.control);
  }
  edits.push(...asKnown(doc, taken), ...asTaken(doc, on));
  return edits;
}

/** Least a figure is known to, as a share: instruments drift. Common practice, no source. */
const LEAST = 0.002;

/** Tolerances of the figures taken: what is left of doubt. */
function asKnown(doc: ThreadDocument, taken: readonly Moved[]): Edit[] {
  const drawnOnes = new Set(figuresOf(doc).map((f) => f.id));
  const known = taken.filter((m) => drawnOnes.has(m.figure.id));
  if (known.length === 0) return [];
  const others = (doc.belief?.own ?? []).filter((o) => !known.some((m) => m.figure.id === o.figure));
  const own = known.map(({ figure, doubt, factor }): FigureTolerance => {
    const one = figure.distribution === 'normal' ? figure.tolerance / 2 : figure.tolerance;
    const tolerance = Math.max(LEAST, (2 * one * doubt) / factor);
    return { figure: figure.id, tolerance: Number(tolerance.toPrecision(3)), distribution: 'normal' };
  });
  return [{ op: 'replace', path: ['belief'], value: { ...doc.belief, own: [...others, ...own] } }];
}

/** What was measured up to now, marked as taken. */
function asTaken({ readings, curves }: ThreadDocument, on: string): Edit[] {
  const mark = <T extends { taken?: string }>(list: readonly T[]) =>
    list.map((r) => (r.taken === undefined ? { ...r, taken: on } : r));
  return [
    ...(readings ? [{ op: 'replace', path: ['readings'], value: mark(readings) } as const] : []),
    ...(curves ? [{ op: 'replace', path: ['curves'], value: mark(curves) } as const] : []),
  ].map((e) => ({ ...e, path: [...e.path] }));
}

/** Room for words on where a record comes from. */
const MOST_WORDS = 200;

function measuredCell(
  cell: CellRecord,
  { capacity = 1, resistance = 1, selfDischarge = 1 }: Partial<Conditions>,
  on: string,
): CellRecord {
  const ohms = (list: readonly number[]) => list.map((r) => r * resistance);
  const words = `Measured ${on} on the bench.`;
  const before = cell.source?.replace(/^Measured \S+ on the bench\. ?/, '') ?? '';
  return {
    ...cell,
    capacityAh: Number((cell.capacityAh * capacity).toPrecision(5)),
    r0: { ...cell.r0, ohms: ohms(cell.r0.ohms) },
    branches: cell.branches.map((b) => ({ ...b, ohms: ohms(b.ohms) })),
    selfDischargePerMonth: Math.min(0.9, cell.selfDischargePerMonth * selfDischarge),
    grade: 'measured',
    source: `${words} ${before}`.trim().slice(0, MOST_WORDS),
  };
}

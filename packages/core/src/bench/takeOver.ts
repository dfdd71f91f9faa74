import { drawn, type Figure } from '../belief/figures.ts';
import type { Edit } from '../model/edit.ts';
import { isRegulated } from '../model/kinds/registry.ts';
import type { ThreadDocument } from '../model/thread.ts';
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

/** Figures that would have to be so far off that the readings, or what is stated of them, are not believed. */
export function beyondBelief({ moved }: Explanation): Moved[] {
  return moved.filter((m) => Math.abs(m.score) > FAR);
}

/**
 * Edits that take what readings say into the design: the figures they settle, their grade then *measured*. Readings stay.
 * @param found an explanation that settled and asks for nothing beyond belief; nothing is taken of another
 */
export function takeOver(doc: ThreadDocument, found: Explanation): Edit[] {
  if (!found.settled || beyondBelief(found).length > 0) return [];
  const taken = settledBy(found);
  const figures: Figure[] = taken.map((m) => m.figure);
  const { doc: varied, conditions = {} } = drawn(
    doc,
    figures,
    taken.map((m) => m.score),
  );
  const of = (element: string) => taken.some((m) => m.figure.element === element);
  const edits: Edit[] = [];
  if (of('cells')) edits.push(...cellEdits(doc, conditions));
  for (const [k, stage] of varied.stages.entries()) {
    if (!of(stage.id)) continue;
    const value =
      isRegulated(stage) || 'grade' in stage ? { ...stage, grade: 'measured' as const } : doc.stages[k]!;
    edits.push({ op: 'replace', path: ['stages', stage.id], value });
  }
  for (const load of varied.loads) {
    if (of(load.id))
      edits.push({ op: 'replace', path: ['loads', load.id], value: { ...load, grade: 'measured' } });
  }
  return edits;
}

function cellEdits(
  { pack: { cell } }: ThreadDocument,
  {
    capacity = 1,
    resistance = 1,
    selfDischarge = 1,
  }: { capacity?: number; resistance?: number; selfDischarge?: number },
): Edit[] {
  const ohms = (list: readonly number[]) => list.map((r) => r * resistance);
  const value = {
    ...cell,
    capacityAh: Number((cell.capacityAh * capacity).toPrecision(5)),
    r0: { ...cell.r0, ohms: ohms(cell.r0.ohms) },
    branches: cell.branches.map((b) => ({ ...b, ohms: ohms(b.ohms) })),
    selfDischargePerMonth: Math.min(0.99, cell.selfDischargePerMonth * selfDischarge),
    grade: 'measured' as const,
  };
  return [{ op: 'replace', path: ['pack', 'cell'], value }];
}

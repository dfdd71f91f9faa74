import { thinned } from '@mile-thread/core/logs';
import { MOST_POINTS } from '@mile-thread/core/model';
import { compare, withGroups, type Compared, type PlanPart, type PlanStep } from '@mile-thread/core/bench';
import type { BenchCell, BenchCurve, BenchReading, Edit, ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity } from '@mile-thread/core/units';
import type { Kept } from '../../storage/recordings.ts';

/** A step of the plan with what has been read there. */
export interface Row {
  step: PlanStep;
  found: Compared;
}

export function rowsOf(plan: readonly PlanStep[], { readings = [] }: ThreadDocument): Row[] {
  return plan.map((step) => ({ step, found: compare(step, readings) }));
}

export const PART_WORD: Readonly<Record<PlanPart, string>> = {
  look: 'Before anything is connected',
  cells: 'Cells, open',
  setPoints: 'Set points, no load',
  idle: 'Everything off',
  load: 'Under load',
  charging: 'Charging',
  protection: 'Board',
  run: 'Run-down',
};

/** A value of a step in words. */
export function told(value: number, unit: PlanStep['unit']): string {
  if (unit === '') return 'seen';
  return unit === 'h' ? formatDuration(value) : formatQuantity(value, unit, 4);
}

/** How a step stands, in words. */
export function verdictOf({ step, found }: Row): string {
  const { verdict, off = 0, value = 0 } = found;
  if (verdict === 'open') return '';
  if (verdict === 'seen') return '✓ seen';
  if (verdict === 'atOdds') return '✕ they cannot both be true';
  if (verdict === 'inRange') return '✓ in range';
  const by = Math.abs(value - step.predicted!.value);
  return `✕ ${told(by, step.unit)} ${off > 0 ? 'over' : 'under'}, ${Math.abs(off).toFixed(1)} deviations`;
}

/** Put one more reading to a step. */
export function taking(
  { readings }: ThreadDocument,
  step: string,
  taken: Omit<BenchReading, 'step'>,
): Edit[] {
  const reading: BenchReading = { step, ...taken };
  return [
    readings
      ? { op: 'add', path: ['readings', readings.length], value: reading }
      : { op: 'add', path: ['readings'], value: [reading] },
  ];
}

/** Take the reading at a place away; with the last one the list goes. */
export function dropping({ readings = [] }: ThreadDocument, k: number): Edit[] {
  return readings.length === 1
    ? [{ op: 'remove', path: ['readings'] }]
    : [{ op: 'remove', path: ['readings', k] }];
}

/** What would be read if what was typed was meant in another unit; undefined where it fits as it is. */
export function otherUnit(step: PlanStep, value: number): number | undefined {
  const { perhaps } = compare(step, [{ step: step.id, value }]);
  if (!perhaps) return undefined;
  return perhaps === 'thousand' ? value / 1000 : value * 1000;
}

/** A recording as a curve of the thread, its dips kept where there are more rows than it may hold. */
export function curveOf({ recording, rows }: Kept): BenchCurve {
  const few = thinned(
    rows.map((r) => r[1]),
    MOST_POINTS,
  ).map((k) => rows[k]!);
  const at = new Date(recording.startedAt);
  const round = (v: number) => Number(v.toPrecision(6));
  return {
    name: `recorded ${at.toISOString().slice(0, 10)} ${at.toTimeString().slice(0, 5)}`,
    at: at.toISOString(),
    seconds: few.map((r) => Number(r[0].toFixed(3))),
    volts: few.map((r) => round(r[1])),
    amps: few.map((r) => round(r[2])),
  };
}

/** Where a dragged cell goes: `group K`, the drawer, or aside. */
export function movedTo({ graded = [] }: ThreadDocument, id: string, place: string): Edit[] {
  const value = graded.map((cell): BenchCell => {
    if (cell.id !== id) return cell;
    const { group, lies, ...rest } = cell;
    void [group, lies];
    const k = /^group (\d+)$/.exec(place)?.[1];
    return k === undefined ? { ...rest, lies: place as 'drawer' | 'aside' } : { ...rest, group: Number(k) };
  });
  return [{ op: 'replace', path: ['graded'], value }];
}

/** The lowest number no cell has. */
export function nextNumber(cells: readonly BenchCell[]): string {
  for (let k = 1; ; k++) if (!cells.some((c) => c.id === String(k))) return String(k);
}

/** Edits that make the pack's groups those that lie there. */
export function intoPack(doc: ThreadDocument): Edit[] {
  const other = withGroups(doc);
  if (!other) return [];
  const edits: Edit[] = [{ op: 'replace', path: ['pack', 'groups'], value: other.pack.groups }];
  return doc.pack.odd ? [{ op: 'remove', path: ['pack', 'odd'] }, ...edits] : edits;
}

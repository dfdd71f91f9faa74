import { compare, type Compared, type PlanPart, type PlanStep } from '@mile-thread/core/bench';
import type { BenchReading, Edit, ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity } from '@mile-thread/core/units';

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
export function taking({ readings }: ThreadDocument, step: string, value: number, at: string): Edit[] {
  const reading: BenchReading = { step, value, at };
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

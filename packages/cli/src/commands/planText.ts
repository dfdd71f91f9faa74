import type { PlanStep } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity } from '@mile-thread/core/units';

const told = (value: number, unit: PlanStep['unit']) =>
  unit === 'h' ? formatDuration(value) : formatQuantity(value, unit, 4);

/** The measuring plan with a blank for each reading. */
export function planText(doc: ThreadDocument, plan: readonly PlanStep[]): string {
  return [
    `${doc.name}: what to measure, in safe order`,
    ...plan.flatMap(({ title, how, unit, predicted: p, caution }, k) => [
      '',
      `${String(k + 1).padStart(2)}. ${title}`,
      `    ${how}`,
      ...(p ? [`    expect ${told(p.value, unit)}, ${told(p.p10, unit)} to ${told(p.p90, unit)}`] : []),
      ...(caution ? [`    CAUTION: ${caution}`] : []),
      `    read: ____________${unit && ` ${unit}`}`,
    ]),
    '',
  ].join('\n');
}

import type { PlanStep } from '../bench/step.ts';
import { defused } from './formula.ts';

const HEADS = [
  'step',
  'id',
  'how',
  'instrument',
  'unit',
  'expected',
  'from',
  'to',
  'read',
  'settles',
  'caution',
];

/** A measuring plan with a blank for each reading, as CSV: comma, decimal point, CRLF as RFC 4180 asks. */
export function planCsv(plan: readonly PlanStep[]): string {
  const number = (value: number | undefined) =>
    value === undefined ? '' : String(Number(value.toPrecision(5)));
  const rows = plan.map(({ title, id, how, instrument, unit, predicted: p, settles, caution = '' }) => [
    title,
    id,
    how,
    instrument,
    unit,
    number(p?.value),
    number(p?.p10),
    number(p?.p90),
    '',
    settles,
    caution,
  ]);
  return [HEADS, ...rows].map((row) => `${row.map(cell).join(',')}\r\n`).join('');
}

function cell(text: string): string {
  const safe = defused(text);
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

import { issue, type Issue } from '../model/issue.ts';
import { MOST_READINGS, type BenchReading } from '../model/readings.ts';
import { parseQuantity } from '../units/parseQuantity.ts';
import type { PlanStep } from './step.ts';

/** Largest value a reading may have, see `BenchReading`. */
const MOST_VALUE = 1e9;

/** Readings of a table, and why lines of it were not taken. */
export interface ReadReadings {
  readings: BenchReading[];
  issues: Issue[];
}

/**
 * Readings out of a filled-in plan: lines with the `id` of a step and what was `read`, with a unit or in that of the step; lines
 * without a reading are passed over. `accuracy` and `instrument` may stand beside.
 * @param rows cells of the table, its heads first
 */
export function readingsFrom(rows: readonly (readonly string[])[], plan: readonly PlanStep[]): ReadReadings {
  const heads = (rows[0] ?? []).map((h) => h.trim().toLowerCase());
  const column = (name: string) => heads.indexOf(name);
  const [id, read] = [column('id'), column('read')];
  if (id < 0 || read < 0) {
    return {
      readings: [],
      issues: [issue('missing', 'line 1', heads.join(', '), 'the columns id and read')],
    };
  }
  const found: ReadReadings = { readings: [], issues: [] };
  const refuse = (line: number, given: string, allowed: string) =>
    found.issues.push(issue('range', `line ${line}`, given, allowed));
  rows.slice(1).forEach((row, k) => {
    const line = k + 2;
    const text = row[read]?.trim() ?? '';
    if (text === '' || /^_+$/.test(text)) return;
    const name = row[id]?.trim() ?? '';
    const step = plan.find((s) => s.id === name);
    if (!step) return refuse(line, name, 'the id of a step of this plan');
    if (found.readings.length >= MOST_READINGS)
      return refuse(line, name, `at most ${MOST_READINGS} readings`);
    const value = step.unit === '' ? ({ ok: true, value: 1 } as const) : parseQuantity(text, step.unit);
    if (!value.ok) return refuse(line, text, `a quantity in ${step.unit}`);
    // One that cannot be is told, and does not take the others with it.
    if (!(Math.abs(value.value) <= MOST_VALUE)) return refuse(line, text, 'a reading an instrument can show');
    if (step.unit === 'V' && value.value < 0)
      return refuse(
        line,
        text,
        'no negative volts: leads or cells are the wrong way round; put that right first',
      );
    const accuracy = parseQuantity(row[column('accuracy')]?.trim() ?? '', '');
    const instrument = row[column('instrument used')]?.trim();
    found.readings.push({
      step: name,
      value: value.value,
      ...(accuracy.ok && accuracy.value >= 0 && accuracy.value <= 0.5 ? { accuracy: accuracy.value } : {}),
      ...(instrument ? { instrument: instrument.slice(0, 60) } : {}),
    });
  });
  return found;
}

import type { EnvelopeRow, RunResult } from '@mile-thread/core/solve';

/** [s] Right end of the plot: the useful end with some room, but not the long tail of an almost dead pack. */
export function plotEnd(run: RunResult): number {
  const useful = run.usefulEnd.time;
  const dead = run.deadEnd.time;
  if (useful <= 0) return dead > 0 ? dead : 1;
  return Math.min(Math.max(dead, useful * 1.03), useful * 1.12);
}

/** [h] in the unit that suits the length of the run, longest first: from this length on, this many hours a unit. */
const UNITS: readonly [from: number, hours: number, unit: string][] = [
  [3 * 8766, 8766, 'years'],
  [96, 24, 'd'],
  [2, 1, 'h'],
  [2 / 60, 1 / 60, 'min'],
  [0, 1 / 3600, 's'],
];

/** Round ticks in seconds, minutes, hours, days or years; at most eight. */
export function timeTicks(endHours: number): object {
  const [, scale, unit] = UNITS.find(([from]) => endHours >= from)!;
  const total = endHours / scale;
  const power = 10 ** Math.floor(Math.log10(Math.max(total, 1e-9) / 8));
  const step = [1, 2, 5, 10].map((m) => m * power).find((s) => total / s <= 8)!;
  const values = Array.from({ length: Math.floor(total / step + 1e-9) + 1 }, (_, k) => k * step);
  return {
    tickmode: 'array',
    tickvals: values.map((v) => v * scale),
    ticktext: values.map((v) => `${Number(v.toPrecision(6))} ${unit}`),
  };
}

/** Fewest cycles of which a band says more than their lines. */
const MANY_CYCLES = 30;

/** What cycles did up to a time [s], where they are so many that a band shows them; else none. */
export function bandRows({ envelope = [] }: RunResult, until: number): EnvelopeRow[] {
  const rows = envelope.filter((r) => r.time <= until);
  return rows.length < MANY_CYCLES ? [] : rows;
}

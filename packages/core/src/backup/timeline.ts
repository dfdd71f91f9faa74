import type { Backup, Recurring } from '../model/backup.ts';
import type { Gone } from '../run/account/outageResult.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';

/** Stretches in order, those that meet or overlap as one; and whether any did. */
export function meetings(all: readonly Gone[]): { gone: Gone[]; merged: boolean } {
  const gone: Gone[] = [];
  let merged = false;
  for (const { from, to } of [...all].sort((a, b) => a.from - b.from)) {
    const last = gone.at(-1);
    if (last && from <= last.to) {
      merged = true;
      last.to = Math.max(last.to, to);
    } else if (to > from) gone.push({ from, to });
  }
  return { gone, merged };
}

/** Outages that recur, up to the end of a timeline. @param span [s] */
export function recurringOf(recurring: Recurring | undefined, span: number): Gone[] {
  if (!recurring) return [];
  const [from, hours, every] = [recurring.from, recurring.hours, recurring.every].map(
    (h) => h * SECONDS_PER_HOUR,
  ) as [number, number, number];
  const count = Math.max(0, Math.ceil((span - from) / every));
  return Array.from({ length: count }, (_, k) => from + k * every).map((at) => ({
    from: at,
    to: Math.min(span, at + hours),
  }));
}

/**
 * Outages of a timeline as stretches [s], in order, those that meet or overlap as one; and whether any of those stated did.
 */
export function goneOf({ outages, recurring, span }: Backup): { gone: Gone[]; merged: boolean } {
  const end = span * SECONDS_PER_HOUR;
  const stated = meetings(
    outages.map(({ from, hours }) => ({
      from: from * SECONDS_PER_HOUR,
      to: Math.min(end, (from + hours) * SECONDS_PER_HOUR),
    })),
  );
  const { gone } = meetings([...stated.gone, ...recurringOf(recurring, end)]);
  return { gone, merged: stated.merged };
}

import type { Finding } from '@mile-thread/core';
import { darkSeconds, shareRange, type BackupAnswers, type Year } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { findingsText } from './runText.ts';

const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);
const V = (volts: number) => formatQuantity(volts, 'V', 4);

/** The answers on a timeline of mains, outage by outage, and its findings as plain text. */
export function outageText(
  doc: ThreadDocument,
  found: BackupAnswers,
  findings: Finding[],
  years: Year[] = [],
): string {
  const { holds, dip, adapter, refill, rows, result } = found;
  const dark = darkSeconds(result);
  const lines: [string, string][] = [
    ...holds.map(({ name, seconds }): [string, string] => [`holds, ${name}`, hours(seconds[0]!)]),
    ['lowest at a transfer', dip ? `${V(dip.lowest)}, ${V(dip.wanted)} wanted` : 'no dip'],
    ['empty to full', refill === undefined ? 'never' : hours(refill)],
    [
      'adapter, worst',
      `${formatQuantity(adapter.worst, 'A', 3)} of ${formatQuantity(adapter.limit, 'A', 3)}`,
    ],
    ['dropped', dark > 0 ? hours(dark) : 'never'],
    ...yearLines(years),
  ];
  return [
    `${doc.name}: ${formatDuration(doc.backup!.span)} of mains`,
    ...lines.map(([name, value]) => `  ${name.padEnd(22)} ${value}`),
    'who carries',
    ...result.who.map((w) => `  ${w.what.padEnd(22)} ${hours(w.from).padEnd(16)} to ${hours(w.to)}`),
    'outages',
    ...rows.map(
      (r) =>
        `  at ${hours(r.from).padEnd(19)} gone ${hours(r.to - r.from).padEnd(12)} left ${`${Math.round(100 * r.left)} %`.padEnd(6)} recharge ${r.recharge === undefined ? 'not in time' : hours(r.recharge)} of ${hours(r.gap)}`,
    ),
    '',
    findingsText(findings),
  ].join('\n');
}

/** In how many random years the loads were dropped or dipped. */
function yearLines(years: Year[]): [string, string][] {
  if (years.length === 0) return [];
  const line = (name: string, count: number): [string, string] => {
    const { low, high } = shareRange(count, years.length);
    return [name, `${count} of ${years.length}: a chance of ${percent(low)} to ${percent(high)} a year`];
  };
  return [
    line('years with a drop', years.filter((y) => y.drops > 0).length),
    line('years with a dip', years.filter((y) => y.dips > 0).length),
  ];
}

const percent = (share: number) => `${Math.round(100 * share)} %`;

/** Everything but the rows, as JSON. Seconds, joules, amperes; see docs/format/README.md. */
export function outageJson(
  doc: ThreadDocument,
  found: BackupAnswers,
  findings: Finding[],
  years: Year[] = [],
): string {
  const { series, ...result } = found.result;
  const chance = years.length > 0 ? { years } : {};
  const whole = {
    thread: doc.name,
    ...found,
    result: { ...result, points: series.count },
    ...chance,
    findings,
  };
  const finite = (_: string, value: unknown) => (value === Infinity ? null : value);
  return `${JSON.stringify(whole, finite, 2)}\n`;
}

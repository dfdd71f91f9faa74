import type { Finding } from '@mile-thread/core';
import { chargeTogether, endsFull, phaseWord, type ChargeResult } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { findingsText } from './runText.ts';

const wh = (joules: number) => formatQuantity(joules / SECONDS_PER_HOUR, 'Wh');
const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);
const percent = (share: number) => `${Math.round(100 * share)} %`;

/** The answers on a charge, its phases, its account and its findings as plain text. */
export function chargeText(doc: ThreadDocument, charge: ChargeResult, found: Finding[]): string {
  const { end, to80, ledger, fastest, hottest, phases } = charge;
  const rows: [string, string][] = [
    ['full in', endsFull(end.reason) ? hours(end.time) : `never: ${end.keeps ?? end.reason}`],
    ['to 80 %', to80 === undefined ? 'never' : hours(to80)],
    ['stops at', `${percent(end.soc)}, ${formatQuantity(end.cellVolts, 'V', 4)} a cell`],
    ['fastest', `${formatQuantity(fastest.amps, 'A')} a cell, ${fastest.rate.toFixed(2)} C`],
    [
      'charger, hottest',
      `${formatQuantity(hottest?.watts ?? 0, 'W')}${hottest?.celsius === undefined ? '' : `, ${formatQuantity(hottest.celsius, '°C', 3)}`} at ${hours(hottest?.time ?? 0)}`,
    ],
    ['from the source', wh(ledger.supplied ?? 0)],
    ['stored', wh(ledger.left - ledger.stored)],
    ['rests on', `${charge.grade} figures`],
  ];
  return [
    `${doc.name}: charged from ${doc.charging!.source.name}`,
    ...rows.map(([name, value]) => `  ${name.padEnd(20)} ${value}`),
    'phase by phase',
    ...phases.map(
      (p) =>
        `  ${phaseWord(p.limit).padEnd(20)} ${hours(p.from).padEnd(12)} to ${hours(p.to).padEnd(12)} ${percent(p.toSoc)}`,
    ),
    ...groupLines(charge),
    ...stationLines(doc),
    'where it went',
    ...ledger.entries.map(
      (e) => `  ${e.element.padEnd(20)} ${e.mechanism.padEnd(14)} ${wh(e.joules).padStart(10)}`,
    ),
    '',
    findingsText(found),
  ].join('\n');
}

/** Groups that differ, as the charge leaves them. */
function groupLines({ groups }: ChargeResult): string[] {
  if (!groups) return [];
  return [
    'group by group, from the negative end',
    ...groups.volts.map(
      (v, k) =>
        `  ${String(k + 1).padEnd(20)} ${formatQuantity(v, 'V', 4).padEnd(12)} ${percent(groups.soc[k]!).padEnd(8)} bled ${hours(groups.bled[k]!)}`,
    ),
  ];
}

/** All packs on its source. */
function stationLines(doc: ThreadDocument): string[] {
  const { from, stations = [] } = doc.charging!;
  if (stations.length === 0) return [];
  const all = [from, ...stations.map((s) => s.from)];
  const { stations: found, lowest, most } = chargeTogether(doc, all);
  return [
    `${all.length} packs on the source: ${formatQuantity(most, 'A', 3)} at most, down to ${formatQuantity(lowest, 'V', 3)}`,
    ...found.map(
      (s, k) =>
        `  from ${percent(all[k]!).padEnd(15)} ${formatQuantity(s.amps, 'A', 3).padEnd(12)} full in ${s.time === undefined ? 'never' : hours(s.time)}`,
    ),
  ];
}

/** Everything but the rows, as JSON. Seconds, joules, amperes; see docs/format/README.md. */
export function chargeJson(doc: ThreadDocument, charge: ChargeResult, found: Finding[]): string {
  const { series, ...answers } = charge;
  const whole = {
    thread: doc.name,
    wantedHours: doc.goals.chargeHours ?? null,
    ...answers,
    points: series.count,
    findings: found,
  };
  return `${JSON.stringify(whole, null, 2)}\n`;
}

import {
  leastInputOverRun,
  mostOutputOverRun,
  stageEnvelope,
  type Envelope,
  type Figure,
} from '@mile-thread/core';
import { isConverter, type Stage, type ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';

/** The sizing table of a stage as plain text. */
export function sizeText(doc: ThreadDocument, run: RunResult, stage: Stage): string {
  const envelope = stageEnvelope(doc, run, stage.id);
  const head: [string, string][] = [
    ['works from', `${quantity(envelope.inputs.first, 'V')} to ${quantity(envelope.inputs.last, 'V')}`],
    ['modes', envelope.modes.map((m) => `${m.mode} ${(100 * m.share).toFixed(0)} %`).join(', ') || 'none'],
    ['mean efficiency', `${(100 * envelope.efficiency).toFixed(1)} %`],
    ...mostLine(doc, run, stage),
    ...envelope.heat.map((h): [string, string] => [
      `heat, ${h.air} air`,
      `${h.name} ${h.celsius.toFixed(0)} °C at ${clock(h.time)} in ${h.airCelsius.toFixed(0)} °C` +
        (h.limit === undefined ? '' : `, limit ${h.limit} °C`),
    ]),
  ];
  return [
    stage.name,
    ...head.map(([name, value]) => `  ${name.padEnd(20)} ${value}`),
    ...figures(envelope, stage),
    'lost over the run',
    ...envelope.lost.map((l) => `  ${l.mechanism.padEnd(26)} ${quantity(l.joules / SECONDS_PER_HOUR, 'Wh')}`),
    '',
  ].join('\n');
}

function mostLine(doc: ThreadDocument, run: RunResult, stage: Stage): [string, string][] {
  const most = mostOutputOverRun(doc, run, stage.id);
  if (!most) return [];
  const least = leastInputOverRun(doc, run, stage.id);
  const lowest: [string, string][] = least
    ? [
        [
          'works down to',
          `${quantity(least.least, 'V')} at ${quantity(least.asked, 'A')}, by its ${least.by}`,
        ],
      ]
    : [];
  return [
    ...lowest,
    ['most it can give', `${quantity(most.amps, 'A')} at ${quantity(most.vin, 'V')}, by its ${most.by}`],
  ];
}

function figures({ figures: list }: Envelope, stage: Stage): string[] {
  const bare = isConverter(stage) && !stage.parts ? ['  (no parts yet: add them in the Stage view)'] : [];
  const row = (cells: string[]) =>
    `  ${cells[0]!.padEnd(26)} ${cells
      .slice(1)
      .map((c) => c.padStart(11))
      .join(' ')}`;
  return [
    'over the run',
    ...bare,
    row(['', 'full', 'end', 'worst', 'at', 'rating', 'room']),
    ...list.map((f) =>
      row([
        f.label,
        quantity(f.full, f.unit),
        quantity(f.end, f.unit),
        quantity(f.worst, f.unit),
        clock(f.worstTime),
        f.rating === undefined ? '-' : quantity(f.rating, f.unit),
        room(f),
      ]),
    ),
  ];
}

function room(f: Figure): string {
  return f.room === undefined ? '-' : `${(100 * f.room).toFixed(0)} %`;
}

function quantity(value: number, unit: string): string {
  return formatQuantity(value, unit).replace(/\u00a0/g, ' ');
}

function clock(seconds: number): string {
  return formatDuration(seconds / SECONDS_PER_HOUR).replace(/\u00a0/g, ' ');
}

/** Everything as JSON. Seconds, joules, amperes; see docs/format/README.md. */
export function sizeJson(doc: ThreadDocument, run: RunResult, stage: Stage): string {
  const most = mostOutputOverRun(doc, run, stage.id);
  const finite = (_: string, v: unknown) => (typeof v === 'number' && !Number.isFinite(v) ? null : v);
  return `${JSON.stringify({ stage: stage.id, ...stageEnvelope(doc, run, stage.id), most, least: leastInputOverRun(doc, run, stage.id) }, finite, 2)}\n`;
}

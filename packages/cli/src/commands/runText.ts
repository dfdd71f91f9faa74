import { sinceOf, type Finding } from '@mile-thread/core';
import { modeName, type ThreadDocument } from '@mile-thread/core/model';
import { END_WORDS, type RunResult } from '@mile-thread/core/solve';
import { formatDuration, formatQuantity, formatShelf, SECONDS_PER_HOUR } from '@mile-thread/core/units';

const wh = (joules: number) => formatQuantity(joules / SECONDS_PER_HOUR, 'Wh');

/** The answers, the account and the findings as plain text. */
export function runText(doc: ThreadDocument, run: RunResult, found: Finding[]): string {
  const { ledger, idle, worstCell, deadEnd } = run;
  const hours = run.usefulEnd.time / SECONDS_PER_HOUR;
  const load = doc.loads.find((l) => l.id === run.usefulEnd.load?.id);
  const why = load ? `${load.name} leaves its range` : END_WORDS[deadEnd.reason];
  const rows: [string, string][] = [
    ['lasts', `${formatDuration(hours)} of ${formatDuration(doc.goals.hours)} needed; then ${why}`],
    ['reaches the loads', `${wh(ledger.usable)} of ${wh(ledger.stored)} stored`],
    ['left behind', wh(run.leftBehind)],
    ['worst cell current', `${formatQuantity(worstCell.amps, 'A')}, ${worstCell.rate.toFixed(2)} C`],
    ['on the shelf', `${formatShelf(idle.hoursToEnd)}, ${formatQuantity(idle.amps, 'A')} idle`],
    ['dead end', `${formatDuration(deadEnd.time / SECONDS_PER_HOUR)}, ${END_WORDS[deadEnd.reason]}`],
    ['rests on', `${run.grade} figures`],
  ];
  const account = ledger.entries.map(
    (e) => `  ${e.element.padEnd(20)} ${e.mechanism.padEnd(14)} ${wh(e.joules).padStart(10)}`,
  );
  return [
    doc.name,
    ...rows.map(([name, value]) => `  ${name.padEnd(20)} ${value}`),
    ...modesText(doc, run),
    'where it went, up to the useful end',
    ...account,
    `  ${'cells'.padEnd(20)} ${'left in them'.padEnd(14)} ${wh(ledger.left).padStart(10)}`,
    '',
    findingsText(found),
  ].join('\n');
}

/** What each mode of the programme had, up to the useful end. */
function modesText(doc: ThreadDocument, { worked }: RunResult): string[] {
  const { programme } = doc;
  if (!worked || !programme) return [];
  const name = (id: string) => modeName(doc, id);
  const wanted = programme.wanted === undefined ? '' : ` of ${programme.wanted} wanted`;
  const lines = worked.modes.map(({ mode, seconds, delivered, lowest }) => {
    const low = lowest ? `${formatQuantity(lowest.volts, 'V')} at the least` : 'never reached';
    const time = formatDuration(seconds / SECONDS_PER_HOUR);
    return `  ${name(mode).padEnd(20)} ${time.padEnd(14)} ${wh(delivered).padStart(10)}   ${low}`;
  });
  return [`by mode, ${worked.cycles} cycles${wanted}, ends in ${name(worked.endsIn!)}`, ...lines];
}

/** Findings, a paragraph each. */
export function findingsText(found: Finding[]): string {
  if (found.length === 0) return 'nothing found\n';
  const lines = found.map((f) => {
    const since = sinceOf(f);
    const when = since === undefined ? '' : ` (from ${formatDuration(since / SECONDS_PER_HOUR)} on)`;
    const action = f.action ? `\n          ${f.action.label}` : '';
    return `${f.severity.padEnd(8)}  ${f.title}${when}\n          ${f.reason}${action}`;
  });
  return `${lines.join('\n')}\n`;
}

/** Everything but the rows, as JSON. Seconds, joules, amperes; see docs/format/README.md. */
export function runJson(doc: ThreadDocument, run: RunResult, found: Finding[]): string {
  const { series, ...answers } = run;
  const finite = (_: string, value: unknown) => (value === Infinity ? null : value);
  const whole = {
    thread: doc.name,
    needHours: doc.goals.hours,
    ...answers,
    points: series.count,
    findings: found,
  };
  return `${JSON.stringify(whole, finite, 2)}\n`;
}

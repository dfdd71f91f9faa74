import { misfits, type Explanation, type Moved } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration } from '@mile-thread/core/units';

const elementName = ({ stages, loads }: ThreadDocument, id: string) =>
  [...stages, ...loads].find((x) => x.id === id)?.name ?? id;
const percent = (factor: number) => `${factor >= 1 ? '+' : '-'}${Math.abs(100 * (factor - 1)).toFixed(1)} %`;

/** Which figures explain the readings, how far they moved within what they may, and what that does to the run-down. */
export function fitText(doc: ThreadDocument, found: Explanation): string {
  const { before, after, moved, unexplained, settled } = found;
  const range = (p: typeof before) =>
    `${formatDuration(p.value)}, ${formatDuration(Math.max(0, p.p10))} to ${formatDuration(p.p90)}`;
  const line = (m: Moved) =>
    `  ${`${elementName(doc, m.figure.element)}, ${m.figure.kind}`.padEnd(34)} ${percent(m.factor).padStart(8)} of ${(100 * m.figure.tolerance).toFixed(0).padStart(3)} %   ${m.explains < 0 ? '-' : '+'}${formatDuration(Math.abs(m.explains))}${m.outside ? '   outside its tolerance' : ''}`;
  return [
    `${doc.name}: what its readings say together`,
    `  lasts, as stated    ${range(before)}`,
    `  lasts, by readings  ${range(after)}`,
    ...(unexplained === undefined ? [] : [`  unexplained         ${formatDuration(Math.abs(unexplained))}`]),
    'figures, and what each explains of the run-down',
    ...moved.filter((m) => Math.abs(m.score) > 0.05).map(line),
    ...misfits(found).map(
      (f) => `${f.step} stays ${Math.abs(f.after).toFixed(1)} deviations off: not all readings can be true.`,
    ),
    ...(settled ? [] : ['The search did not settle: take nothing of it.']),
    '',
  ].join('\n');
}

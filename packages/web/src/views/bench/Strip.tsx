import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration } from '@mile-thread/core/units';
import type { Explaining } from '../../jobs/useExplanation.ts';
import { Answers, toneOf, type AnswerCell } from '../../kit/Answers.tsx';
import { told, type Row } from './model.ts';

/** What the bench has to say, first: how long it lasted and what that makes of what was predicted, then the plan. */
export function Strip({
  doc,
  rows,
  explaining,
}: {
  doc: ThreadDocument;
  rows: Row[];
  explaining: Explaining;
}) {
  const of = (verdict: Row['found']['verdict']) => rows.filter((r) => r.found.verdict === verdict);
  const open = of('open');
  const [off, odds] = [of('off'), of('atOdds')];
  const worst = [...off].sort((a, b) => Math.abs(b.found.off!) - Math.abs(a.found.off!))[0];
  const next = open[0];
  const cells: AnswerCell[] = [
    ...(explaining.found ? learnt(doc, explaining) : expected(rows)),
    {
      id: 'done',
      label: 'Measured',
      value: `${rows.length - open.length} of ${rows.length}`,
      note: open.length === 0 ? '✓ all of it' : '',
    },
    {
      id: 'off',
      label: 'Off range',
      value: off.length === 0 ? 'none' : String(off.length),
      tone: toneOf(off.length === 0),
      ...(worst ? { note: `✕ ${worst.step.title}` } : {}),
    },
    ...(odds.length === 0
      ? []
      : [
          {
            id: 'odds',
            label: 'At odds',
            value: String(odds.length),
            tone: toneOf(false),
            title: 'Readings of one thing that cannot both be true',
          },
        ]),
    // What has been learnt takes the room; the plan stands below.
    ...(explaining.found?.measured === undefined
      ? [
          {
            id: 'next',
            label: 'Next',
            value: next ? next.step.title : 'nothing',
            ...(next?.step.predicted
              ? { note: `expect ${told(next.step.predicted.value, next.step.unit)}` }
              : {}),
          },
        ]
      : []),
  ];
  return <Answers label="Answers of the bench" cells={cells} stale={explaining.stale} />;
}

/** How long it is to last, as its figures stand. */
function expected(rows: readonly Row[]): AnswerCell[] {
  const p = rows.find((r) => r.step.id === 'run')?.step.predicted;
  if (!p) return [];
  const range = `${formatDuration(Math.max(0, p.p10))} to ${formatDuration(p.p90)}`;
  return [{ id: 'predicted', label: 'Predicted', value: formatDuration(p.value), note: range }];
}

/** What readings have taught of the run-down; nothing while none says anything. */
function learnt({ goals }: ThreadDocument, { found }: Explaining): AnswerCell[] {
  if (!found) return [];
  const { before, after, measured, unexplained = 0 } = found;
  const range = (p: typeof before) =>
    `${formatDuration(Math.max(0, p.p10))} to ${formatDuration(Math.max(0, p.p90))}`;
  const miss = measured === undefined ? 0 : measured - before.value;
  const share = Math.abs(miss) > 1e-9 ? Math.max(0, 1 - Math.abs(unexplained / miss)) : 1;
  return [
    ...(measured === undefined
      ? []
      : [
          {
            id: 'logged',
            label: 'Lasted',
            value: formatDuration(measured),
            tone: toneOf(measured >= goals.hours),
            note: `need ${formatDuration(goals.hours)}`,
          },
        ]),
    { id: 'predicted', label: 'Was predicted', value: formatDuration(before.value), note: range(before) },
    {
      id: 'with',
      label: 'With these readings',
      value: <span data-grade="measured">{formatDuration(after.value)}</span>,
      note: range(after),
    },
    ...(measured === undefined || Math.abs(miss) < 0.004 * before.value
      ? []
      : [
          {
            id: 'explained',
            label: `Explained of ${formatDuration(Math.abs(miss))}`,
            value: `${Math.round(100 * share)} %`,
            note: miss < 0 ? 'too early' : 'longer',
          },
        ]),
  ];
}

import type { Edit, ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import {
  formatDuration,
  formatQuantity,
  formatShelf,
  HOURS_PER_MONTH,
  SECONDS_PER_HOUR,
} from '@mile-thread/core/units';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Answers, toneOf, type AnswerCell } from '../../kit/Answers.tsx';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import type { Commit } from '../../document/session.ts';
import { useSession } from '../../document/useSession.ts';
import { elementName, endWords } from '../../kit/words.ts';

const FullIn = lazy(() => import('./FullIn.tsx').then((m) => ({ default: m.FullIn })));
const LikelyRange = lazy(() => import('./LikelyRange.tsx').then((m) => ({ default: m.LikelyRange })));

interface Props {
  doc: ThreadDocument;
  run: RunResult;
  commit: Commit;
}

/** “✓ need”, “✕ need”, or nothing wished. */
function shelfMet({ goals }: ThreadDocument, { idle }: RunResult): string {
  if (goals.shelfMonths === undefined) return 'no';
  return idle.hoursToEnd >= goals.shelfMonths * HOURS_PER_MONTH ? '✓ need' : '✕ need';
}

/** None is no wish: the field goes. */
function shelfEdit({ goals }: ThreadDocument, months: number | undefined): Edit {
  const path = ['goals', 'shelfMonths'];
  if (!months) return { op: 'remove', path };
  return { op: goals.shelfMonths === undefined ? 'add' : 'replace', path, value: months };
}

/** [ms] after the first picture, at which what it does not wait for is fetched. */
const AFTER = 400;

/** Whether the first picture has had its time. */
function useLater(): boolean {
  const [later, setLater] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLater(true), AFTER);
    return () => clearTimeout(timer);
  }, []);
  return later;
}

/** What the path has to say: how long, how much, what is left, how hard, how long on the shelf. */
export function PathAnswers({ doc, run, commit }: Props) {
  const later = useLater();
  const stale = useSession()((s) => s.doc) !== doc;
  const hours = run.usefulEnd.time / SECONDS_PER_HOUR;
  const idle = doc.loads.length === 0;
  const met = idle || hours >= doc.goals.hours;
  const wh = (joules: number) => formatQuantity(joules / SECONDS_PER_HOUR, 'Wh');
  const share = run.ledger.stored > 0 ? Math.round((100 * run.ledger.usable) / run.ledger.stored) : 0;
  const soft = run.grade === 'claimed' || run.grade === 'assumed';
  const cells: AnswerCell[] = [
    {
      id: 'lasts',
      label: 'Lasts',
      value: idle ? '–' : formatDuration(hours),
      tone: toneOf(met),
      note: (
        <>
          {idle ? 'no load yet, ' : met ? '✓ ' : '✕ '}need{' '}
          <EditableQuantity
            label="Must last"
            value={doc.goals.hours}
            unit="h"
            shown={formatDuration(doc.goals.hours)}
            onCommit={(v) =>
              commit('Change the need', [{ op: 'replace', path: ['goals', 'hours'], value: v }])
            }
          />
          {doc.belief?.asRange && !stale && !idle && (
            <Suspense fallback={null}>
              <LikelyRange doc={doc} />
            </Suspense>
          )}
        </>
      ),
    },
    {
      id: 'reaches',
      label: 'Reaches the loads',
      value: wh(run.ledger.usable),
      note: `${share} % of ${wh(run.ledger.stored)}`,
    },
    { id: 'left', label: 'Left behind at stop', value: wh(run.leftBehind), note: endWords(doc, run) },
    {
      id: 'worst',
      label: 'Worst cell current',
      value: formatQuantity(run.worstCell.amps, 'A'),
      note: `${run.worstCell.rate.toFixed(2)} C`,
    },
    {
      id: 'shelf',
      label: `On the shelf, ${formatQuantity(run.idle.amps, 'A')} idle`,
      value: formatShelf(run.idle.hoursToEnd),
      note: (
        <>
          {shelfMet(doc, run)}{' '}
          <EditableQuantity
            label="Must keep on the shelf"
            value={doc.goals.shelfMonths ?? 0}
            unit="months"
            shown={
              doc.goals.shelfMonths === undefined
                ? 'wish'
                : formatDuration(doc.goals.shelfMonths * HOURS_PER_MONTH)
            }
            onCommit={(v) => commit('Change the shelf wish', [shelfEdit(doc, v)])}
          />
        </>
      ),
    },
    ...(doc.charging
      ? [
          {
            id: 'fullIn',
            label: 'Full in',
            title: `From ${Math.round(100 * doc.charging.from)} %, by ${doc.charging.source.name}`,
            value: later ? (
              <Suspense fallback="…">
                <FullIn doc={doc} />
              </Suspense>
            ) : (
              '…'
            ),
          },
        ]
      : []),
    ...(run.gradeFrom.length > 0
      ? [
          {
            id: 'grade',
            label: 'Rests on',
            value: run.grade,
            grade: run.grade,
            soft,
            title: `Rests on: ${run.gradeFrom.map((g) => `${elementName(doc, g.element)} ${g.grade}`).join(', ')}`,
          },
        ]
      : []),
  ];
  return <Answers label="Answers" cells={cells} stale={stale} />;
}

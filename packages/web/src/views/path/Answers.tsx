import type { Edit, ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { formatDuration, formatQuantity, HOURS_PER_MONTH, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import type { Commit } from '../../document/session.ts';
import { elementName, endWords } from '../../kit/words.ts';

interface Props {
  doc: ThreadDocument;
  run: RunResult;
  stale: boolean;
  commit: Commit;
}

/** “✓ need”, “✕ need”, or nothing wished. */
function shelfMet({ need }: ThreadDocument, { idle }: RunResult): string {
  if (need.shelfMonths === undefined) return 'no';
  return idle.hoursToEnd >= need.shelfMonths * HOURS_PER_MONTH ? '✓ need' : '✕ need';
}

/** None is no wish: the field goes. */
function shelfEdit({ need }: ThreadDocument, months: number | undefined): Edit {
  const path = ['need', 'shelfMonths'];
  if (!months) return { op: 'remove', path };
  return { op: need.shelfMonths === undefined ? 'add' : 'replace', path, value: months };
}

/** The strip above every view of a design: how long, how much, what is left, how hard, how long on the shelf. */
export function Answers({ doc, run, stale, commit }: Props) {
  const hours = run.usefulEnd.time / SECONDS_PER_HOUR;
  const idle = doc.loads.length === 0;
  const met = idle || hours >= doc.need.hours;
  const wh = (joules: number) => formatQuantity(joules / SECONDS_PER_HOUR, 'Wh');
  const share = run.ledger.stored > 0 ? Math.round((100 * run.ledger.usable) / run.ledger.stored) : 0;
  const worst = run.gradeFrom[0];
  const soft = run.grade === 'claimed' || run.grade === 'assumed';
  return (
    <section
      className={`answers ${stale ? 'stale' : ''} ${soft ? 'soft' : ''}`}
      aria-label="Answers"
      aria-live="polite"
    >
      <div className={met ? 'met' : 'short'} data-answer="lasts">
        <small>Lasts</small>
        <b>{idle ? '–' : formatDuration(hours)}</b>
        <em>
          {idle ? 'no load yet, ' : met ? '✓ ' : '✕ '}need{' '}
          <EditableQuantity
            label="Must last"
            value={doc.need.hours}
            unit="h"
            shown={formatDuration(doc.need.hours)}
            onCommit={(v) =>
              commit('Change the need', [{ op: 'replace', path: ['need', 'hours'], value: v }])
            }
          />
        </em>
      </div>
      <div data-answer="reaches">
        <small>Reaches the loads</small>
        <b>{wh(run.ledger.usable)}</b>
        <em>
          {share} % of {wh(run.ledger.stored)}
        </em>
      </div>
      <div data-answer="left">
        <small>Left behind at stop</small>
        <b>{wh(run.leftBehind)}</b>
        <em>{endWords(doc, run)}</em>
      </div>
      <div data-answer="worst">
        <small>Worst cell current</small>
        <b>{formatQuantity(run.worstCell.amps, 'A')}</b>
        <em>{run.worstCell.rate.toFixed(2)} C</em>
      </div>
      <div data-answer="shelf">
        <small>On the shelf, {formatQuantity(run.idle.amps, 'A')} idle</small>
        <b>{formatDuration(run.idle.hoursToEnd)}</b>
        <em>
          {shelfMet(doc, run)}{' '}
          <EditableQuantity
            label="Must keep on the shelf"
            value={doc.need.shelfMonths ?? 0}
            unit="months"
            shown={doc.need.shelfMonths === undefined ? 'wish' : `${doc.need.shelfMonths} months`}
            onCommit={(v) => commit('Change the shelf wish', [shelfEdit(doc, v)])}
          />
        </em>
      </div>
      {worst && (
        <div
          className="grade"
          data-answer="grade"
          title={`Rests on: ${run.gradeFrom.map((g) => `${elementName(doc, g.element)} ${g.grade}`).join(', ')}`}
        >
          <small>Rests on</small>
          <b>{run.grade}</b>
        </div>
      )}
    </section>
  );
}

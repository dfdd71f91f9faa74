import {
  formatDuration,
  formatQuantity,
  SECONDS_PER_HOUR,
  type RunResult,
  type ThreadDocument,
} from '@mile-thread/core';
import { EditableQuantity } from '../../app/EditableQuantity.tsx';
import type { Commit } from '../../document/session.ts';
import { elementName, endWords } from './words.ts';

interface Props {
  doc: ThreadDocument;
  run: RunResult;
  stale: boolean;
  commit: Commit;
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
        <small>On the shelf</small>
        <b>{formatDuration(run.idle.hoursToEnd)}</b>
        <em>{formatQuantity(run.idle.amps, 'A')} idle</em>
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

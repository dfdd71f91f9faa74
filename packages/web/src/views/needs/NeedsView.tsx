import { modeName, type ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { Alert } from 'antd';
import { useMemo } from 'react';
import { addMode, endProgramme, startProgramme } from '../../document/programme.ts';
import { useCommit } from '../../document/useCommit.ts';
import { useSession } from '../../document/useSession.ts';
import { useComputed } from '../../jobs/client.ts';
import { Answers, toneOf, type AnswerCell } from '../../kit/Answers.tsx';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { useWidth } from '../../kit/useWidth.ts';
import { QuietSelect } from '../../kit/SelectRow.tsx';
import { railsOf, scoreOf, type Score } from './model.ts';
import { ReachPanel } from './ReachPanel.tsx';
import { ScorePanel, time } from './Score.tsx';
import { NAMES } from './scoreShape.ts';
import { Wants } from './Wants.tsx';
import css from './needs.module.css';
import sideCss from '../../kit/side.module.css';

/** Needs: what the loads do and want, and which pack reaches them. */
export function NeedsView() {
  const session = useSession();
  const doc = session((s) => s.doc);
  const commit = useCommit();
  const { data, error } = useComputed(doc);
  const [board, width] = useWidth<HTMLDivElement>(900);
  // Many stretches need room for their words: the score then scrolls.
  const columns = doc.programme?.segments.length ?? 1;
  const room = Math.max(width - NAMES - 24, 96 * columns);
  const score = useMemo(() => scoreOf(doc, room), [doc, room]);
  const rails = useMemo(() => railsOf(doc, score), [doc, score]);
  const { programme } = doc;
  return (
    <div className={css.needsView}>
      <div className={css.needsMain}>
        <NeedsAnswers {...{ doc, score }} run={data?.run} stale={data?.doc !== doc} />
        {error && (
          <Alert type="error" showIcon title="The run could not be computed" description={error.message} />
        )}
        <section className={css.loadsDo} aria-label="What the loads do" ref={board}>
          <header>
            <h4>What the loads do</h4>
            {programme ? (
              <>
                <span>
                  one cycle of {time(score.period)}; drag an edge or a top, or type over a value. Then
                </span>
                <QuietSelect
                  label="After the last stretch"
                  value={programme.after}
                  options={[
                    { value: 'repeat', label: 'from the first again' },
                    { value: 'stay', label: 'stay in the last' },
                  ]}
                  onChange={(after) =>
                    commit('Change what comes after', [
                      { op: 'replace', path: ['programme', 'after'], value: after },
                    ])
                  }
                />
                {programme.after === 'repeat' && (
                  <span>
                    starts at{' '}
                    <EditableQuantity
                      label="Starts at"
                      value={programme.startsAt}
                      unit="s"
                      optional
                      shown={programme.startsAt === undefined ? 'its beginning' : time(programme.startsAt)}
                      onCommit={(v) =>
                        commit('Change where it starts', [
                          v === undefined
                            ? { op: 'remove', path: ['programme', 'startsAt'] }
                            : {
                                op: programme.startsAt === undefined ? 'add' : 'replace',
                                path: ['programme', 'startsAt'],
                                value: v,
                              },
                        ])
                      }
                    />
                  </span>
                )}
                <span className={css.space} />
                <button
                  type="button"
                  className="link strong"
                  onClick={() => commit('Add a mode', addMode(doc))}
                >
                  + mode
                </button>
                <button
                  type="button"
                  className="link"
                  onClick={() => commit('Every load on all the time', endProgramme(doc))}
                >
                  no modes
                </button>
              </>
            ) : (
              <>
                <span>every load is on all the time</span>
                <span className={css.space} />
                <button
                  type="button"
                  className="link strong"
                  onClick={() => commit('Give it modes', startProgramme(doc))}
                >
                  Give it modes: work, rest …
                </button>
              </>
            )}
          </header>
          {doc.loads.length === 0 ? (
            <p className="quiet">
              No load yet. Hang one on the path (key 2), then say here what it does over time.
            </p>
          ) : (
            <div className={css.scoreRoom}>
              <ScorePanel {...{ doc, score, commit }} width={room} />
            </div>
          )}
        </section>
        {rails.length > 0 && <ReachPanel {...{ doc, rails, commit }} />}
      </div>
      <aside className={sideCss.side}>
        <Wants doc={doc} run={data?.run} commit={commit} />
      </aside>
    </div>
  );
}

interface AnswersProps {
  doc: ThreadDocument;
  score: Score;
  run: RunResult | undefined;
  stale: boolean;
}

function NeedsAnswers({ doc, score, run, stale }: AnswersProps) {
  const { programme, goals } = doc;
  const idle = doc.loads.length === 0;
  const hours = run && run.usefulEnd.time / SECONDS_PER_HOUR;
  const done = run?.worked?.cycles;
  const cells: AnswerCell[] = [
    {
      id: 'lasts',
      label: 'Lasts',
      value: hours === undefined || idle ? '–' : formatDuration(hours),
      note: `need ${formatDuration(goals.hours)}`,
      tone: toneOf(hours === undefined || idle ? undefined : hours >= goals.hours),
    },
    ...(programme
      ? [
          {
            id: 'cycles',
            label: 'Cycles',
            value: done === undefined ? '–' : done.toLocaleString('en').replaceAll(',', '\u2009'),
            note: `of ${time(score.period)}${programme.wanted === undefined ? '' : `, want ${programme.wanted}`}`,
            tone: toneOf(
              done === undefined || programme.wanted === undefined ? undefined : done >= programme.wanted,
            ),
          },
        ]
      : []),
    {
      id: 'mean',
      label: 'Mean of the loads',
      value: formatQuantity(score.mean, 'W', 3),
      note: programme ? 'over a cycle' : 'all on',
    },
    {
      id: 'worst',
      label: 'Most at once',
      value: formatQuantity(score.worst.watts, 'W', 3),
      note: `${score.columns[score.worst.column]?.name ?? ''}${score.worst.peaks.length > 0 ? ', at a peak' : ''}`,
    },
    {
      id: 'worst-cell',
      label: 'Worst cell current',
      value: run ? formatQuantity(run.worstCell.amps, 'A') : '–',
      note: run ? `${run.worstCell.rate.toFixed(2)} C` : undefined,
    },
    ...(programme
      ? [
          {
            id: 'ends-in',
            label: 'Ends in',
            value: run?.worked?.endsIn ? modeName(doc, run.worked.endsIn) : '–',
          },
        ]
      : []),
    {
      id: 'grade',
      label: 'Rests on',
      value: run?.grade ?? '–',
      grade: run?.grade,
      soft: run?.grade === 'claimed' || run?.grade === 'assumed',
    },
  ];
  return <Answers label="Answers on the needs" cells={cells} stale={stale} />;
}

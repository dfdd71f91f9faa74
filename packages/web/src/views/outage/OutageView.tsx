import { suggestCharging, usualSources, type BackupAnswers } from '@mile-thread/core/charging';
import type { Edit, ThreadDocument } from '@mile-thread/core/model';
import { Alert, Button, Spin } from 'antd';
import { useEffect } from 'react';
import type { Commit } from '../../document/session.ts';
import { useCommit } from '../../document/useCommit.ts';
import { useSession } from '../../document/useSession.ts';
import { useOutageNeedle } from '../../document/view.ts';
import { useAnswer, useBackup } from '../../jobs/client.ts';
import { useYears } from '../../jobs/useYears.ts';
import { Findings } from '../../kit/Findings.tsx';
import { keyIsTaken } from '../../kit/useNeedleKeys.ts';
import { Dip } from './Dip.tsx';
import { Hold } from './Hold.tsx';
import { Joins } from './Joins.tsx';
import { Lanes } from './Lanes.tsx';
import { Recharge } from './Recharge.tsx';
import { Strip } from './Strip.tsx';
import { Years } from './Years.tsx';
import css from './outage.module.css';

/** Outage: who carries the loads when mains goes, how long, and what happens as it does. */
export function OutageView() {
  const doc = useSession()((s) => s.doc);
  const { data, error } = useBackup(doc);
  const commit = useCommit();
  if (!doc.charging || !doc.backup) return <Empty {...{ doc, commit }} />;
  if (error)
    return (
      <Alert type="error" showIcon title="The timeline could not be computed" description={error.message} />
    );
  if (!data?.doc.backup) return <Spin className="waiting" description="Running through it" size="large" />;
  return <Shown {...data} stale={data.doc !== doc} commit={commit} />;
}

/** A week with one outage on an evening. */
const WEEK = { span: 168, outages: [{ from: 90, hours: 8 }], hold: 8 };
/** Adapters to begin with, by their places among the usual sources. */
const FIRST = [2, 4, 10];

function Empty({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const sources = usualSources();
  const week: Edit = { op: 'add', path: ['backup'], value: WEEK };
  return (
    <section className={css.empty} aria-label="No mains yet">
      <h3>{doc.charging ? 'When does mains go?' : 'What feeds it while there is mains?'}</h3>
      <p>
        A week of mains with an outage on one evening to begin with. Who carries, how long the pack holds and
        what happens as mains goes follow from it.
      </p>
      {doc.charging ? (
        <Button type="primary" onClick={() => commit('Plan for outages', [week])}>
          Begin with a week
        </Button>
      ) : (
        <div>
          {FIRST.map((k) => (
            <button
              key={k}
              type="button"
              onClick={() =>
                commit(`Feed it from ${sources[k]!.name}`, [
                  {
                    op: 'add',
                    path: ['charging'],
                    value: { ...suggestCharging(doc, sources[k]!), meanwhile: 'battery' },
                  },
                  week,
                ])
              }
            >
              <b>{sources[k]!.name}</b>
            </button>
          ))}
        </div>
      )}
    </section>
  );
}

interface ShownProps {
  doc: ThreadDocument;
  found: BackupAnswers;
  stale: boolean;
  commit: Commit;
}

function Shown({ doc, found, stale, commit }: ShownProps) {
  const so = useYears(doc, found.dip?.chance ?? 0);
  useTransferKeys(found);
  return (
    <div className={css.view}>
      <Strip {...{ doc, found, stale, commit }} years={so.years} />
      <div className={css.parts}>
        <div className={css.left}>
          <Lanes {...{ doc, found, commit }} />
          <div className={css.below}>
            <Hold {...{ doc, found }} />
            <Dip {...{ doc, found, commit }} />
            <Recharge {...{ found }} />
            <Years {...{ doc, so, commit }} />
          </div>
        </div>
        <div>
          <Joins {...{ doc, found, commit }} />
          <Checks {...{ doc, commit }} />
        </div>
      </div>
      <p className={css.caution}>
        Adapters are fed from mains: leave them closed and have them fitted by who may, as local codes ask.{' '}
        <button
          type="button"
          className="link"
          onClick={() => commit('No outages any more', [{ op: 'remove', path: ['backup'] }])}
        >
          Take the timeline away
        </button>
      </p>
    </div>
  );
}

/** [ and ]: from one transfer to the one before or after. */
function useTransferKeys({ rows }: BackupAnswers) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.key !== '[' && event.key !== ']') || keyIsTaken(event)) return;
      const { time, moveTo } = useOutageNeedle.getState();
      const times = rows.flatMap((r) => [r.from, r.to]);
      const next = event.key === ']' ? times.find((t) => t > time + 1) : times.findLast((t) => t < time - 1);
      if (next !== undefined) moveTo(next);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [rows]);
}

function Checks({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const { data } = useAnswer('backupChecks', [doc]);
  return (
    <section className={css.tool} aria-label="Checks over the timeline">
      <header>
        <h4>Checks</h4>
      </header>
      {data?.length === 0 ? (
        <p className="quiet">Nothing found. It carries what it should.</p>
      ) : (
        <Findings
          findings={data}
          onMove={useOutageNeedle.getState().moveTo}
          onSelect={() => {}}
          onApply={(f) => commit(f.action!.label, f.action!.edits)}
        />
      )}
    </section>
  );
}

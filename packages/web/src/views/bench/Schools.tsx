import type { School } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration } from '@mile-thread/core/units';
import { useState } from 'react';
import type { Commit } from '../../document/session.ts';
import { useAnswer } from '../../jobs/client.ts';
import css from './schools.module.css';

/** Where trades differ: each way with what it costs in this thread, and why the usual one is the usual one. */
export function Schools({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const [open, setOpen] = useState(false);
  const { data, error } = useAnswer('schools', open ? [doc] : undefined);
  return (
    <details
      className={css.schools}
      onToggle={(e) => setOpen((e.target as HTMLDetailsElement).open)}
      aria-label="Where practitioners differ"
    >
      <summary>
        <h4>Two people at odds</h4>
        <span>how full, how fast, where to stop, whose capacity: what each way costs here</span>
      </summary>
      {error && <p role="alert">{error.message}</p>}
      {open && !data && !error && <p className="quiet">Running each of them down.</p>}
      <div className={css.list}>
        {data?.map((school) => (
          <Question key={school.id} {...{ school, commit }} />
        ))}
      </div>
    </details>
  );
}

function Question({ school, commit }: { school: School; commit: Commit }) {
  const { question, choices, usual, because } = school;
  const most = Math.max(...choices.map((c) => c.hours), 1e-9);
  return (
    <section aria-label={question}>
      <h5>{question}</h5>
      {choices.map((c) => (
        <div key={c.id} data-now={c.now || undefined}>
          <b>{c.name}</b>
          <span>{formatDuration(c.hours)}</span>
          <i aria-hidden="true" style={{ width: `${(100 * c.hours) / most}%` }} />
          <p>
            {c.says} <em>{c.wear}</em>
          </p>
          {c.now ? (
            <small>✓ as it is{c.id === usual && ', the usual'}</small>
          ) : c.edits.length > 0 ? (
            <button
              type="button"
              className="link"
              onClick={() => commit(`${question}: ${c.name}`, c.edits)}
              aria-label={`${question}: take ${c.name}`}
            >
              take{c.id === usual && ', the usual'}
            </button>
          ) : (
            <small>to compare</small>
          )}
        </div>
      ))}
      <p className="quiet">
        The usual is {choices.find((c) => c.id === usual)!.name}: {because}
      </p>
    </section>
  );
}

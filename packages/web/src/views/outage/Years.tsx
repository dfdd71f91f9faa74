import { randomYear, shareRange, type Year } from '@mile-thread/core/charging';
import type { Chance, Edit, ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, HOURS_PER_MONTH, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { Button } from 'antd';
import { useState, type KeyboardEvent } from 'react';
import type { Commit } from '../../document/session.ts';
import type { YearsSoFar } from '../../jobs/useYears.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import css from './years.module.css';

/** A grid as one knows it: an outage every other month, half of them an hour. Assumed. */
const USUAL: Chance = { perYear: 6, half: 1, sixth: 3 };
const ROW = 10;

const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);

interface Props {
  doc: ThreadDocument;
  so: YearsSoFar;
  commit: Commit;
}

/** A hundred random years as squares, and the chance that one drops the loads. */
export function Years({ doc, so, commit }: Props) {
  const { chance } = doc.backup!;
  return (
    <section className={css.years} aria-label="A hundred random years">
      <header>
        <h4>A hundred random years</h4>
        {so.working && (
          <span>
            {so.years.length} of {so.of}{' '}
            <button type="button" className="link" onClick={so.stop}>
              stop
            </button>
          </span>
        )}
        {!so.working && chance && so.years.length < so.of && (
          <button type="button" className="link" onClick={so.start}>
            go on
          </button>
        )}
      </header>
      {chance ? (
        <>
          <Squares {...{ doc, so, commit }} />
          <Told years={so.years} error={so.error} />
          <Odds {...{ chance, commit }} />
        </>
      ) : (
        <>
          <p className={css.words}>
            How often does it drop its loads if mains goes as it does where it stands, rather than as drawn
            above?
          </p>
          <Button
            onClick={() =>
              commit('Say how often mains goes', [{ op: 'add', path: ['backup', 'chance'], value: USUAL }])
            }
          >
            Look at random years
          </Button>
        </>
      )}
    </section>
  );
}

function stateOf(year: Year | undefined): string {
  if (!year) return 'waits';
  return year.drops > 0 ? 'drops' : year.dips > 0 ? 'dips' : 'fine';
}

function wordsOf(year: Year | undefined, k: number): string {
  if (!year) return `Year ${k + 1}`;
  const { outages, longest, drops, dark, dips, lowest } = year;
  const what =
    drops > 0
      ? `drops the loads for ${hours(dark)}`
      : `down to ${Math.round(100 * lowest)} %${dips > 0 ? `, dips ${dips} times` : ''}`;
  return `Year ${k + 1}: ${outages} outages, the longest ${hours(longest)}; ${what}`;
}

function Squares({ doc, so, commit }: Props) {
  const [at, setAt] = useState(0);
  const byYear = new Map(so.years.map((y) => [y.year, y]));
  const onKey = (e: KeyboardEvent<HTMLDivElement>) => {
    const by = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: ROW, ArrowUp: -ROW }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    e.stopPropagation();
    const to = Math.max(0, Math.min(so.of - 1, at + by));
    setAt(to);
    e.currentTarget.querySelectorAll('button')[to]?.focus();
  };
  return (
    <div
      className={css.squares}
      role="group"
      aria-label="Years, each put into the timeline by a click"
      onKeyDown={onKey}
    >
      {Array.from({ length: so.of }, (_, k) => (
        <button
          key={k}
          type="button"
          tabIndex={k === at ? 0 : -1}
          data-state={stateOf(byYear.get(k))}
          title={wordsOf(byYear.get(k), k)}
          aria-label={wordsOf(byYear.get(k), k)}
          onClick={() => {
            setAt(k);
            commit(`Put random year ${k + 1} into the timeline`, yearIn(doc, k));
          }}
        />
      ))}
    </div>
  );
}

/** Edits that put a random year in the place of the timeline. */
function yearIn({ backup }: ThreadDocument, year: number): Edit[] {
  const fine = (h: number) => Math.round(100 * h) / 100;
  const value = randomYear(backup!.chance!, year).map(({ from, to }) => ({
    from: fine(from / SECONDS_PER_HOUR),
    hours: Math.max(0.01, fine((to - from) / SECONDS_PER_HOUR)),
  }));
  return [
    { op: 'replace', path: ['backup', 'span'], value: 12 * HOURS_PER_MONTH },
    { op: 'replace', path: ['backup', 'outages'], value },
  ];
}

function Told({ years, error }: { years: Year[]; error: string | undefined }) {
  if (error) return <p className={css.words}>They could not be worked out: {error}</p>;
  const drops = years.filter((y) => y.drops > 0).length;
  const dips = years.filter((y) => y.dips > 0).length;
  const { low, high } = shareRange(drops, Math.max(1, years.length));
  return (
    <p className={css.words}>
      <i data-state="drops" /> <b>{drops} drop the loads</b>
      {years.length > 0 && (
        <>
          : {Math.round(100 * low)} to {Math.round(100 * high)} % a year
        </>
      )}
      <br />
      <i data-state="dips" /> {dips} dip too low at a transfer
    </p>
  );
}

/** How often and for how long mains goes, typed within a sentence. */
function Odds({ chance, commit }: { chance: Chance; commit: Commit }) {
  const set = (field: keyof Chance) => (value: number | undefined) =>
    commit('Change how often mains goes', [{ op: 'replace', path: ['backup', 'chance', field], value }]);
  return (
    <p className={css.words}>
      <EditableQuantity label="Outages a year" value={chance.perYear} unit="" onCommit={set('perYear')} />{' '}
      outages a year, half longer than{' '}
      <EditableQuantity
        label="Half longer than"
        value={chance.half}
        unit="h"
        shown={formatDuration(chance.half)}
        onCommit={set('half')}
      />
      , 1 in 6 than{' '}
      <EditableQuantity
        label="One in six longer than"
        value={chance.sixth}
        unit="h"
        shown={formatDuration(chance.sixth)}
        onCommit={set('sixth')}
      />
      . A click lays a year out above.{' '}
      <button
        type="button"
        className="link"
        onClick={() => commit('No random years any more', [{ op: 'remove', path: ['backup', 'chance'] }])}
      >
        take away
      </button>
    </p>
  );
}

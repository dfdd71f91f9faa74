import { usageOf, type CaseName, type CaseRun } from '@mile-thread/core/belief';
import { AGED, surroundingsOf, type ThreadDocument } from '@mile-thread/core/model';
import { formatDuration } from '@mile-thread/core/units';
import { Button, Progress } from 'antd';
import type { ReactNode } from 'react';
import { beliefEdit, surroundingsEdit } from '../../document/belief.ts';
import type { Commit } from '../../document/session.ts';
import { useAnswer } from '../../jobs/client.ts';
import type { useRange } from '../../jobs/useRange.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { caseEnd } from './beliefWords.ts';
import css from './belief.module.css';

type Range = ReturnType<typeof useRange>;

interface Props {
  doc: ThreadDocument;
  commit: Commit;
  range: Range;
}

/** How long it lasts new, cold, hot and aged, beside what is needed, and how sure that is. */
export function WhatIf({ doc, commit, range }: Props) {
  const { data } = useAnswer('cases', [doc]);
  const ends = endsOf(range);
  const need = doc.goals.hours;
  const most = Math.max(
    need,
    ...(data ?? []).map((c) => c.range?.[1] ?? c.hours),
    ...Object.values(ends).map((e) => e.p90),
  );
  const at = (hours: number) => `${most > 0 ? (100 * hours) / most : 0}%`;
  return (
    <section className={css.whatIf} aria-label="What if">
      <header>
        <h4>What if</h4>
        <span>bar: as figured; whisker: 10 to 90 %; dotted: need</span>
      </header>
      {data?.map((c) => {
        const met = c.hours >= need;
        const whisker = ends[c.name] ?? (c.range && { p10: c.range[0], p90: c.range[1] });
        return (
          <div className={css.case} key={c.name} data-case={c.name} title={caseEnd(doc, c)}>
            <span>{caseName(doc, c, commit)}</span>
            <div className={css.caseBar} aria-hidden="true">
              <i className={met ? css.met : css.short} style={{ width: at(c.hours) }} />
              {whisker && (
                <u
                  style={{ left: at(whisker.p10), width: `calc(${at(whisker.p90)} - ${at(whisker.p10)})` }}
                />
              )}
              <s style={{ left: at(need) }} />
            </div>
            <b className={met ? css.met : css.short}>
              {met ? '✓' : '✕'} {formatDuration(c.hours)}
              {whisker && (
                <small>
                  {formatDuration(whisker.p10)} to {formatDuration(whisker.p90)}
                </small>
              )}
            </b>
          </div>
        );
      })}
      <RangeLine {...{ doc, commit, range }} />
    </section>
  );
}

/** How sure it is, and the way to find out. */
function RangeLine({ doc, commit, range: r }: Props) {
  if (r.working) {
    return (
      <div className={css.rangeLine}>
        <Progress percent={Math.round((100 * r.done) / r.of)} size="small" aria-label="Draws done" />
        <span>
          {r.done} of {r.of} draws{r.range && `, so far ${tenths(r.range.reaches)}`}
        </span>
        <Button size="small" onClick={r.stop}>
          Cancel
        </Button>
      </div>
    );
  }
  const asRange = doc.belief?.asRange === true;
  return (
    <div className={css.rangeLine}>
      {r.error && <span role="alert">The range could not be worked out: {r.error}.</span>}
      {r.range ? (
        <span>
          {r.done < r.of && `After ${r.done} of ${r.of} draws it `}
          {r.done >= r.of && 'It '}
          {tenths(r.range.reaches)}.
        </span>
      ) : (
        !r.error && <span>How sure this is depends on how well its figures are known.</span>
      )}
      {r.done < r.of ? (
        <Button size="small" onClick={r.start}>
          Work out the range
        </Button>
      ) : (
        <Button
          size="small"
          onClick={() =>
            commit(asRange ? 'Answer without the range' : 'Answer as a range', [
              beliefEdit(doc, { asRange: asRange ? undefined : true }),
            ])
          }
        >
          {asRange ? 'Leave it out of the answers' : 'Show it in the answers'}
        </Button>
      )}
    </div>
  );
}

/** “lasts as long as needed 6 times in 10” */
function tenths(share: number): string {
  const times = Math.round(10 * share);
  if (share >= 0.995) return 'lasts as long as needed practically always';
  if (share <= 0.005) return 'practically never lasts as long as needed';
  return `lasts as long as needed ${times === 0 ? 'less than once' : times === 10 ? 'more than nine times' : times === 1 ? 'once' : `${times} times`} in 10`;
}

function endsOf(range: Range): Partial<Record<CaseName, { p10: number; p90: number }>> {
  return { ...range.cases, ...(range.range ? { usual: range.range } : {}) };
}

/** The name of a case, what is typed standing in it. */
function caseName(doc: ThreadDocument, { name }: CaseRun, commit: Commit): ReactNode {
  const around = surroundingsOf(doc);
  const air = (field: 'minAir' | 'air' | 'maxAir', label: string) => (
    <EditableQuantity
      label={label}
      value={around[field]}
      unit="°C"
      onCommit={(v) => commit(`Change the ${label.toLowerCase()}`, [surroundingsEdit(doc, { [field]: v! })])}
    />
  );
  if (name === 'usual') return <>as it stands, {air('air', 'Usual air')}</>;
  if (name === 'cold') return <>cold, {air('minAir', 'Coldest air')}</>;
  if (name === 'hot') return <>hot, {air('maxAir', 'Warmest air')}</>;
  if (name === 'worst') return <>all worst together</>;
  if (name === 'weakest') return <>one weaker group</>;
  if (name === 'later') {
    return (
      <>
        after{' '}
        <EditableQuantity
          label="Later, years"
          value={usageOf(doc).years}
          unit="years"
          onCommit={(v) => commit('Change the years of use', [beliefEdit(doc, { years: v })])}
        />{' '}
        of this use
      </>
    );
  }
  const { agedCapacity = AGED.capacity, agedResistance = AGED.resistance } = doc.belief ?? {};
  return (
    <>
      aged,{' '}
      <EditableQuantity
        label="Aged, charge left"
        value={agedCapacity * 100}
        unit="%"
        onCommit={(v) =>
          commit('Change what an aged cell holds', [beliefEdit(doc, { agedCapacity: v! / 100 })])
        }
      />{' '}
      left, Ω ×{' '}
      <EditableQuantity
        label="Aged, resistance"
        value={agedResistance}
        unit=""
        onCommit={(v) =>
          commit('Change an aged cell’s resistance', [beliefEdit(doc, { agedResistance: v! })])
        }
      />
    </>
  );
}

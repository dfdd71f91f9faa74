import type { Daily, ThreadDocument } from '@mile-thread/core/model';
import { surroundingsOf, USUAL_DAY } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { formatDuration, formatQuantity, HOURS_PER_MONTH, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { Body, Waits } from './MoreWants.tsx';
import { met, Want, type Verdict } from './Want.tsx';

interface Props {
  doc: ThreadDocument;
  run: RunResult | undefined;
  commit: Commit;
}

/** Whether the cells stand the air, where their record says what they stand. */
function airLimit(doc: ThreadDocument, field: 'minAir' | 'air' | 'maxAir'): Verdict | undefined {
  const { minDischarge, maxDischarge } = doc.pack.cell.temperature ?? {};
  const air = surroundingsOf(doc)[field];
  const K = (by: number) => formatQuantity(by, 'K', 2);
  if (field === 'minAir' && minDischarge !== undefined)
    return met(air >= minDischarge, K(Math.abs(air - minDischarge)));
  if (field === 'maxAir' && maxDischarge !== undefined)
    return met(air <= maxDischarge, K(Math.abs(maxDischarge - air)));
  return undefined;
}

/** What is wanted, each met or short by how much; silent until something computes it. */
export function Wants({ doc, run, commit }: Props) {
  const { goals, programme } = doc;
  const hours = run && run.usefulEnd.time / SECONDS_PER_HOUR;
  const done = run?.worked?.cycles;
  const shelf = run && run.idle.hoursToEnd / HOURS_PER_MONTH;
  const air = surroundingsOf(doc);
  const setAir = (field: 'minAir' | 'air' | 'maxAir') => (v: number | undefined) =>
    commit('Change the air', [
      doc.conditions
        ? { op: 'replace', path: ['conditions', field], value: v }
        : { op: 'add', path: ['conditions'], value: { ...air, [field]: v } },
    ]);
  const setDay = (daily: Daily | undefined) => {
    // What else is said of the air stays as another tab may have set it.
    if (!doc.conditions)
      return commit('Change the day', [{ op: 'add', path: ['conditions'], value: { ...air, daily } }]);
    const path = ['conditions', 'daily'];
    return commit('Change the day', [daily ? { op: 'replace', path, value: daily } : { op: 'remove', path }]);
  };
  const optional = (path: string[], had: boolean, v: number | undefined) =>
    v === undefined
      ? { op: 'remove' as const, path }
      : { op: had ? ('replace' as const) : ('add' as const), path, value: v };
  return (
    <section aria-label="Wants">
      <h4>Wants</h4>
      <Want
        name="Must last"
        verdict={
          hours !== undefined && doc.loads.length > 0
            ? met(hours >= goals.hours, formatDuration(Math.abs(goals.hours - hours)))
            : undefined
        }
      >
        <EditableQuantity
          label="Must last"
          value={goals.hours}
          unit="h"
          shown={formatDuration(goals.hours)}
          onCommit={(v) => commit('Change the need', [{ op: 'replace', path: ['goals', 'hours'], value: v }])}
        />
      </Want>
      {programme && (
        <Want
          name="Cycles"
          verdict={
            programme.wanted !== undefined && done !== undefined
              ? met(done >= programme.wanted, `${Math.abs(programme.wanted - done)}`)
              : undefined
          }
        >
          <EditableQuantity
            label="Cycles wanted"
            value={programme.wanted}
            unit=""
            optional
            {...(programme.wanted === undefined ? { shown: 'no wish' } : {})}
            onCommit={(v) =>
              commit('Change the cycles wanted', [
                optional(['programme', 'wanted'], programme.wanted !== undefined, v),
              ])
            }
          />
        </Want>
      )}
      <Want
        name="On the shelf, everything off"
        verdict={
          goals.shelfMonths !== undefined && shelf !== undefined
            ? met(
                shelf >= goals.shelfMonths,
                formatDuration(Math.abs(goals.shelfMonths - shelf) * HOURS_PER_MONTH),
              )
            : undefined
        }
      >
        <EditableQuantity
          label="On the shelf"
          value={goals.shelfMonths}
          unit="months"
          optional
          shown={
            goals.shelfMonths === undefined ? 'no wish' : formatDuration(goals.shelfMonths * HOURS_PER_MONTH)
          }
          onCommit={(v) =>
            commit('Change the shelf life', [
              optional(['goals', 'shelfMonths'], goals.shelfMonths !== undefined, v),
            ])
          }
        />
      </Want>
      <Waits {...{ doc, commit }} />
      <h4>Air around it</h4>
      {(
        [
          ['Coldest', 'minAir'],
          ['Usual', 'air'],
          ['Warmest', 'maxAir'],
        ] as const
      ).map(([name, field]) => (
        <Want key={field} name={name} verdict={airLimit(doc, field)}>
          <EditableQuantity label={`${name} air`} value={air[field]} unit="°C" onCommit={setAir(field)} />
        </Want>
      ))}
      <Want name="Day and night" verdict={undefined}>
        {air.daily ? (
          <>
            ±{' '}
            <EditableQuantity
              label="Day and night, plus and minus"
              value={air.daily.swing}
              unit="K"
              optional
              onCommit={(swing) => setDay(swing === undefined ? undefined : { ...air.daily!, swing })}
            />
            , warmest at{' '}
            <EditableQuantity
              label="Hour at which it is warmest"
              value={air.daily.warmestAt}
              unit="h"
              onCommit={(v) => setDay({ ...air.daily!, warmestAt: v! })}
            />
            , started at{' '}
            <EditableQuantity
              label="Hour at which the run starts"
              value={air.daily.startsAt}
              unit="h"
              onCommit={(v) => setDay({ ...air.daily!, startsAt: v! })}
            />
          </>
        ) : (
          <button type="button" className="link" onClick={() => setDay(USUAL_DAY)}>
            stays as it is, or not?
          </button>
        )}
      </Want>
      {air.daily && run && !run.warmth && (
        <p className="quiet">What repeats in other times than whole days is run at the mean of the day.</p>
      )}
      <Body {...{ doc, commit }} />
    </section>
  );
}

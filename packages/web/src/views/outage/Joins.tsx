import {
  meeting,
  wayOf,
  JOIN_WAYS,
  type BackupAnswers,
  type JoinOption,
  type JoinWay,
} from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import clsx from 'clsx';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { useAnswer } from '../../jobs/client.ts';
import css from './outage.module.css';

const V = (v: number) => formatQuantity(v, 'V', 3);

const NAME: Readonly<Record<JoinWay, string>> = {
  bus: 'On the battery bus',
  diode: 'Diodes',
  ideal: 'Ideal diodes',
  managed: 'Managed path',
};

const PARTS: Readonly<Record<JoinWay, string>> = {
  bus: 'the stages run from the battery all year',
  diode: 'two diodes; the charger does not give way',
  ideal: 'two controllers, two switches; the charger does not give way',
  managed: 'one controller; the charger gives way to the loads',
};

const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);

/** What a way of joining costs, in figures: what it drops and dips to, what it asks of the adapter, whether the pack fills. */
function Costs({ option }: { option: JoinOption }) {
  const { drop, lowest, wanted = 0, worst, limit, refill, feeds, watts } = option;
  const dips = lowest !== undefined && lowest < wanted;
  const asks = worst > limit * (1 + 1e-6);
  return (
    <small>
      {drop > 0 ? `drops ${formatQuantity(drop, 'V', 2)}` : 'drops nothing'}
      {lowest === undefined ? (
        ', no dip ✓'
      ) : (
        <>
          , dips to{' '}
          <b data-short={dips || undefined}>
            {formatQuantity(lowest, 'V', 4)} {dips ? '✕' : '✓'}
          </b>
        </>
      )}
      ; asks{' '}
      <b data-short={asks || undefined}>
        {formatQuantity(worst, 'A', 3)} of {formatQuantity(limit, 'A', 3)} {asks ? '✕' : '✓'}
      </b>
      ; {refill === undefined ? <b data-short>never full ✕</b> : `full in ${hours(refill)}`}
      {watts > 5e-4 && `; ${formatQuantity(watts, 'W', 2)} lost`}
      {feeds && (
        <>
          ; <b data-short>the battery feeds though mains is there ✕</b>
        </>
      )}
    </small>
  );
}

/** The four ways in which source and battery meet, to choose from. */
export function Joins({ doc, found, commit }: { doc: ThreadDocument; found: BackupAnswers; commit: Commit }) {
  const here = wayOf(doc.charging!);
  const { join } = doc.charging!;
  const { data } = useAnswer('joins', [doc]);
  const option = (way: JoinWay) => data?.find((o) => o.way === way);
  return (
    <section className={css.tool} aria-label="How adapter and battery join">
      <header>
        <h4>How adapter and battery join</h4>
      </header>
      <div role="radiogroup" aria-label="JoinWay of joining">
        {JOIN_WAYS.map((way) => (
          <button
            key={way}
            type="button"
            role="radio"
            aria-checked={way === here}
            className={clsx(css.way, way === here && css.inUse)}
            onClick={() => way !== here && commit(`Join by ${NAME[way].toLowerCase()}`, meeting(doc, way))}
          >
            <Sketch way={way} />
            <span>
              <b>{NAME[way]}</b> {way === here && <em>in use</em>}
              <small>{PARTS[way]}</small>
              {option(way) && <Costs option={option(way)!} />}
            </span>
          </button>
        ))}
      </div>
      {here !== 'bus' && join && (
        <p className={css.figures}>
          On the adapter {V(found.rail.adapter)}, on the battery {V(found.rail.battery)}: adapter’s way{' '}
          <EditableQuantity
            label="Drop on the way from the adapter"
            value={join.adapter.volts}
            unit="V"
            onCommit={(v) =>
              commit('Change the way from the adapter', [
                { op: 'replace', path: ['charging', 'join', 'adapter', 'volts'], value: v },
              ])
            }
          />
          , battery’s{' '}
          <EditableQuantity
            label="Drop on the way from the battery"
            value={join.battery.volts}
            unit="V"
            onCommit={(v) =>
              commit('Change the way from the battery', [
                { op: 'replace', path: ['charging', 'join', 'battery', 'volts'], value: v },
              ])
            }
          />
          {doc.stages.some((s) => s.id === join.at && 'outputVolts' in s) && (
            <>
              {'; '}battery’s side set to{' '}
              <EditableQuantity
                label="Volts of the battery’s side"
                value={(doc.stages.find((s) => s.id === join.at) as { outputVolts: number }).outputVolts}
                unit="V"
                onCommit={(v) =>
                  commit('Change the battery’s side', [
                    { op: 'replace', path: ['stages', join.at, 'outputVolts'], value: v },
                  ])
                }
              />
            </>
          )}
        </p>
      )}
    </section>
  );
}

/** A small circuit: adapter at the left above, battery below, load at the right. */
function Sketch({ way }: { way: JoinWay }) {
  const bus = way === 'bus';
  return (
    <svg width="118" height="54" viewBox="0 0 118 54" className={css.sketch} aria-hidden="true">
      <rect x="2" y="4" width="22" height="14" rx="2" className={css.mainsBox} />
      <rect x="44" y="34" width="8" height="16" rx="1.5" />
      <rect x="102" y="4" width="14" height="14" rx="3" />
      {bus ? (
        <>
          <path d="M24,11H40M56,11H70M86,11H102M48,11V34" />
          <circle cx="48" cy="11" r="7" />
          <circle cx="78" cy="11" r="7" />
        </>
      ) : (
        <>
          <path d="M24,11H60M74,11H102M34,11V30M34,42H44M52,42H60M74,42H90V11" />
          <circle cx="34" cy="36" r="6" />
          <circle cx="67" cy="42" r="7" />
          {way === 'managed' ? (
            <rect x="54" y="3" width="26" height="16" rx="3" className={css.boxed} />
          ) : (
            <>
              <path d="M61,6V16L72,11ZM72,6V16" className={clsx(way === 'ideal' && css.boxed)} />
              <path d="M85,24H95L90,33ZM85,33H95" className={clsx(way === 'ideal' && css.boxed)} />
            </>
          )}
        </>
      )}
    </svg>
  );
}

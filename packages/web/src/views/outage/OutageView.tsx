import {
  handOverCourse,
  suggestCharging,
  usualSources,
  type BackupAnswers,
} from '@mile-thread/core/charging';
import type { Edit, ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { Alert, Button, Spin } from 'antd';
import { useMemo } from 'react';
import { LinesPlot } from '../../charts/LinesPlot.tsx';
import type { Commit } from '../../document/session.ts';
import { useCommit } from '../../document/useCommit.ts';
import { useSession } from '../../document/useSession.ts';
import { useOutageNeedle } from '../../document/view.ts';
import { useAnswer, useBackup } from '../../jobs/client.ts';
import { Answers, toneOf, type AnswerCell } from '../../kit/Answers.tsx';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { Findings } from '../../kit/Findings.tsx';
import { COLOURS } from '../../tokens/tokens.ts';
import { Joins } from './Joins.tsx';
import { Lanes } from './Lanes.tsx';
import { neededFor } from './model.ts';
import css from './outage.module.css';

const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);
const V = (v: number) => formatQuantity(v, 'V', 4);

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
  return (
    <div className={css.view}>
      <BackupAnswersStrip {...{ doc, found, stale, commit }} />
      <div className={css.parts}>
        <div className={css.left}>
          <Lanes {...{ doc, found, commit }} />
          <div className={css.below}>
            <HoldPlot {...{ doc, found }} />
            <Dip {...{ doc, found, commit }} />
            <Recharge {...{ found }} />
          </div>
        </div>
        <div>
          <Joins {...{ doc, found, commit }} />
          <Checks {...{ doc, commit }} />
        </div>
      </div>
      <p className={css.caution}>
        Adapters are fed from mains: leave them closed and have them fitted by who may. Cells that stand full
        all year age; a float a little below full, 4.10 V of 4.2, keeps them longer.{' '}
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

function BackupAnswersStrip({ doc, found, stale, commit }: ShownProps) {
  const { holds, dip, adapter, refill, rows, result, rail } = found;
  const wanted = doc.backup!.hold;
  const of = (name: string) => holds.find((h) => h.name === name)!.seconds[0]!;
  const met = (seconds: number) => wanted === undefined || seconds >= wanted * SECONDS_PER_HOUR;
  const gap = Math.min(Infinity, ...rows.slice(0, -1).map((r) => r.gap));
  const dark = result.dark.reduce((s, d) => s + d.to - d.from, 0);
  const managed = doc.charging!.join?.kind === 'managed';
  const cells: AnswerCell[] = [
    {
      id: 'holds',
      label: 'Holds, new cells, full',
      value: hours(of('new')),
      tone: toneOf(met(of('new'))),
      note: (
        <>
          {met(of('new')) ? '✓' : '✕'} need{' '}
          <EditableQuantity
            label="Must hold"
            value={wanted}
            unit="h"
            optional
            shown={wanted === undefined ? 'wish' : formatDuration(wanted)}
            onCommit={(v) =>
              commit('Change how long it must hold', [
                v === undefined
                  ? { op: 'remove', path: ['backup', 'hold'] }
                  : { op: wanted === undefined ? 'add' : 'replace', path: ['backup', 'hold'], value: v },
              ])
            }
          />
        </>
      ),
    },
    {
      id: 'worse',
      label: 'Aged to 80 % · in the coldest air',
      value: `${hours(of('aged'))} · ${hours(of('cold'))}`,
      tone: toneOf(met(of('aged')) && met(of('cold'))),
    },
    {
      id: 'dip',
      label: 'Lowest at a transfer',
      value: dip ? V(dip.lowest) : 'no dip',
      tone: toneOf(dip && dip.wanted > 0 ? dip.lowest >= dip.wanted : true),
      note: dip ? `wanted ${V(dip.wanted)}` : `stays at ${V(rail.battery)}`,
    },
    {
      id: 'refill',
      label: 'From empty to full in',
      value: refill === undefined ? 'never' : hours(refill),
      tone: toneOf(refill !== undefined),
      note: gap < Infinity ? `shortest gap ${hours(gap)}` : '',
    },
    {
      id: 'adapter',
      label: 'Adapter, worst',
      value: formatQuantity(managed ? Math.min(adapter.worst, adapter.limit) : adapter.worst, 'A', 3),
      tone: toneOf(managed || adapter.worst <= adapter.limit * (1 + 1e-6)),
      note: `of ${formatQuantity(adapter.limit, 'A', 3)}`,
    },
    {
      id: 'dark',
      label: 'Dropped in this timeline',
      value: dark > 0 ? hours(dark) : 'never',
      tone: toneOf(dark === 0),
      note: `lowest ${Math.round(100 * result.lowest.soc)} %`,
    },
  ];
  return <Answers label="Answers on the outage" cells={cells} stale={stale} />;
}

const HOLD_LOOK = {
  new: { colour: COLOURS.pine, dash: false, word: 'new' },
  aged: { colour: COLOURS.emberInk, dash: true, word: '80 %' },
  cold: { colour: COLOURS.slateInk, dash: true, word: 'cold' },
} as const;

/** Hold time over the charge left when mains goes. */
function HoldPlot({ doc, found }: { doc: ThreadDocument; found: BackupAnswers }) {
  const wanted = doc.backup!.hold;
  const lines = useMemo(
    () => [
      ...found.holds.map(({ name, soc, seconds }) => ({
        name: HOLD_LOOK[name].word,
        x: soc.map((s) => 100 * s),
        y: seconds.map((s) => s / SECONDS_PER_HOUR),
        colour: HOLD_LOOK[name].colour,
        dash: HOLD_LOOK[name].dash,
      })),
      ...(wanted === undefined
        ? []
        : [{ name: 'wanted', x: [0, 100], y: [wanted, wanted], colour: COLOURS.madder, dash: true }]),
    ],
    [found, wanted],
  );
  const needed = wanted === undefined ? undefined : neededFor(found.holds[0]!, wanted * SECONDS_PER_HOUR);
  return (
    <section className={css.tool} aria-label="Hold time by charge">
      <header>
        <h4>Hold time, by charge when mains goes</h4>
      </header>
      <LinesPlot
        x={[]}
        xUnit=" %"
        yUnit=" h"
        lines={lines}
        label="Hold time over charge"
        file={`${doc.name} hold`}
      />
      {wanted !== undefined && (
        <p className={css.figures}>
          {needed === undefined
            ? `✕ New and full is too short for ${formatDuration(wanted)}.`
            : `New, ${formatDuration(wanted)} needs ${Math.ceil(100 * needed)} % or more.`}
        </p>
      )}
    </section>
  );
}

/** The rail as it is, with the capacitor that would do, and the least that is wanted. */
function dipLines({ task, wanted, least, lowest }: NonNullable<BackupAnswers['dip']>) {
  const course = (of: typeof task) => {
    const { seconds, volts } = handOverCourse(of);
    return { x: seconds.map((s) => 1000 * s), y: volts };
  };
  const own = course(task);
  const cured =
    lowest < wanted && Number.isFinite(least) ? course({ ...task, farads: 1.2 * least }) : undefined;
  const ends = [own.x[0]!, own.x.at(-1)!];
  return [
    { name: 'rail', ...own, colour: COLOURS.pine },
    ...(cured ? [{ name: 'with 1.2 × the least', ...cured, colour: COLOURS.saffronInk, dash: true }] : []),
    ...(wanted > 0
      ? [{ name: 'wanted', x: ends, y: [wanted, wanted], colour: COLOURS.madder, dash: true }]
      : []),
  ];
}

/** The transfer in milliseconds, as figures that are typed. */
function Dip({ doc, found, commit }: { doc: ThreadDocument; found: BackupAnswers; commit: Commit }) {
  const { dip } = found;
  const { join } = doc.charging!;
  if (!dip || !join) {
    return (
      <section className={css.tool} aria-label="The dip at a transfer">
        <header>
          <h4>The dip</h4>
        </header>
        <p className="quiet">
          {doc.charging!.meanwhile === 'path'
            ? 'Say how long the battery’s side takes and what stands on the rail.'
            : 'On the battery bus nothing is handed over: no dip.'}
        </p>
      </section>
    );
  }
  const lines = dipLines(dip);
  const set = (field: 'wake' | 'capacitance' | 'esr') => (v: number | undefined) =>
    commit('Change the transfer', [{ op: 'replace', path: ['charging', 'join', field], value: v }]);
  const fine = dip.lowest >= dip.wanted;
  return (
    <section className={css.tool} aria-label="The dip at a transfer">
      <header>
        <h4>The dip, under the heaviest load</h4>
        <span>{formatQuantity(dip.task.watts, 'W', 3)}</span>
      </header>
      <LinesPlot
        x={[]}
        xUnit=" ms"
        yUnit=" V"
        lines={lines}
        fromZero={false}
        label="The rail through a transfer"
      />
      <p className={css.figures}>
        from {V(dip.task.rail)} to{' '}
        <b data-short={!fine || undefined}>
          {V(dip.lowest)} {fine ? '✓' : '✕'}
        </b>
        , then {V(dip.settles)} on the battery; wanted {V(dip.wanted)}
      </p>
      <p className={css.figures}>
        fitted{' '}
        <EditableQuantity
          label="Capacitance"
          value={join.capacitance}
          unit="F"
          onCommit={set('capacitance')}
        />
        , <EditableQuantity label="Its resistance" value={join.esr ?? 0} unit="Ω" onCommit={set('esr')} />;
        the battery takes over in{' '}
        <EditableQuantity label="Takes over in" value={join.wake} unit="s" onCommit={set('wake')} />
      </p>
      <p className={css.figures}>
        To ride through:{' '}
        {Number.isFinite(dip.least) ? formatQuantity(dip.least, 'F', 3) : 'no capacitor does'};{' '}
        {formatQuantity(dip.inrush, 'A', 3)} surge as it takes over.
      </p>
    </section>
  );
}

/** What each outage took, and whether there is time to put it back. */
function Recharge({ found }: { found: BackupAnswers }) {
  return (
    <section className={css.tool} aria-label="Recharge against the gap after">
      <header>
        <h4>Recharge against the gap after</h4>
      </header>
      <table className={css.recharge}>
        <thead>
          <tr>
            <th scope="col">at</th>
            <th scope="col">gone</th>
            <th scope="col">left</th>
            <th scope="col">recharge</th>
            <th scope="col">gap</th>
          </tr>
        </thead>
        <tbody>
          {found.rows.map((r) => (
            <tr key={r.from} data-dark={r.dark || undefined}>
              <th scope="row">{hours(r.from)}</th>
              <td>{hours(r.to - r.from)}</td>
              <td>{r.dark ? '✕ dropped' : `${Math.round(100 * r.left)} %`}</td>
              <td>{r.recharge === undefined ? '✕ not in time' : hours(r.recharge)}</td>
              <td>{hours(r.gap)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {found.rows.length === 0 && <p className="quiet">Mains is always there.</p>}
    </section>
  );
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

import { stopVolts, suggestCharging, usualSources, type ChargeResult } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { Alert, Spin } from 'antd';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import type { Commit } from '../../document/session.ts';
import { useCommit } from '../../document/useCommit.ts';
import { useSession } from '../../document/useSession.ts';
import { useChargeNeedle } from '../../document/view.ts';
import { useAnswer, useCharge } from '../../jobs/client.ts';
import { Answers, toneOf, type AnswerCell } from '../../kit/Answers.tsx';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { Findings } from '../../kit/Findings.tsx';
import { keyIsTaken, useNeedleKeys } from '../../kit/useNeedleKeys.ts';
import { elementName } from '../../kit/words.ts';
import { Board } from './Board.tsx';
import { ChargePlot } from './ChargePlot.tsx';
import { CurrentDial } from './CurrentDial.tsx';
import { Figures } from './Figures.tsx';
import { END_REASON, isFull, KEEPS_WORDS, phaseWord, plotEnd, aboveMean } from './model.ts';
import { GroupsCharged } from './GroupsCharged.tsx';
import type { FigurePart } from './parts.ts';
import { SourceCurvePlot } from './SourceCurvePlot.tsx';
import { Sources } from './Sources.tsx';
import { Stations } from './Stations.tsx';
import { StopGauge } from './StopGauge.tsx';
import css from './charge.module.css';

/** Charging: what fills the pack, how long, how hot, whether it ends, whether it is safe. */
export function ChargeView() {
  const doc = useSession()((s) => s.doc);
  const { data, error } = useCharge(doc);
  const commit = useCommit();
  if (!doc.charging) return <Empty {...{ doc, commit }} />;
  if (error)
    return (
      <Alert type="error" showIcon title="The charge could not be computed" description={error.message} />
    );
  if (!data?.doc.charging) return <Spin className="waiting" description="Charging it" size="large" />;
  return <Shown {...data} stale={data.doc !== doc} commit={commit} />;
}

/** Sources to drop in where a thread has none yet. */
const FIRST = [1, 2, 3, 6, 10, 11];

function Empty({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const sources = usualSources();
  return (
    <section className={css.empty} aria-label="No charger yet">
      <h3>What will charge it?</h3>
      <p>
        Take a source; a charger that fits it and this {doc.pack.series}S{doc.pack.parallel}P pack comes with
        it. Every figure can be changed, and all of it undone.
      </p>
      <div>
        {FIRST.map((k) => (
          <button
            key={k}
            type="button"
            onClick={() =>
              commit(`Charge from ${sources[k]!.name}`, [
                { op: 'add', path: ['charging'], value: suggestCharging(doc, sources[k]!) },
              ])
            }
          >
            <b>{sources[k]!.name}</b>
            <span>{suggestionWords(suggestCharging(doc, sources[k]!))}</span>
          </button>
        ))}
      </div>
      <p className="quiet">{CAUTION}</p>
    </section>
  );
}

const KIND_WORD = {
  linear: 'linear',
  buck: 'steps down',
  boost: 'steps up',
  buckBoost: 'steps both ways',
  sepic: 'steps both ways',
  direct: 'straight',
};

function suggestionWords({ stage, control }: ReturnType<typeof suggestCharging>): string {
  return `${KIND_WORD[stage.kind]}, ${formatQuantity(control!.current, 'A', 2)}`;
}

const CAUTION =
  'Lithium cells can burn when charged too far, too fast or in the cold, or put in the wrong way round: a holder without a mark lets one be. Charge under watch, on what does not burn, within the cell maker’s data sheet; leave mains adapters closed.';

interface ShownProps {
  doc: ThreadDocument;
  charge: ChargeResult;
  stale: boolean;
  commit: Commit;
}

function Shown({ doc, charge, stale, commit }: ShownProps) {
  const end = plotEnd(charge);
  const { setEnd, moveTo } = useChargeNeedle.getState();
  const [part, setPart] = useState<FigurePart | undefined>();
  const placed = useRef(false);
  useEffect(() => {
    setEnd(end);
    // At its very beginning it tells little.
    if (!placed.current && useChargeNeedle.getState().time === 0) moveTo(0.4 * end);
    placed.current = true;
  }, [end, setEnd, moveTo]);
  useNeedleKeys(useChargeNeedle);
  usePhaseKey(charge);
  const open = (name: string) => {
    setPart(name as FigurePart);
    document.getElementById('charge-figures')?.scrollIntoView({ block: 'nearest', behavior: 'smooth' });
  };
  return (
    <div className={css.view}>
      <ChargeAnswers {...{ doc, charge, stale, commit }} />
      <div className={css.parts}>
        <div className={css.left}>
          <Board {...{ doc, charge, commit }} onOpen={open} />
          <ChargePlot {...{ doc, charge, end, commit }} />
          <Sources {...{ doc, commit }} />
          <Stations {...{ doc, commit }} />
          {charge.groups && <GroupsCharged {...{ doc }} groups={charge.groups} />}
        </div>
        <div className={css.right}>
          <SourceCurvePlot {...{ doc, charge, commit }} />
          <StopGauge {...{ doc, commit }} above={aboveMean(charge)} />
          <CurrentDial {...{ doc, commit }} />
          <Checks {...{ doc, commit }} onMove={moveTo} onSelect={open} />
        </div>
      </div>
      <Phases {...{ doc, charge }} />
      <Figures {...{ doc, commit }} open={part} />
      <p className={css.caution}>
        {CAUTION}{' '}
        <button
          type="button"
          className="link"
          onClick={() => commit('Take the charger away', [{ op: 'remove', path: ['charging'] }])}
        >
          Take the charger away
        </button>
      </p>
    </div>
  );
}

/** p: to where the next phase begins. */
function usePhaseKey({ phases }: ChargeResult) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'p' || keyIsTaken(event)) return;
      const { time, end, moveTo } = useChargeNeedle.getState();
      const next = phases.find((p) => p.from > time * (1 + 1e-9) && p.from < end);
      moveTo(next?.from ?? 0);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [phases]);
}

function Checks({
  doc,
  commit,
  onMove,
  onSelect,
}: {
  doc: ThreadDocument;
  commit: Commit;
  onMove(time: number): void;
  onSelect(part: string): void;
}) {
  const { data } = useAnswer('chargeChecks', [doc]);
  return (
    <section className={css.tool} aria-label="Checks of the charge">
      <header>
        <h4>Checks</h4>
      </header>
      {data?.length === 0 ? (
        <p className="quiet">Nothing found. It fills the pack as it should.</p>
      ) : (
        <Findings
          findings={data}
          onMove={onMove}
          onSelect={onSelect}
          onApply={(f) => commit(f.action!.label, f.action!.edits)}
        />
      )}
    </section>
  );
}

const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);
const wh = (joules: number) => formatQuantity(joules / SECONDS_PER_HOUR, 'Wh', 3);

function ChargeAnswers({ doc, charge, stale, commit }: ShownProps) {
  const { end, ledger, to80, hottest, grade, gradeFrom } = charge;
  const ends = isFull(end);
  const need = doc.goals.chargeHours;
  const { series, cell } = doc.pack;
  const stop = stopVolts(doc.charging!);
  const most = (stop ? stop.most / series : end.cellVolts) + aboveMean(charge);
  const stored = ledger.left - ledger.stored;
  const soft = grade === 'claimed' || grade === 'assumed';
  const cells: AnswerCell[] = [
    {
      id: 'full',
      label: 'Full in',
      value: ends ? hours(end.time) : 'never',
      tone: toneOf(
        ends && need !== undefined ? end.time / SECONDS_PER_HOUR <= need : ends ? undefined : false,
      ),
      note: (
        <>
          {need === undefined ? '' : ends && end.time / SECONDS_PER_HOUR <= need ? '✓ need ' : '✕ need '}
          <EditableQuantity
            label="Full within"
            value={need}
            unit="h"
            optional
            shown={need === undefined ? 'wish' : formatDuration(need)}
            onCommit={(v) =>
              commit('Change the time to charge', [
                v === undefined
                  ? { op: 'remove', path: ['goals', 'chargeHours'] }
                  : { op: need === undefined ? 'add' : 'replace', path: ['goals', 'chargeHours'], value: v },
              ])
            }
          />
        </>
      ),
    },
    { id: 'to80', label: 'To 80 %', value: to80 === undefined ? 'never' : hours(to80) },
    {
      id: 'ends',
      label: 'Ends by itself',
      value: ends ? `yes, at ${formatQuantity(doc.charging!.control?.terminate ?? end.amps, 'A', 3)}` : 'no',
      tone: toneOf(ends),
      note: endNote(charge),
    },
    {
      id: 'fullest',
      label: 'Fullest cell, at worst',
      value: formatQuantity(most, 'V', 4),
      tone: toneOf(most <= cell.fullVolts * (1 + 1e-6)),
      note: `${Math.round(Math.abs(1000 * (cell.fullVolts - most)))} mV ${most > cell.fullVolts ? 'over' : 'under'} ${formatQuantity(cell.fullVolts, 'V', 3)}`,
    },
    {
      id: 'hottest',
      label: 'Hottest part',
      value:
        hottest?.celsius === undefined
          ? formatQuantity(hottest?.watts ?? 0, 'W', 2)
          : formatQuantity(hottest.celsius, '°C', 3),
      note: `charger, at ${hours(hottest?.time ?? 0)}`,
    },
    {
      id: 'stored',
      label: `Stored, of ${wh(ledger.supplied ?? 0)} ${doc.charging!.source.wall ? 'from the wall' : 'supplied'}`,
      value: wh(Math.max(0, stored)),
      note: ledger.supplied ? `${Math.round((100 * stored) / ledger.supplied)} %` : '',
    },
    {
      id: 'grade',
      label: 'Rests on',
      value: grade,
      soft,
      title: `Rests on: ${gradeFrom.map((g) => `${elementName(doc, g.element)} ${g.grade}`).join(', ')}`,
    },
  ];
  return <Answers label="Answers on the charge" cells={cells} stale={stale} />;
}

/** How it ends, or what keeps it from it. */
function endNote({ end }: ChargeResult): string {
  if (end.reason === 'recordFull') return 'its record ends there, the taper is not known';
  if (isFull(end)) return `${Math.round(100 * end.soc)} % full`;
  return end.keeps ? KEEPS_WORDS[end.keeps] : END_REASON[end.reason];
}

/** Every phase: how long, how much, how much of it heat. */
function Phases({ doc, charge }: { doc: ThreadDocument; charge: ChargeResult }) {
  const rows = useMemo(() => charge.phases.slice(0, 12), [charge]);
  return (
    <section className={css.phases} aria-label="Phases of the charge">
      <header>
        <h4>Phase by phase</h4>
        <span>
          the account closes to {(100 * charge.ledger.closure).toExponential(0)} %;{' '}
          <Link to="../path">the loads are those of the path</Link>
          {charge.heldIn !== undefined &&
            `, held in ${doc.modes?.find((m) => m.id === charge.heldIn)?.name ?? charge.heldIn}: their programme is too fast to follow`}
        </span>
      </header>
      <table>
        <thead>
          <tr>
            {[
              'Phase',
              'from',
              'for',
              'to',
              'from the source',
              'kept',
              'of it',
              'heat in cells',
              'heat in charger',
            ].map((h) => (
              <th key={h} scope="col">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((p, k) => (
            <tr key={k}>
              <th scope="row">{phaseWord(p.limit)}</th>
              <td>{hours(p.from)}</td>
              <td>{hours(p.to - p.from)}</td>
              <td>{Math.round(100 * p.toSoc)} %</td>
              <td>{wh(p.supplied)}</td>
              <td>{wh(p.kept)}</td>
              <td>{p.supplied > 0 ? `${Math.round((100 * p.kept) / p.supplied)} %` : '–'}</td>
              <td>{wh(p.cellHeat)}</td>
              <td>{wh(p.chargerHeat)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

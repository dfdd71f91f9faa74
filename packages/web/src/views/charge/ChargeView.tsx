import { suggestCharging, usualSources, type ChargeResult } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Alert, Spin } from 'antd';
import { useEffect, useRef, useState } from 'react';
import type { Commit } from '../../document/session.ts';
import { useCommit } from '../../document/useCommit.ts';
import { useSession } from '../../document/useSession.ts';
import { useChargeNeedle } from '../../document/view.ts';
import { useAnswer, useCharge } from '../../jobs/client.ts';
import { Findings } from '../../kit/Findings.tsx';
import { keyIsTaken, useNeedleKeys } from '../../kit/useNeedleKeys.ts';
import { Board } from './Board.tsx';
import { ChargePlot } from './ChargePlot.tsx';
import { CurrentDial } from './CurrentDial.tsx';
import { Figures } from './Figures.tsx';
import { GroupsCharged } from './GroupsCharged.tsx';
import { aboveMean, plotEnd } from './model.ts';
import type { FigurePart } from './parts.ts';
import { Phases } from './Phases.tsx';
import { SourceCurvePlot } from './SourceCurvePlot.tsx';
import { Sources } from './Sources.tsx';
import { Stations } from './Stations.tsx';
import { StopGauge } from './StopGauge.tsx';
import { Strip } from './Strip.tsx';
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
      <Strip {...{ doc, charge, stale, commit }} />
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

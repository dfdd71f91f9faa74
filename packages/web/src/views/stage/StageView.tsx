import type { PartId, Snapshot } from '@mile-thread/core';
import {
  elementsFed,
  isConverter,
  isRegulated,
  type Converter,
  type Stage,
  type ThreadDocument,
  MODE_TABLE,
  isSizable,
} from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { Alert, App as AntApp, Button, Slider, Spin } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { fileName, saveFile } from '../../kit/files.ts';
import { useCommit } from '../../document/useCommit.ts';
import { useSession } from '../../document/useSession.ts';
import { keyIsTaken, useNeedleKeys } from '../../kit/useNeedleKeys.ts';
import { EfficiencyPlot } from '../../charts/EfficiencyPlot.tsx';
import { stageLetter } from '../../document/commands.ts';
import { useNeedle } from '../../document/view.ts';
import type { Commit } from '../../document/session.ts';
import { ask, useSizedStage, type SizedThreadStage } from '../../jobs/client.ts';
import { elementName, kindLabel } from '../../kit/words.ts';
import { NeverStarts } from '../../kit/NeverStarts.tsx';
import { FigureTable } from './FigureTable.tsx';
import { FillParts } from './FillParts.tsx';
import { LossBar } from './LossBar.tsx';
import { deed, instantOf } from './model.ts';
import { SchematicPanel } from './SchematicPanel.tsx';
import { StageAnswers } from './StageAnswers.tsx';
import { Tools } from './tools/Tools.tsx';
import { WaveformPanel } from './WaveformPanel.tsx';
import css from './stage.module.css';
import chartsCss from '../../charts/charts.module.css';

/** Stage: one stage with its real parts, over the whole run and at the needle. */
export function StageView() {
  const { stageId } = useParams();
  const session = useSession();
  const doc = session((s) => s.doc);
  const commit = useCommit();
  const stage = doc.stages.find((s) => s.id === stageId);
  const sized = useSizedStage(doc, stage ? stage.id : '');
  if (!stage) {
    return (
      <p className={css.emptyStage}>
        There is no such stage on this thread any more. <Link to="../path">Back to the path</Link>
      </p>
    );
  }
  if (sized.isError) {
    return <Alert type="error" title="This stage could not be sized" description={sized.error.message} />;
  }
  const fits = sized.data?.id === stage.id ? sized.data : undefined;
  if (!fits || !fits.doc.stages.some((s) => s.id === stage.id))
    return <Spin className="waiting" size="large" />;
  return <Sized key={stage.id} {...{ doc, stage, commit }} sized={fits} stale={fits.doc !== doc} />;
}

interface SizedProps {
  doc: ThreadDocument;
  stage: Stage;
  sized: SizedThreadStage;
  stale: boolean;
  commit: Commit;
}

function Sized({ doc, stage, sized, stale, commit }: SizedProps) {
  const [part, setPart] = useState<PartId | undefined>();
  const [tool, setTool] = useState<string | undefined>();
  const { message } = AntApp.useApp();
  const select = (p: PartId) => {
    setPart(p);
    setTool('part');
  };
  const { envelope, map } = sized;
  const time = useNeedle((s) => s.time);
  const setEnd = useNeedle((s) => s.setEnd);
  const end = envelope.snapshots.at(-1)?.time ?? 0;
  useEffect(() => setEnd(Math.max(end, 1)), [end, setEnd]);
  useNeedleKeys();
  useStageKeys(doc, stage.id);
  const instant = useMemo(() => instantOf(envelope, time), [envelope, time]);
  const path = useMemo(() => ['stages', stage.id], [stage.id]);
  const parts = isConverter(stage) ? stage.parts : undefined;
  const run = useMemo(
    () => ({ volts: envelope.snapshots.map((s) => s.vin), amps: envelope.snapshots.map((s) => s.iout) }),
    [envelope],
  );
  const netlist = async (converter: Converter, at: Snapshot) => {
    try {
      const { vin, vout, iout } = at;
      const text = await ask('circuit', [converter, { vin, vout, iout }]);
      saveFile(fileName(`${doc.name} ${stage.name}`, 'cir'), text, 'text/plain');
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  const fed = elementsFed(doc, stage.id).map((id) => elementName(doc, id).toLowerCase());
  const from = stage.from === 'pack' ? 'from the pack' : `from ${elementName(doc, stage.from)}`;
  return (
    <div className={css.stageView}>
      <StageAnswers stage={stage} sized={sized} stale={stale} />
      {sized.never && <NeverStarts {...{ doc, reason: sized.never, commit }} above />}
      <div className={css.stageMain}>
        <section className={css.stageLeft} aria-label="Parts">
          <header className={css.stageHead}>
            <h2>
              {kindLabel(doc, stage.id)} {stageLetter(doc, stage.id)} · {stage.name}
              {isRegulated(stage) && <span> {formatQuantity(stage.outputVolts, 'V')}</span>}
            </h2>
            {isConverter(stage) && instant?.period && (
              <Button size="small" className={css.netlist} onClick={() => void netlist(stage, instant)}>
                Netlist
              </Button>
            )}
            <p>{instant ? deed(stage, instant) : `${stage.name} gets nothing in this run`}</p>
          </header>
          <SchematicPanel
            {...{ stage, path, instant, commit, from }}
            to={fed.length > 0 ? `to ${fed.join(', ')}` : 'to nothing yet'}
            selected={part}
            onSelect={select}
          />
          {isConverter(stage) && !parts && <FillParts {...{ stage, path, envelope, commit }} />}
          <FigureTable {...{ envelope, instant, end }} selected={part} onSelect={select} />
          <WaveformPanel instant={instant} />
        </section>
        <section className={css.stageRight} aria-label="Efficiency, losses and tools">
          <h4>Efficiency over input and load, with this run’s path</h4>
          <EfficiencyPlot
            {...map}
            run={run}
            label={`Efficiency of ${stage.name} over input volts and output current`}
            {...(instant ? { needle: { volts: instant.vin, amps: instant.iout } } : {})}
          />
          <p className={chartsCss.mapKey}>
            <span>this run, full to empty</span>
            <span className={chartsCss.limitLine}>most it can give</span>
          </p>
          <NeedleRow end={end} words={instant ? MODE_TABLE[instant.mode].phrase : ''} />
          <LossBar instant={instant} />
          <Tools {...{ doc, stage, path, sized, part, commit }} open={tool} onOpen={setTool} />
        </section>
      </div>
      {parts && !parts.used && (
        <p className={css.unusedParts} role="status">
          The run-down of this thread uses the stated loss, not these parts.
          <Button
            size="small"
            onClick={() =>
              commit(`Use the parts of ${stage.name}`, [
                { op: 'replace', path: [...path, 'parts', 'used'], value: true },
              ])
            }
          >
            Use the parts
          </Button>
        </p>
      )}
    </div>
  );
}

/** [ and ] go through the stages. */
function useStageKeys(doc: ThreadDocument, id: string) {
  const navigate = useNavigate();
  useEffect(() => {
    const order = doc.stages.filter(isSizable).map((s) => s.id);
    const onKey = (event: KeyboardEvent) => {
      if (keyIsTaken(event)) return;
      const step = { '[': -1, ']': 1 }[event.key];
      if (step === undefined || order.length === 0) return;
      const next = order[(order.indexOf(id) + step + order.length) % order.length]!;
      void navigate(`../sizing/${next}`);
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [doc, id, navigate]);
}

/** The needle of this view: the same instant as on the path. */
function NeedleRow({ end, words }: { end: number; words: string }) {
  const time = useNeedle((s) => s.time);
  const moveTo = useNeedle((s) => s.moveTo);
  const clock = formatDuration(time / SECONDS_PER_HOUR);
  return (
    <div className={css.needleRow}>
      <span>full</span>
      <Slider
        min={0}
        max={Math.max(1, end)}
        step={Math.max(1, end) / 400}
        value={Math.min(time, end)}
        onChange={moveTo}
        tooltip={{ open: false }}
        ariaLabelForHandle="Needle: instant of the run"
        ariaValueTextFormatterForHandle={() => `${clock}, ${words}`}
      />
      <span>empty</span>
      <b>{clock}</b>
    </div>
  );
}

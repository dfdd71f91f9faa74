import { formatDuration, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { App as AntApp, Alert, Button, Spin } from 'antd';
import { lazy, memo, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { fileName, saveFile } from '../../kit/files.ts';
import { useNavigate } from 'react-router';
import { useCommit } from '../../document/useCommit.ts';
import { useSession } from '../../document/useSession.ts';
import { useNeedleKeys } from '../../kit/useNeedleKeys.ts';
import { NeedleOverlay } from '../../charts/NeedleOverlay.tsx';
import { RunPlot } from '../../charts/RunPlot.tsx';
import { addLoad, addStage, stageLetter } from '../../document/commands.ts';
import { modeAt } from '../../document/programme.ts';
import type { Commit } from '../../document/session.ts';
import { layoutPath } from '../../drawing/layout.ts';
import { pixelsPerWatt } from '../../drawing/ribbon.ts';
import { ask, useComputed } from '../../jobs/client.ts';
import { PathAnswers } from './PathAnswers.tsx';
import { PathFindings } from './PathFindings.tsx';
import { KEY_STEP, useNeedle, useSelection } from '../../document/view.ts';
import { Notes } from './Notes.tsx';
import { NeverStarts } from '../../kit/NeverStarts.tsx';
import { NodeTable } from './NodeTable.tsx';
import { PathDrawing } from './PathDrawing.tsx';
import { plotEnd } from '../../charts/timeAxis.ts';
import { runPlotModel } from './runPlotModel.ts';
import { largestFlows, type Instant } from '../../drawing/sample.ts';
import { AtNeedle } from '../../charts/AtNeedle.tsx';
import { elementName, kindLabel } from '../../kit/words.ts';
import { ModeChooser } from './ModeChooser.tsx';
import { useKnotKeys } from './useKnotKeys.ts';
import { useWorstKey } from '../../kit/useWorstKey.ts';
import { type StageKind, type ThreadDocument, isSizable } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import css from './path.module.css';
import sideCss from '../../kit/side.module.css';
import chartsCss from '../../charts/charts.module.css';

// The inspectors' forms come when something is selected.
const StageInspector = lazy(() => import('./NodeInspector.tsx').then((m) => ({ default: m.StageInspector })));
const LoadInspector = lazy(() => import('./NodeInspector.tsx').then((m) => ({ default: m.LoadInspector })));
const PackInspector = lazy(() => import('./PackInspector.tsx').then((m) => ({ default: m.PackInspector })));

/** Path: the thread drawn from cells to loads, its run-down, and what is to be said about it. */
export function PathView() {
  const store = useSession();
  const doc = store((s) => s.doc);
  const commit = useCommit();
  const { data, error } = useComputed(doc);
  if (error) {
    return (
      <Alert
        type="error"
        showIcon
        title="The run could not be computed"
        description={`${error.message}. Undo the last change; the thread itself is safe.`}
      />
    );
  }
  if (!data) return <Spin className="waiting" description="Running it down" size="large" />;
  return <PathBoard {...data} commit={commit} />;
}

interface BoardProps {
  doc: ThreadDocument;
  run: RunResult;
  commit: Commit;
}

/** Drawn anew for a new run, not for every change on the way to it. */
const PathBoard = memo(function PathBoard({ doc, run, commit }: BoardProps) {
  const { message } = AntApp.useApp();
  const picked = useSelection((s) => s.selected);
  const setPicked = useSelection((s) => s.select);
  const exists =
    picked &&
    (picked === 'pack' ||
      picked === 'protection' ||
      [...doc.stages, ...doc.loads].some((x) => x.id === picked));
  const selected = exists ? picked : undefined;
  const board = useRef<HTMLDivElement>(null);
  const [table, setTable] = useState(false);
  const [size, setSize] = useState({ width: 960, height: 360 });
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      setSize({ width: Math.floor(width), height: Math.floor(height) });
    });
    watch.observe(board.current!);
    return () => watch.disconnect();
  }, []);

  const { setEnd, moveTo } = useNeedle.getState();
  const end = plotEnd(run);
  useEffect(() => setEnd(end), [end, setEnd]);

  const layout = useMemo(() => layoutPath(doc, size.width, size.height), [doc, size]);
  const [fit, setFit] = useState(false);
  /** what shows the whole drawing at once */
  const whole = Math.min(1, size.width / layout.width, size.height / layout.height);
  // A tree taller than the board opens with its trunk in the middle.
  const { y: trunkY } = layout.trunk;
  useEffect(() => {
    board.current!.scrollTop = trunkY - size.height / 2;
  }, [trunkY, size.height]);
  const scale = useMemo(() => {
    // Where nothing runs, the board's own draw is no ribbon.
    if (run.deadEnd.time === 0) return 0;
    const { trunk, branch } = largestFlows(doc, run);
    return pixelsPerWatt(layout, trunk, branch);
  }, [doc, run, layout]);
  const focus = doc.stages.some((s) => s.id === selected) ? selected : undefined;
  const plot = useMemo(() => runPlotModel(doc, run, focus), [doc, run, focus]);

  const select = useCallback(
    (id: string) => {
      const part = { cells: 'pack', fuse: 'protection', leads: 'protection' }[id] ?? id;
      setPicked(useSelection.getState().selected === part ? undefined : part);
    },
    [setPicked],
  );
  const navigate = useNavigate();
  const open = (id: string) => {
    if (doc.stages.some((s) => s.id === id && isSizable(s))) void navigate(`../sizing/${id}`);
  };
  const add = (from: string, what: string) => {
    const { id, edits } = what === 'load' ? addLoad(doc, from) : addStage(doc, what as StageKind, from);
    if (commit(what === 'load' ? 'Add a load' : `Add a ${what} stage`, edits).length === 0) setPicked(id);
  };
  const netlist = async () => {
    try {
      const text = await ask('pathCircuit', [doc, useNeedle.getState().time]);
      saveFile(fileName(doc.name, 'cir'), text, 'text/plain');
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  useNeedleKeys();
  useWorstKey(doc);
  useKnotKeys(doc, selected, setPicked);

  const title = selected && `${kindLabelOf(doc, selected)}`;
  return (
    <div className={css.pathView}>
      <div className={css.answers}>
        <PathAnswers doc={doc} run={run} commit={commit} />
      </div>
      <div className={css.pathMain}>
        <section className={css.board} ref={board} aria-label="Path at the needle" tabIndex={-1}>
          <div style={fit ? { zoom: whole } : undefined}>
            <AtNeedle doc={doc} run={run}>
              {(instant) => (
                <PathDrawing
                  {...{ doc, layout, scale, instant, selected, commit }}
                  onSelect={select}
                  onOpen={open}
                  onAdd={add}
                />
              )}
            </AtNeedle>
          </div>
          {whole < 1 && (
            <button type="button" className={css.fit} onClick={() => setFit(!fit)}>
              {fit ? '100 %' : 'Fit'}
            </button>
          )}
          {doc.loads.length === 0 && (
            <p className={css.emptyPath}>Hang a load on the pack with the + to see it run down.</p>
          )}
        </section>
        <section className={css.run} aria-label="Run-down">
          <header>
            <h4>Pack voltage over the run</h4>
            <span>drag the needle, or ← → with Shift for ten steps</span>
            <ModeChooser doc={doc} run={run} />
            <Button
              size="small"
              className={css.netlist}
              title="The path at the needle as a SPICE circuit"
              onClick={() => void netlist()}
            >
              Netlist
            </Button>
          </header>
          {run.deadEnd.time === 0 ? (
            <NeverStarts doc={doc} reason={run.deadEnd.reason} commit={commit} />
          ) : (
            <div className={chartsCss.runArea}>
              <RunPlot
                {...plot}
                label={`Pack voltage over ${formatDuration(end / SECONDS_PER_HOUR)}, loaded and at rest`}
              />
              <AtNeedle doc={doc} run={run}>
                {(instant) => (
                  <NeedleOverlay
                    time={instant.time}
                    end={end}
                    keyStep={KEY_STEP}
                    reading={needleReading(doc, instant)}
                    onMove={moveTo}
                  />
                )}
              </AtNeedle>
            </div>
          )}
        </section>
      </div>
      <aside className={sideCss.side}>
        {title && (
          <section aria-label={`Selected: ${title}`}>
            <h4>
              {title}
              <button
                type="button"
                className="link quiet-link"
                onClick={() => setPicked(undefined)}
                aria-label="Close the inspector"
              >
                close
              </button>
            </h4>
            <Suspense fallback={null}>
              {selected === 'pack' || selected === 'protection' ? (
                <PackInspector doc={doc} part={selected} commit={commit} />
              ) : doc.stages.some((s) => s.id === selected) ? (
                <StageInspector
                  key={selected}
                  id={selected!}
                  {...{ doc, run, commit }}
                  onRemoved={() => setPicked(undefined)}
                />
              ) : (
                <LoadInspector
                  key={selected}
                  id={selected!}
                  {...{ doc, run, commit }}
                  onRemoved={() => setPicked(undefined)}
                />
              )}
            </Suspense>
          </section>
        )}
        <section aria-label="Findings">
          <h4>Checks over the run</h4>
          <PathFindings {...{ commit, select }} />
        </section>
        <section aria-label="Notes" className={css.notes}>
          <h4>Notes</h4>
          <Notes notes={doc.notes} commit={commit} />
        </section>
        <details className={css.nodeDetails} onToggle={(e) => setTable(e.currentTarget.open)}>
          <summary>Every node at the needle, as a table</summary>
          {table && (
            <AtNeedle doc={doc} run={run}>
              {(instant) => <NodeTable doc={doc} instant={instant} />}
            </AtNeedle>
          )}
        </details>
      </aside>
    </div>
  );
});

/** What stands beside the needle: when, how full, and how much of what the cells give arrives. */
function needleReading(doc: ThreadDocument, instant: Instant): [string, string] {
  const mode = modeAt(doc, instant.time);
  const into = instant.flows.pack.inside;
  const delivered = [...instant.flows.loads.values()].reduce((a, b) => a + b, 0);
  return [
    `${formatDuration(instant.time / SECONDS_PER_HOUR)} · ${Math.round(instant.soc * 100)} % left`,
    `${mode ? `${mode.name} · ` : ''}${into > 0 ? `path efficiency ${((100 * delivered) / into).toFixed(1)} %` : 'nothing flows'}`,
  ];
}

function kindLabelOf(doc: ThreadDocument, id: string): string {
  if (id === 'pack') return 'Cells and pack';
  if (id === 'protection') return 'Between cells and path';
  const stage = doc.stages.some((s) => s.id === id);
  return stage
    ? `${kindLabel(doc, id)} ${stageLetter(doc, id)} · ${elementName(doc, id)}`
    : `Load · ${elementName(doc, id)}`;
}

import { claimedAmps, moduleTest, takeTest } from '@mile-thread/core/bench';
import { isConverter, type Converter, type Edit, type ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Button } from 'antd';
import { useState } from 'react';
import { LinesPlot } from '../../charts/LinesPlot.tsx';
import type { Commit } from '../../document/session.ts';
import { QuietSelect } from '../../kit/SelectRow.tsx';
import { COLOURS } from '../../tokens/tokens.ts';
import { taking } from './model.ts';
import { testStage, type StepRow } from '../../atBench/loadSteps.ts';
import { stopAll, useBench } from '../../atBench/connections.ts';
import css from './instruments.module.css';

const CLAIM = { listing: 'its listing', chip: 'its chip', stage: 'the thread' } as const;

/** A module loaded in steps against what is claimed of it: where it lets go, and a measured table of its losses. */
export function StepTest({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const modules = doc.stages.filter(isConverter);
  const [id, setId] = useState(modules[0]?.id);
  const [rows, setRows] = useState<{ of: string; list: StepRow[] }>();
  const [testing, setTesting] = useState(false);
  const busy = useBench((s) => s.recording !== undefined);
  const stage = modules.find((s) => s.id === id) ?? modules[0];
  if (!stage) return null;
  const own = rows?.of === stage.id ? [...rows.list].sort((a, b) => a.outputAmps - b.outputAmps) : [];
  const found = moduleTest(stage, own);
  const run = async () => {
    setTesting(true);
    setRows({ of: stage.id, list: [] });
    const about = { ...stage, ownAmps: stage.loss.quiescentCurrent };
    await testStage(doc, about, claimedAmps(stage), (row) =>
      setRows((before) => ({ of: stage.id, list: [...(before?.list ?? []), row] })),
    );
    setTesting(false);
  };
  return (
    <div className={css.steps} role="group" aria-label="Step test">
      <header>
        <h5>Step test</h5>
        <QuietSelect
          label="Module to test"
          value={stage.id}
          options={modules.map((s) => ({ value: s.id, label: s.name }))}
          onChange={setId}
        />
        <span>up to {formatQuantity(1.2 * claimedAmps(stage), 'A', 3)}, a fifth beyond what is claimed</span>
        {testing ? (
          <Button size="small" danger onClick={() => void stopAll()}>
            ■ Stop
          </Button>
        ) : (
          <Button size="small" disabled={busy} onClick={() => void run()}>
            Load it in steps
          </Button>
        )}
      </header>
      {own.length > 1 && (
        <div className={css.stepPlot}>
          <LinesPlot
            x={own.map((r) => r.outputAmps)}
            xUnit=" A"
            yUnit=" V"
            fromZero={false}
            legend={false}
            lines={[{ name: 'output', y: own.map((r) => r.outputVolts), colour: COLOURS.violet }]}
            label={`${stage.name}, volts over load`}
          />
        </div>
      )}
      {found && !testing && <Found {...{ doc, stage, found, commit }} />}
    </div>
  );
}

/** What it held is a reading of the plan too, where it let go. */
function readingOf(doc: ThreadDocument, { id }: Converter, { amps, letGo }: FoundProps['found']): Edit[] {
  if (letGo === undefined) return [];
  return taking(doc, `steps:${id}`, { value: amps, at: new Date().toISOString(), note: 'step test' });
}

interface FoundProps {
  doc: ThreadDocument;
  stage: Converter;
  found: NonNullable<ReturnType<typeof moduleTest>>;
  commit: Commit;
}

function Found({ doc, stage, found, commit }: FoundProps) {
  const { amps, watts, letGo, claims, points } = found;
  return (
    <>
      <p>
        {letGo === undefined
          ? `Held its volts up to ${formatQuantity(amps, 'A', 3)}, ${formatQuantity(watts, 'W', 3)}.`
          : `Let go at ${formatQuantity(letGo, 'A', 3)}; held ${formatQuantity(amps, 'A', 3)}, ${formatQuantity(watts, 'W', 3)}.`}
      </p>
      <ul>
        {claims.map((c) => (
          <li key={c.by} data-short={(letGo !== undefined && c.held < 0.97) || undefined}>
            {CLAIM[c.by]} says {formatQuantity(c.amps, 'A', 3)}, {formatQuantity(c.watts, 'W', 3)}:{' '}
            {letGo === undefined && c.held < 1
              ? 'not reached'
              : `${c.held >= 0.97 ? '✓' : '✕'} ${Math.round(100 * c.held)} % of it`}
          </li>
        ))}
      </ul>
      <Button
        size="small"
        disabled={points.length < 2}
        onClick={() =>
          commit(`Take what was measured of ${stage.name}`, [
            ...takeTest(doc, stage.id, found),
            ...readingOf(doc, stage, found),
          ])
        }
      >
        Take {points.length} points as its measured table
      </Button>
    </>
  );
}

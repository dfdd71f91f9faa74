import { planCsv, type PlanStep } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import { Alert, Button, Spin } from 'antd';
import { useMemo, useRef, useState } from 'react';
import type { Commit } from '../../document/session.ts';
import { useCommit } from '../../document/useCommit.ts';
import { useSession } from '../../document/useSession.ts';
import { useAnswer } from '../../jobs/client.ts';
import { Answers, toneOf, type AnswerCell } from '../../kit/Answers.tsx';
import { saveFile, fileName } from '../../kit/files.ts';
import { Blank } from './Blank.tsx';
import { Explains } from './Explains.tsx';
import { FilledIn } from './FilledIn.tsx';
import { PART_WORD, rowsOf, taking, told, verdictOf, type Row } from './model.ts';
import { Probes } from './Probes.tsx';
import { RangeGauge } from './RangeGauge.tsx';
import { Step } from './Step.tsx';
import css from './bench.module.css';

/** Bench: what to measure in safe order, what was, and how it stands to what was predicted. */
export function BenchView() {
  const doc = useSession()((s) => s.doc);
  const commit = useCommit();
  const { data, error } = useAnswer('plan', [doc]);
  if (error) {
    return <Alert type="error" showIcon title="No plan could be made" description={error.message} />;
  }
  if (!data) return <Spin className="waiting" description="Working out what to expect" size="large" />;
  return <Shown {...{ doc, commit }} plan={data} />;
}

function Shown({ doc, plan, commit }: { doc: ThreadDocument; plan: PlanStep[]; commit: Commit }) {
  const rows = useMemo(() => rowsOf(plan, doc), [plan, doc]);
  const [at, setAt] = useState<string>();
  const list = useRef<HTMLOListElement>(null);
  const here = rows.find((r) => r.step.id === at) ?? rows.find((r) => r.found.verdict === 'open') ?? rows[0]!;
  const next = (after: string) => {
    const blanks = [...list.current!.querySelectorAll<HTMLElement>('[data-blank]')];
    const k = blanks.findIndex((b) => b.dataset.blank === after);
    blanks[k + 1]?.focus();
  };
  const take = (step: PlanStep) => (value: number) =>
    commit(`Read ${step.title}`, taking(doc, step.id, value, new Date().toISOString())).length === 0;
  return (
    <div className={css.view}>
      <Strip rows={rows} />
      <div className={css.parts}>
        <section aria-label="Measuring plan">
          <header>
            <h4>Measuring plan</h4>
            <span>in safe order; Enter takes a reading and goes on, it is kept at once</span>
            <FilledIn {...{ doc, plan, commit }} />
            <Button
              size="small"
              onClick={() => saveFile(fileName(doc.name, 'plan.csv'), planCsv(plan), 'text/csv')}
            >
              Plan as CSV
            </Button>
          </header>
          <ol ref={list}>
            {rows.map((row, k) => (
              <PlanRow
                key={row.step.id}
                {...{ doc, row }}
                number={k + 1}
                first={k === 0 || rows[k - 1]!.step.part !== row.step.part}
                here={row === here}
                onPick={() => setAt(row.step.id)}
                onTake={take(row.step)}
                onNext={() => next(row.step.id)}
              />
            ))}
          </ol>
        </section>
        <aside className={css.beside}>
          <Step {...{ doc, commit }} row={here} />
          <Explains {...{ doc, commit }} />
        </aside>
      </div>
    </div>
  );
}

interface PlanRowProps {
  doc: ThreadDocument;
  row: Row;
  number: number;
  first: boolean;
  here: boolean;
  onPick(): void;
  onTake(value: number): boolean;
  onNext(): void;
}

function PlanRow({ doc, row, number, first, here, onPick, onTake, onNext }: PlanRowProps) {
  const { step, found } = row;
  const { predicted: p, unit } = step;
  return (
    <li data-here={here || undefined} data-verdict={found.verdict} onFocus={onPick} onClick={onPick}>
      {first && <h5>{PART_WORD[step.part]}</h5>}
      <Probes {...{ doc, step }} />
      <div>
        <b>
          {number} · {step.title}
        </b>
        {step.caution && <i title={step.caution}>▲</i>}
        {p && (
          <span className={css.range}>
            <b>{told(p.value, unit)}</b> {told(p.p10, unit)} to {told(p.p90, unit)}
          </span>
        )}
        <span className={css.entry}>
          {found.value !== undefined && <strong>{told(found.value, unit)}</strong>}
          <Blank {...{ step, onTake, onNext }} />
          <em>{verdictOf(row)}</em>
        </span>
      </div>
      <RangeGauge step={step} readings={(doc.readings ?? []).filter((r) => r.step === step.id)} />
    </li>
  );
}

function Strip({ rows }: { rows: Row[] }) {
  const of = (verdict: Row['found']['verdict']) => rows.filter((r) => r.found.verdict === verdict);
  const open = of('open');
  const [off, odds] = [of('off'), of('atOdds')];
  const worst = [...off].sort((a, b) => Math.abs(b.found.off!) - Math.abs(a.found.off!))[0];
  const next = open[0];
  const cells: AnswerCell[] = [
    {
      id: 'done',
      label: 'Measured',
      value: `${rows.length - open.length} of ${rows.length}`,
      note: open.length === 0 ? '✓ all of it' : `${open.length} to go`,
    },
    {
      id: 'off',
      label: 'Off their range',
      value: off.length === 0 ? 'none' : String(off.length),
      tone: toneOf(off.length === 0),
      ...(worst ? { note: worst.step.title } : {}),
    },
    {
      id: 'odds',
      label: 'At odds with each other',
      value: odds.length === 0 ? 'none' : String(odds.length),
      tone: toneOf(odds.length === 0),
    },
    {
      id: 'next',
      label: 'Next',
      value: next ? next.step.title : 'nothing',
      ...(next?.step.predicted ? { note: `expect ${told(next.step.predicted.value, next.step.unit)}` } : {}),
    },
  ];
  return <Answers label="Answers of the bench" cells={cells} stale={false} />;
}

import { planCsv, type PlanStep } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import { Alert, Button, Spin } from 'antd';
import { useMemo, useRef, useState } from 'react';
import { useParams } from 'react-router';
import type { Commit } from '../../document/session.ts';
import { useCommit } from '../../document/useCommit.ts';
import { useSession } from '../../document/useSession.ts';
import { useAnswer } from '../../jobs/client.ts';
import type { Plan } from '../../jobs/questions/bench.ts';
import { useExplanation } from '../../jobs/useExplanation.ts';
import { saveFile, fileName } from '../../kit/files.ts';
import { Curves } from './Curves.tsx';
import { Explains } from './Explains.tsx';
import { FilledIn } from './FilledIn.tsx';
import { Grading } from './Grading.tsx';
import { Instruments } from './Instruments.tsx';
import { rowsOf, taking } from './model.ts';
import { PlanRow } from './PlanRow.tsx';
import { Schools } from './Schools.tsx';
import { trimStage } from '../../atBench/hands.ts';
import { canRead, readStep, type Taken } from '../../atBench/readStep.ts';
import { useBench } from '../../atBench/connections.ts';
import { Step } from './Step.tsx';
import { Strip } from './Strip.tsx';
import css from './bench.module.css';

/** Bench: what to measure in safe order, what was, how it stands to what was predicted, and what is learnt of it. */
export function BenchView() {
  const session = useSession();
  const doc = session((s) => s.doc);
  const commit = useCommit();
  const { data, error } = useAnswer('plan', [doc]);
  if (error) {
    return <Alert type="error" showIcon title="No plan could be made" description={error.message} />;
  }
  if (!data) return <Spin className="waiting" description="Working out what to expect" size="large" />;
  return <Shown {...{ doc, commit }} present={() => session.getState().doc} plan={data} />;
}

interface ShownProps {
  doc: ThreadDocument;
  /** the document as it is when something that took a while has come */
  present(): ThreadDocument;
  plan: Plan;
  commit: Commit;
}

function Shown({ doc, present, plan, commit }: ShownProps) {
  const { id = '' } = useParams();
  const rows = useMemo(() => rowsOf(plan.steps, doc), [plan, doc]);
  const [at, setAt] = useState<string>();
  const list = useRef<HTMLOListElement>(null);
  const explaining = useExplanation(doc);
  const meter = useBench(
    (s) => s.threadId === id && s.connections.meter !== undefined && s.recording === undefined,
  );
  const here = rows.find((r) => r.step.id === at) ?? rows.find((r) => r.found.verdict === 'open') ?? rows[0]!;
  const next = (after: string) => {
    const blanks = [...list.current!.querySelectorAll<HTMLElement>('[data-blank]')];
    const k = blanks.findIndex((b) => b.dataset.blank === after);
    blanks[k + 1]?.focus();
  };
  const take = (step: PlanStep) => (value: number, more: Omit<Taken, 'value'> | undefined) =>
    commit(`Read ${step.title}`, taking(present(), step.id, { value, ...more, at: new Date().toISOString() }))
      .length === 0;
  const read = (step: PlanStep) => async () => {
    const taken = await readStep(doc, step);
    if (!taken) return;
    const { value, ...more } = taken;
    if (take(step)(value, more)) next(step.id);
  };
  // What was read of it before no longer holds: it is in the history, one step back.
  const trim = (step: PlanStep) => async () => {
    if (!(await trimStage(step.trims!, step.predicted!.value))) return;
    const taken = await readStep(doc, step);
    if (!taken) return;
    const before = (present().readings ?? []).filter((r) => r.step !== step.id);
    const reading = { step: step.id, ...taken, at: new Date().toISOString(), note: 'trimmed' };
    commit(`Trim ${step.title}`, [{ op: 'replace', path: ['readings'], value: [...before, reading] }]);
  };
  const simulated = useBench((s) => s.standIns !== undefined);
  return (
    <div className={css.view}>
      <Strip {...{ doc, rows, explaining }} />
      <div className={css.scroll}>
        <div className={css.parts}>
          <section aria-label="Measuring plan" className={css.plan}>
            <header>
              <h4>Measuring plan</h4>
              <span>in safe order · Enter keeps a reading and goes on</span>
              <FilledIn {...{ doc, commit }} plan={plan.steps} />
              <Button
                size="small"
                title="The plan with blanks, to fill in elsewhere"
                onClick={() => saveFile(fileName(doc.name, 'plan.csv'), planCsv(plan.steps), 'text/csv')}
              >
                As CSV
              </Button>
            </header>
            {plan.leftOut !== undefined && (
              <p role="note" className={css.leftOut}>
                {plan.leftOut}
              </p>
            )}
            <ol ref={list}>
              {rows.map((row, k) => (
                <PlanRow
                  key={row.step.id}
                  {...{ doc, row }}
                  number={k + 1}
                  first={k === 0 || rows[k - 1]!.step.part !== row.step.part}
                  here={row === here}
                  onPick={() => setAt(row.step.id)}
                  onTake={(value) => take(row.step)(value, undefined)}
                  onNext={() => next(row.step.id)}
                  onRead={meter && canRead(row.step) ? read(row.step) : undefined}
                />
              ))}
            </ol>
            <Step
              {...{ doc, commit }}
              row={here}
              onTrim={simulated && meter && here.step.trims !== undefined ? trim(here.step) : undefined}
            />
          </section>
          <Curves {...{ doc, present, commit, explaining }} course={plan.course} threadId={id} />
          <Explains {...{ doc, commit, explaining }} plan={plan.steps} />
        </div>
        <div className={css.below}>
          <Instruments {...{ doc, commit }} threadId={id} />
          <Grading {...{ doc, commit }} />
        </div>
        <Schools {...{ doc, commit }} />
        <p className={css.caution}>
          Lithium cells, mains adapters, heat: work with one hand, glasses on, a fuse in the lead; local
          codes, the cell maker’s data sheet and who is licensed for it have the last word.
        </p>
      </div>
    </div>
  );
}

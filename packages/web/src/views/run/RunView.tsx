import type { LifeRange } from '@mile-thread/core/belief';
import { modeName, type ThreadDocument } from '@mile-thread/core/model';
import { END_WORDS, type RunResult } from '@mile-thread/core/solve';
import { formatDuration, formatQuantity, formatShelf, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { Alert, App as AntApp, Button, Spin } from 'antd';
import { useMemo } from 'react';
import { useCommit } from '../../document/useCommit.ts';
import { useSession } from '../../document/useSession.ts';
import { ask, useAnswer, useComputed } from '../../jobs/client.ts';
import { useRange } from '../../jobs/useRange.ts';
import { Answers, toneOf, type AnswerCell } from '../../kit/Answers.tsx';
import { fileName, saveFile } from '../../kit/files.ts';
import { NeverStarts } from '../../kit/NeverStarts.tsx';
import { ToolTable } from '../../kit/ToolTable.tsx';
import { elementName, endWords, likely } from '../../kit/words.ts';
import { CyclePane } from './CyclePane.tsx';
import { Idle } from './Idle.tsx';
import { LedgerThread } from './LedgerThread.tsx';
import { accountsOf, lostIn, type Account } from './model.ts';
import { RunLanes } from './RunLanes.tsx';
import { ToMeasure } from './ToMeasure.tsx';
import { WhatIf } from './WhatIf.tsx';
import { Worst } from './Worst.tsx';
import css from './run.module.css';

const wh = (joules: number) => formatQuantity(joules / SECONDS_PER_HOUR, 'Wh', 3);

/** Run-down: how long, where every watt-hour went, what each mode had, what drains it when all is off. */
export function RunView() {
  const doc = useSession()((s) => s.doc);
  const { data, error } = useComputed(doc);
  if (error)
    return <Alert type="error" showIcon title="The run could not be computed" description={error.message} />;
  if (!data) return <Spin className="waiting" description="Running it down" size="large" />;
  return <Shown {...data} stale={data.doc !== doc} />;
}

function Shown({ doc, run, stale }: { doc: ThreadDocument; run: RunResult; stale: boolean }) {
  const commit = useCommit();
  const { message } = AntApp.useApp();
  const accounts = useMemo(() => accountsOf(doc, run.ledger), [doc, run]);
  const never = run.deadEnd.time === 0;
  const range = useRange(doc, doc.belief?.asRange === true && !stale && !never);
  const csv = async () => {
    try {
      saveFile(fileName(doc.name, 'csv'), await ask('rowsCsv', [doc]), 'text/csv');
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  return (
    <div className={css.runView}>
      <RunAnswers {...{ doc, run, stale }} range={doc.belief?.asRange ? range.range : undefined} />
      {never ? (
        <NeverStarts doc={doc} reason={run.deadEnd.reason} commit={commit} />
      ) : (
        <div className={css.runParts}>
          <div className={css.runLeft}>
            <RunLanes {...{ doc, run }} />
            <section className={css.ledger} aria-label="Where every watt-hour went">
              <header>
                <h4>Where every watt-hour went</h4>
                <span>
                  of {wh(run.ledger.stored)} stored{warmedWords(run)}, up to the useful end
                </span>
                <span className={css.space} />
                <Button size="small" onClick={() => void csv()}>
                  CSV of every row
                </Button>
              </header>
              <LedgerThread {...{ doc, run }} />
              <details className={css.everything}>
                <summary>Every element and mechanism</summary>
                {accounts.map((a) => (
                  <AccountRow key={a.element} {...{ doc, a }} stored={run.ledger.stored} />
                ))}
              </details>
              <p className="quiet">
                {endOf(doc, run)} {reachWords(run)} The account closes to{' '}
                {(100 * run.ledger.closure).toExponential(0)} %.
              </p>
            </section>
          </div>
          <div>
            {run.worked && <CyclePane {...{ doc, run }} />}
            {run.worked && run.worked.modes.length > 0 && <Modes {...{ doc, run }} />}
            <WhatIf {...{ doc, commit, range }} />
            <ToMeasure {...{ doc, commit, range }} />
            <Worst {...{ doc }} />
            <Idle {...{ doc, run }} />
          </div>
        </div>
      )}
    </div>
  );
}

interface AnswersProps {
  doc: ThreadDocument;
  run: RunResult;
  stale: boolean;
  /** how long it lasts as a range, where the thread asks for that */
  range: LifeRange | undefined;
}

function RunAnswers({ doc, run, stale, range }: AnswersProps) {
  const hours = run.usefulEnd.time / SECONDS_PER_HOUR;
  const { ledger, deadEnd, idle } = run;
  const share = (joules: number) =>
    ledger.stored > 0 ? `${Math.round((100 * joules) / ledger.stored)} %` : '';
  const cells: AnswerCell[] = [
    {
      id: 'lasts',
      label: 'Lasts',
      value: doc.loads.length === 0 ? '–' : formatDuration(hours),
      note: range ? likely(range) : `then ${endWords(doc, run)}`,
      ...(range ? { title: `Then ${endWords(doc, run)}` } : {}),
      tone: toneOf(doc.loads.length > 0 ? hours >= doc.goals.hours : undefined),
    },
    { id: 'reaches', label: 'Reaches the loads', value: wh(ledger.usable), note: share(ledger.usable) },
    { id: 'lost', label: 'Lost on the way', value: wh(lostIn(run, doc)), note: share(lostIn(run, doc)) },
    { id: 'left', label: 'Left behind at stop', value: wh(run.leftBehind) },
    {
      id: 'dead',
      label: 'Nothing more after',
      value: formatDuration(deadEnd.time / SECONDS_PER_HOUR),
      note: END_WORDS[deadEnd.reason],
    },
    {
      id: 'shelf',
      label: 'With everything off',
      value: formatShelf(idle.hoursToEnd),
      note: formatQuantity(idle.amps, 'A', 3),
    },
  ];
  const { warmth } = run;
  if (warmth) {
    const C = (celsius: number) => formatQuantity(celsius, '°C', 3);
    const span = `${C(warmth.least.celsius)} to ${C(warmth.most.celsius)}`;
    cells.push({ id: 'warmth', label: 'Cells, coldest to warmest', value: span });
  }
  return <Answers label="Answers on the run" cells={cells} stale={stale} />;
}

/** What the cells came to hold more, or less, as they warmed or cooled. */
function warmedWords({ ledger: { warmed = 0, stored } }: RunResult): string {
  if (Math.abs(warmed) < 1e-3 * stored) return '';
  return warmed > 0 ? ` and ${wh(warmed)} more as they warmed` : ` less ${wh(-warmed)} as they cooled`;
}

const LEFT = 'In the cells';

/** An element with its share as a bar, and what took it there. */
function AccountRow({ doc, a, stored }: { doc: ThreadDocument; a: Account; stored: number }) {
  const percent = (100 * a.joules) / stored;
  return (
    <div className={css.account} data-kind={a.kind}>
      <b title={elementName(doc, a.element)}>{a.kind === 'left' ? LEFT : elementName(doc, a.element)}</b>
      <div className={css.accountBar} aria-hidden="true">
        <i style={{ width: `${percent}%` }} />
      </div>
      <span className={css.accountFigure}>
        {wh(a.joules)} <small>{percent.toFixed(percent < 1 ? 2 : 1)} %</small>
      </span>
      {a.parts.length > 1 && (
        <span className={css.accountParts}>
          {a.parts
            .filter((p) => p.joules > 0)
            .slice(0, 5)
            .map((p) => `${p.mechanism} ${wh(p.joules)}`)
            .join(' · ')}
        </span>
      )}
    </div>
  );
}

/** What stopped it, in a sentence. */
function endOf(doc: ThreadDocument, run: RunResult): string {
  const { load, stage } = run.usefulEnd;
  if (!load) return `It ends because ${END_WORDS[run.deadEnd.reason]}.`;
  const of = stage ? `, ${elementName(doc, stage.id)} no longer holds it` : '';
  return `${elementName(doc, load.id)} leaves its range at ${formatQuantity(load.volts, 'V', 3)}${of}.`;
}

/** Share of what was stored from which what is left behind is worth a word. */
const MUCH_LEFT = 0.03;

/** What would reach what is left behind. */
function reachWords(run: RunResult): string {
  const { stage } = run.usefulEnd;
  if (run.leftBehind < MUCH_LEFT * run.ledger.stored) return 'Little is left behind.';
  const left = `${wh(run.leftBehind)} stay in the cells above their end`;
  if (run.deadEnd.reason === 'trip' || run.deadEnd.reason === 'short')
    return `${left}: a board that trips later would let them out.`;
  if (stage)
    return `${left}: a stage that works from lower volts, or one that steps up as well, would reach them.`;
  return `${left}: less resistance on the way, or a lower cut-off where the cells allow it, would reach them.`;
}

/** What each mode had, and how long it would last by itself. */
function Modes({ doc, run }: { doc: ThreadDocument; run: RunResult }) {
  const { data: held } = useAnswer('held', [doc]);
  const { worked } = run;
  const name = (id: string) => modeName(doc, id);
  return (
    <section className={css.byMode} aria-label="By mode">
      <header>
        <h4>By mode</h4>
        <span>
          {worked!.cycles} cycles
          {doc.programme?.wanted === undefined ? '' : `, ${doc.programme.wanted} wanted`}
          {worked!.endsIn === undefined ? '' : `; ends in ${name(worked!.endsIn)}`}
        </span>
      </header>
      <ToolTable label="By mode" heads={['Mode', 'Time', 'To the loads', 'Lowest pack', 'Held alone']}>
        {worked!.modes.map((m) => (
          <tr key={m.mode}>
            <th scope="row">{name(m.mode)}</th>
            <td>{formatDuration(m.seconds / SECONDS_PER_HOUR)}</td>
            <td>{wh(m.delivered)}</td>
            <td>{m.lowest ? formatQuantity(m.lowest.volts, 'V', 3) : 'never reached'}</td>
            <td>{lastsAlone(held?.find((h) => h.mode === m.mode))}</td>
          </tr>
        ))}
      </ToolTable>
    </section>
  );
}

function lastsAlone(held: { time: number; reason: string } | undefined): string {
  if (!held) return '…';
  return held.reason === 'nothingDraws' ? 'draws nothing' : formatDuration(held.time / SECONDS_PER_HOUR);
}

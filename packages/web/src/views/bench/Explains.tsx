import {
  beyondBelief,
  misfits,
  settledBy,
  takeOver,
  type Explanation,
  type Moved,
  type PlanStep,
} from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration } from '@mile-thread/core/units';
import { Button } from 'antd';
import type { Commit } from '../../document/session.ts';
import type { Explaining } from '../../jobs/useExplanation.ts';
import { elementName } from '../../kit/words.ts';
import css from './explains.module.css';

interface Props {
  doc: ThreadDocument;
  commit: Commit;
  explaining: Explaining;
  /** for the names of readings that fit nowhere */
  plan: readonly PlanStep[];
}

const KIND: Readonly<Record<Moved['figure']['kind'], string>> = {
  capacity: 'capacity',
  resistance: 'resistance',
  selfDischarge: 'self-discharge',
  loss: 'loss',
  ownDraw: 'own draw',
  draw: 'draw',
  setPoint: 'set point',
  stopVolts: 'volts it stops at',
  chargeCurrent: 'charge current',
  termination: 'current it ends at',
  openVolts: 'open volts',
  droop: 'droop',
  cutoff: 'cut-off',
  trip: 'trip',
};
/** Deviations the rails reach to either side: beyond the tolerance there is room for what does not fit. */
const REACH = 3;
/** Figures shown: the rest have hardly moved. */
const SHOWN = 5;

/** What explains how the readings are off: figures within their tolerances, how much of the run-down each explains. */
export function Explains({ doc, commit, explaining, plan }: Props) {
  const { found, progress, stopped, error, stale } = explaining;
  return (
    <section className={css.explains} aria-label="What explains the readings" data-stale={stale || undefined}>
      <h4>
        What explains the miss <small>rail: its tolerance</small>
      </h4>
      {error && <p data-outside>It could not be worked out: {error}</p>}
      {progress !== undefined && (
        <p className="quiet" role="status">
          <progress value={progress} aria-label="How far it is" /> {Math.round(100 * progress)} %{' '}
          <button type="button" className="link" onClick={explaining.stop}>
            Cancel
          </button>
        </p>
      )}
      {stopped && (
        <p className="quiet">
          Stopped; nothing was changed.{' '}
          <button type="button" className="link" onClick={explaining.start}>
            Work it out
          </button>
        </p>
      )}
      {!found && progress === undefined && !stopped && (
        <p className="quiet">
          {takenOn(doc) === undefined
            ? 'Currents, volts under load, set points, a run-down or its logged curve tell of cells, losses and draws; nothing that has been measured so far does.'
            : `What was measured is in the design since ${takenOn(doc)}. New readings are held against its new figures.`}
        </p>
      )}
      {found && <Found {...{ doc, commit, found, plan }} />}
    </section>
  );
}

/** Day on which readings were last taken into the design. */
function takenOn({ readings = [], curves = [] }: ThreadDocument): string | undefined {
  return [...readings, ...curves]
    .flatMap((r) => r.taken ?? [])
    .sort()
    .at(-1);
}

/** Violets of the bar, strongest first. */
const TONES = 5;

function Found({
  doc,
  found,
  commit,
  plan,
}: Pick<Props, 'doc' | 'commit' | 'plan'> & { found: Explanation }) {
  const { measured, before, unexplained = 0, settled } = found;
  const shown = found.moved.filter((m) => Math.abs(m.score) > 0.05 || m.doubt < 0.9).slice(0, SHOWN);
  const taken = settledBy(found);
  const outside = found.moved.filter((m) => m.outside);
  const far = beyondBelief(found).length > 0;
  const names = [...new Set(outside.map((m) => elementName(doc, m.figure.element)))];
  return (
    <>
      {measured !== undefined && (
        <MissBar miss={measured - before.value} shown={shown} unexplained={unexplained} />
      )}
      <ol>
        {shown.map((m, k) => (
          <Rail
            key={m.figure.id}
            name={`${elementName(doc, m.figure.element)}, ${KIND[m.figure.kind]}`}
            tone={k}
            moved={m}
          />
        ))}
      </ol>
      <Lasts found={found} need={doc.goals.hours} />
      {outside.length > 0 && (
        <p data-outside>
          ✕ {names.join(', ')} would have to be further off than stated: measure that again, or state it
          wider.{far && ' So far that nothing is taken.'}
        </p>
      )}
      {misfits(found).map((f, k) => (
        <p key={k} data-outside>
          ✕ {plan.find((s) => s.id === f.step)?.title ?? f.step} stays {Math.abs(f.after).toFixed(1)}{' '}
          deviations off whatever the figures: it and the other readings cannot all be true.
        </p>
      ))}
      {!settled && <p data-outside>✕ The search did not settle: nothing of it is to be taken.</p>}
      <Button
        type="primary"
        block
        disabled={!settled || far || taken.length === 0}
        onClick={() => commit('Take the readings into the design', takeOver(doc, found, today()))}
      >
        {taken.length === 0
          ? 'Nothing is settled yet'
          : `Take ${taken.length === 1 ? 'it' : `these ${taken.length}`} into the design`}
      </Button>
    </>
  );
}

/** What each figure explains of the miss, and what stays, side by side. */
function MissBar({
  miss,
  shown,
  unexplained,
}: {
  miss: number;
  shown: readonly Moved[];
  unexplained: number;
}) {
  const same = shown.map((m, k) => ({ m, k })).filter(({ m }) => m.explains * miss > 0);
  const parts = [...same.map(({ m }) => Math.abs(m.explains)), Math.abs(unexplained)];
  const all = parts.reduce((s, v) => s + v, 0);
  if (!(all > 0)) return null;
  const width = (hours: number) => ({ width: `${(100 * hours) / all}%` });
  return (
    <>
      <div className={css.missBar} aria-hidden="true">
        {same.map(({ m, k }) => (
          <i key={m.figure.id} data-tone={k % TONES} style={width(Math.abs(m.explains))}>
            {Math.abs(m.explains) / all > 0.18 && formatDuration(Math.abs(m.explains))}
          </i>
        ))}
        <i data-tone="rest" style={width(Math.abs(unexplained))} />
      </div>
      <p>
        <b>
          {formatDuration(Math.abs(miss))} {miss < 0 ? 'too early' : 'longer'}
        </b>{' '}
        <em>{formatDuration(Math.abs(unexplained))} unexplained ▨</em>
      </p>
    </>
  );
}

/** How long it lasts, as it was believed and with the readings: the range narrows. */
function Lasts({ found, need }: { found: Explanation; need: number }) {
  const { before, after } = found;
  const [low, high] = [
    Math.min(before.p10, after.p10, need),
    Math.max(before.p90, after.p90, need, before.value * 1.01),
  ];
  const room = 0.06 * (high - low);
  const x = (hours: number) => `${(100 * (hours - low + room)) / (high - low + 2 * room)}%`;
  const bar = (p: typeof before) => ({ left: x(p.p10), right: `calc(100% - ${x(p.p90)})` });
  const range = (p: typeof before) =>
    `${formatDuration(Math.max(0, p.p10))} to ${formatDuration(Math.max(0, p.p90))}`;
  return (
    <div className={css.lasts}>
      <p>
        Lasts <b>{formatDuration(after.value)}</b>, {range(after)}; was {formatDuration(before.value)},{' '}
        {range(before)}
      </p>
      <div aria-hidden="true">
        <span>was</span>
        <div>
          <i data-was style={bar(before)} />
          <s style={{ left: x(before.value) }} />
        </div>
        <span>is</span>
        <div>
          <i style={bar(after)} />
          <s style={{ left: x(after.value) }} />
        </div>
        <span />
        <div>
          <u style={{ left: x(need) }} title={`Need ${formatDuration(need)}`}>
            need
          </u>
        </div>
      </div>
    </div>
  );
}

/** One figure on the rail of its tolerance. */
function Rail({ name, tone, moved: m }: { name: string; tone: number; moved: Moved }) {
  const place = (score: number) => `${50 + (50 * Math.max(-REACH, Math.min(REACH, score))) / REACH}%`;
  const percent = `${m.factor >= 1 ? '+' : '−'}${Math.abs(100 * (m.factor - 1)).toFixed(1)} %`;
  return (
    <li data-outside={m.outside || undefined}>
      <b>
        <i data-tone={tone % TONES} /> {name}
      </b>
      <span aria-hidden="true">
        <i style={{ left: place(-2), right: `calc(100% - ${place(2)})` }} />
        <u style={{ left: place(m.score - m.doubt), right: `calc(100% - ${place(m.score + m.doubt)})` }} />
        <s style={{ left: place(m.score) }} />
      </span>
      <small>
        {percent} of ±{(100 * m.figure.tolerance).toFixed(0)} %{m.outside && ', outside'}
      </small>
      <em>
        {m.explains >= 0 ? '+' : '−'}
        {formatDuration(Math.abs(m.explains))}
      </em>
    </li>
  );
}

/** The day a figure is taken over, as it is kept beside it. */
const today = () => new Date().toISOString().slice(0, 10);

import { beyondBelief, settledBy, takeOver, type Explanation, type Moved } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration } from '@mile-thread/core/units';
import { Button } from 'antd';
import type { Commit } from '../../document/session.ts';
import { useAnswer } from '../../jobs/client.ts';
import { elementName } from '../../kit/words.ts';
import css from './explains.module.css';

interface Props {
  doc: ThreadDocument;
  commit: Commit;
}

const KIND: Readonly<Record<Moved['figure']['kind'], string>> = {
  capacity: 'capacity',
  resistance: 'resistance',
  selfDischarge: 'self-discharge',
  loss: 'loss',
  ownDraw: 'own draw',
  draw: 'draw',
};
/** Deviations the rails reach to either side: beyond the tolerance there is room for what does not fit. */
const REACH = 3;
/** Figures shown: the rest have hardly moved. */
const SHOWN = 5;

/** What explains how the readings are off: figures within their tolerances, how much of the run-down each explains. */
export function Explains({ doc, commit }: Props) {
  const { readings = [] } = doc;
  const { data, error } = useAnswer(
    'explanation',
    readings.length > 0 ? [doc, JSON.stringify(readings)] : undefined,
  );
  if (readings.length === 0) return null;
  return (
    <section className={css.explains} aria-label="What explains the readings">
      <h4>What explains them</h4>
      {error && <p>It could not be worked out: {error.message}</p>}
      {data === undefined && !error && <p className="quiet">Looking for it.</p>}
      {data === null && (
        <p className="quiet">
          Currents, volts under load or a run-down tell of cells, losses and draws; what has been read so far
          does not.
        </p>
      )}
      {data && <Found {...{ doc, commit }} found={data} />}
    </section>
  );
}

function Found({ doc, found, commit }: Props & { found: Explanation }) {
  const { before, after, unexplained, settled } = found;
  const shown = found.moved.filter((m) => Math.abs(m.score) > 0.05 || m.doubt < 0.9).slice(0, SHOWN);
  const taken = settledBy(found);
  const outside = found.moved.filter((m) => m.outside);
  const far = beyondBelief(found).length > 0;
  const names = [...new Set(outside.map((m) => elementName(doc, m.figure.element)))];
  return (
    <>
      <p>
        Lasts <b>{formatDuration(after.value)}</b>, {formatDuration(after.p10)} to {formatDuration(after.p90)}
        ; was {formatDuration(before.value)}, {formatDuration(Math.max(0, before.p10))} to{' '}
        {formatDuration(before.p90)}
      </p>
      <ol>
        {shown.map((m) => (
          <Rail
            key={m.figure.id}
            name={`${elementName(doc, m.figure.element)}, ${KIND[m.figure.kind]}`}
            moved={m}
          />
        ))}
      </ol>
      {unexplained !== undefined && (
        <p className="quiet">{formatDuration(Math.abs(unexplained))} of the run-down stay unexplained.</p>
      )}
      {outside.length > 0 && (
        <p data-outside>
          ✕ {names.join(', ')} would have to be further off than stated: measure that again, or state it
          wider.{far && ' So far that nothing is taken.'}
        </p>
      )}
      {!settled && <p data-outside>✕ The search did not settle: nothing of it is to be taken.</p>}
      <Button
        type="primary"
        disabled={!settled || far || taken.length === 0}
        onClick={() => commit('Take the readings into the design', takeOver(doc, found))}
      >
        Take {taken.length === 1 ? 'it' : `these ${taken.length}`} into the design
      </Button>
    </>
  );
}

/** One figure on the rail of its tolerance. */
function Rail({ name, moved: m }: { name: string; moved: Moved }) {
  const place = (score: number) => `${50 + (50 * Math.max(-REACH, Math.min(REACH, score))) / REACH}%`;
  const percent = `${m.factor >= 1 ? '+' : '−'}${Math.abs(100 * (m.factor - 1)).toFixed(1)} %`;
  return (
    <li data-outside={m.outside || undefined}>
      <b>{name}</b>
      <em>
        {percent} of ±{(100 * m.figure.tolerance).toFixed(0)} % · {m.explains >= 0 ? '+' : '−'}
        {formatDuration(Math.abs(m.explains))}
      </em>
      <span aria-hidden="true">
        <i style={{ left: place(-2), right: `calc(100% - ${place(2)})` }} />
        <u style={{ left: place(m.score - m.doubt), right: `calc(100% - ${place(m.score + m.doubt)})` }} />
        <s style={{ left: place(m.score) }} />
      </span>
    </li>
  );
}

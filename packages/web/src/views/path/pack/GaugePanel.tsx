import { suggestGauge, type GaugeReading } from '@mile-thread/core';
import { Gauge, type Edit, type ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import type { Commit } from '../../../document/session.ts';
import { useAnswer } from '../../../jobs/client.ts';
import { EditableQuantity } from '../../../kit/EditableQuantity.tsx';
import { FieldRows } from '../../../kit/FieldRows.tsx';
import { ToolTable } from '../../../kit/ToolTable.tsx';
import { RemoveLink } from '../RemoveLink.tsx';
import css from './pack.module.css';
import valuesCss from '../../../kit/values.module.css';

interface Props {
  doc: ThreadDocument;
  commit: Commit;
}

const PATH: Edit['path'] = ['pack', 'gauge'];
const MOST_LEVELS = 8;

/** What shows how full it is: levels, parts, what it takes, and how far it may be believed. */
export function GaugePanel({ doc, commit }: Props) {
  const { gauge } = doc.pack;
  const { data } = useAnswer('gauge', gauge ? [doc] : undefined);
  if (!gauge) {
    return (
      <div className={valuesCss.row}>
        <span>Level gauge</span>
        <button
          type="button"
          className="link"
          onClick={() => commit('Add a level gauge', [{ op: 'add', path: PATH, value: suggestGauge(doc) }])}
        >
          none, work one out
        </button>
      </div>
    );
  }
  return (
    <section className={css.gauge} aria-label="Level gauge">
      <header>
        <h5>Level gauge</h5>
        <RemoveLink
          label="Remove the level gauge"
          onClick={() => commit('Remove the level gauge', [{ op: 'remove', path: PATH }])}
        />
      </header>
      {data && <Told {...{ doc, commit, gauge }} told={data} />}
      <details>
        <summary>Its parts</summary>
        <FieldRows model={Gauge} value={gauge} path={PATH} owner="Level gauge" commit={commit} />
      </details>
    </section>
  );
}

function Told({ doc, gauge, told, commit }: Props & { gauge: Gauge; told: GaugeReading }) {
  const { levels, string, amps } = told;
  const ladder = gauge.kind === 'ladder';
  const setLevels = (next: number[], label: string) =>
    commit(label, [{ op: 'replace', path: [...PATH, 'levels'], value: next.sort((a, b) => a - b) }]);
  return (
    <>
      <Scale told={told} />
      <ToolTable
        label="Levels of the gauge"
        className={css.levels}
        heads={['Level', 'Pack', ladder ? 'Tap' : 'Code', 'Rest to heaviest']}
      >
        {levels.map((l, k) => (
          <tr key={k}>
            <th scope="row">
              <EditableQuantity
                label={`Level ${k + 1}`}
                value={100 * l.level}
                unit="%"
                optional={levels.length > 1}
                onCommit={(v) =>
                  v === undefined
                    ? setLevels(
                        gauge.levels.filter((_, n) => n !== k),
                        'Remove a level',
                      )
                    : setLevels(
                        gauge.levels.map((x, n) => (n === k ? v / 100 : x)),
                        'Change a level',
                      )
                }
              />
            </th>
            <td>{formatQuantity(l.volts, 'V', 4)}</td>
            <td>{ladder ? formatQuantity(l.divided, 'V', 4) : l.code}</td>
            <td>
              {percent(l.rest)} to {percent(l.heavy)}
            </td>
          </tr>
        ))}
      </ToolTable>
      {levels.length < MOST_LEVELS && (
        <button
          type="button"
          className="link"
          onClick={() => setLevels([...gauge.levels, between(gauge.levels)], 'Add a level')}
        >
          add a level
        </button>
      )}
      {ladder && (
        <div className={valuesCss.row} title="From ground up to the reference, E96">
          <span>String</span>
          <b>{string.map((r) => formatQuantity(r, 'Ω', 3)).join(', ')}</b>
        </div>
      )}
      <div className={valuesCss.row}>
        <span>Takes</span>
        <b>
          {formatQuantity(amps.itself, 'A', 2)}
          {amps.lights > 0 && ` and lights ${formatQuantity(amps.lights, 'A', 2)}`}
        </b>
      </div>
      <div className={valuesCss.row} title="Pack volts at which its input stands at the reference">
        <span>Tells up to</span>
        <b>{formatQuantity(told.most, 'V', 3)}</b>
      </div>
      {told.hysteresisOhms !== undefined && (
        <div className={valuesCss.row} title="From each comparator’s output to its input, E96">
          <span>For {formatQuantity(gauge.hysteresis, 'V', 2)} hysteresis</span>
          <b>{formatQuantity(told.hysteresisOhms, 'Ω', 3)}</b>
        </div>
      )}
      {told.lightOhms !== undefined && told.lightAmps && (
        <div className={valuesCss.row} title="Before each light, on the pack; E24">
          <span>Before a light</span>
          <b>
            {formatQuantity(told.lightOhms, 'Ω', 2)}: {formatQuantity(told.lightAmps.full, 'A', 2)} to{' '}
            {formatQuantity(told.lightAmps.end, 'A', 2)}
          </b>
        </div>
      )}
      <p className="quiet">
        Set where {doc.name || 'this pack'} stands while it gives {formatQuantity(told.watts.usual, 'W', 3)},
        its mean; the whiskers go from rest to {formatQuantity(told.watts.heavy, 'W', 3)}.
      </p>
    </>
  );
}

const percent = (share: number) => `${Math.round(100 * Math.min(1, share))} %`;

/** A level in the widest gap between those there are. */
function between(levels: readonly number[]): number {
  const ends = [0, ...levels, 1];
  let best = 0;
  for (let k = 1; k < ends.length - 1; k++) {
    if (ends[k + 1]! - ends[k]! > ends[best + 1]! - ends[best]!) best = k;
  }
  return Math.round(50 * (ends[best]! + ends[best + 1]!)) / 100;
}

const WIDTH = 270;
const BAR = 16;
const ROW = 11;

/** The useful charge as a bar with its levels; below, between which charges each may change. */
function Scale({ told: { levels } }: { told: GaugeReading }) {
  const x = (share: number) => 1 + (WIDTH - 2) * Math.min(1, Math.max(0, share));
  const height = BAR + 6 + ROW * levels.length;
  return (
    <svg className={css.scale} viewBox={`0 0 ${WIDTH} ${height}`} aria-hidden="true">
      <rect x={1} y={1} width={WIDTH - 2} height={BAR - 2} rx={3} className={css.charge} />
      {levels.map((l, k) => {
        const y = BAR + 8 + ROW * k;
        return (
          <g key={k}>
            <line x1={x(l.usual)} x2={x(l.usual)} y1={1} y2={y} className={css.tick} />
            <line x1={x(l.rest)} x2={x(l.heavy)} y1={y} y2={y} className={css.whisker} />
            <circle cx={x(l.usual)} cy={y} r={3} className={css.dot} />
          </g>
        );
      })}
    </svg>
  );
}

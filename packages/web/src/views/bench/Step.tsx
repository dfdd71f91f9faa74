import { restedCharge } from '@mile-thread/core/bench';
import type { BenchReading, Issue, ThreadDocument } from '@mile-thread/core/model';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { EditableText } from '../../kit/EditableText.tsx';
import { dropping, told, type Row } from './model.ts';
import { RangeGauge } from './RangeGauge.tsx';
import css from './bench.module.css';

/** The day of a reading, as it is typed; one that is none is refused. */
function dated(commit: Commit, k: number, r: BenchReading, value: string): Issue[] {
  if (!/^\d{4}-\d\d-\d\d$/.test(value) || Number.isNaN(Date.parse(value)))
    return [{ code: 'type', path: 'at', given: value, allowed: 'a day such as 2026-05-01' }];
  const rest = r.at?.slice(10) ?? 'T12:00:00.000Z';
  return commit('Change when it was read', [
    { op: 'replace', path: ['readings', k, 'at'], value: `${value}${rest}` },
  ]);
}

const METER = { eyes: 'By eye', volts: 'Voltmeter', amps: 'Ammeter', clock: 'Clock or logger' } as const;

interface Props {
  doc: ThreadDocument;
  row: Row;
  commit: Commit;
  /** turn a stand-in's set point to where it belongs and read again; absent where there is none */
  onTrim: (() => void) | undefined;
}

/** One step in full: how, with what, what it settles, and every reading taken there. */
export function Step({ doc, row, commit, onTrim }: Props) {
  const { step, found } = row;
  const rested = found.value === undefined ? undefined : restedCharge(doc, step.id, found.value);
  const own = (doc.readings ?? []).flatMap((r, k) => (r.step === step.id ? [{ r, k }] : []));
  return (
    <section className={css.step} aria-label={`Step: ${step.title}`}>
      <RangeGauge step={step} readings={own.map(({ r }) => r)} />
      <p>{step.how}</p>
      <p className="quiet">
        {METER[step.instrument]}. Settles: {step.settles}
      </p>
      {step.caution && <p className={css.caution}>▲ {step.caution}</p>}
      {rested && (
        <p>
          That is {Math.round(1000 * rested.soc) / 10} % of the charge, ± {(100 * rested.error).toFixed(1)}.
          {rested.flat && ' So flat there that volts say little of it: count what flows instead.'}
        </p>
      )}
      {onTrim && found.verdict === 'off' && (
        <p>
          <button type="button" className="link strong" onClick={onTrim}>
            Trim it to {told(step.predicted!.value, step.unit)}
          </button>{' '}
          before anything hangs on it, and read it again.
        </p>
      )}
      {own.length > 0 && (
        <ol>
          {own.map(({ r, k }) => (
            <li key={k}>
              <b>{told(r.value, step.unit)}</b>
              <span>
                ±{' '}
                <EditableQuantity
                  label={`Accuracy of reading ${k + 1}, per cent`}
                  value={r.accuracy === undefined ? undefined : 100 * r.accuracy}
                  unit="%"
                  optional
                  shown={r.accuracy === undefined ? 'usual' : `${+(100 * r.accuracy).toPrecision(2)} %`}
                  onCommit={(v) =>
                    commit('Change how accurate a reading is', [
                      v === undefined
                        ? { op: 'remove', path: ['readings', k, 'accuracy'] }
                        : {
                            op: r.accuracy === undefined ? 'add' : 'replace',
                            path: ['readings', k, 'accuracy'],
                            value: v / 100,
                          },
                    ])
                  }
                />
              </span>
              <EditableText
                label={`Instrument of reading ${k + 1}`}
                value={r.instrument ?? 'instrument'}
                onCommit={(value) =>
                  commit('Say what it was read with', [
                    {
                      op: r.instrument === undefined ? 'add' : 'replace',
                      path: ['readings', k, 'instrument'],
                      value,
                    },
                  ])
                }
              />
              <EditableText
                label={`Date of reading ${k + 1}`}
                value={r.at?.slice(0, 10) ?? 'date'}
                onCommit={(value) => dated(commit, k, r, value)}
              />
              <EditableQuantity
                label={`Air at reading ${k + 1}`}
                value={r.air}
                unit="°C"
                optional
                shown={r.air === undefined ? 'air' : `${r.air} °C`}
                onCommit={(v) =>
                  commit('Say how warm it was', [
                    v === undefined
                      ? { op: 'remove', path: ['readings', k, 'air'] }
                      : { op: 'replace', path: ['readings', k, 'air'], value: v },
                  ])
                }
              />
              <EditableText
                label={`Note on reading ${k + 1}`}
                value={r.note ?? 'note'}
                onCommit={(value) =>
                  commit('Note on a reading', [{ op: 'replace', path: ['readings', k, 'note'], value }])
                }
              />
              <button
                type="button"
                className="link"
                aria-label={`Take reading ${k + 1} away`}
                onClick={() => commit('Take a reading away', dropping(doc, k))}
              >
                ×
              </button>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

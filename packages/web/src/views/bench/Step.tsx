import type { ThreadDocument } from '@mile-thread/core/model';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { EditableText } from '../../kit/EditableText.tsx';
import { dropping, told, verdictOf, type Row } from './model.ts';
import css from './bench.module.css';

const METER = { eyes: 'By eye', volts: 'Voltmeter', amps: 'Ammeter', clock: 'Clock or logger' } as const;

/** One step in full: how, with what, what it settles, and every reading taken there. */
export function Step({ doc, row, commit }: { doc: ThreadDocument; row: Row; commit: Commit }) {
  const { step, found } = row;
  const own = (doc.readings ?? []).flatMap((r, k) => (r.step === step.id ? [{ r, k }] : []));
  return (
    <section className={css.step} aria-label={`Step: ${step.title}`}>
      <h4>{step.title}</h4>
      <p>{step.how}</p>
      <p className="quiet">
        {METER[step.instrument]}. Settles: {step.settles}
      </p>
      {step.caution && <p className={css.caution}>▲ {step.caution}</p>}
      {found.verdict !== 'open' && <p data-verdict={found.verdict}>{verdictOf(row)}</p>}
      {own.length > 0 && (
        <ol>
          {own.map(({ r, k }) => (
            <li key={k}>
              <b>{told(r.value, step.unit)}</b>
              <span>
                {r.at && new Date(r.at).toLocaleString(undefined, { dateStyle: 'short', timeStyle: 'short' })}
              </span>
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
      <p className={css.caution}>
        Lithium cells, mains adapters, heat: work with one hand, glasses on, a fuse in the lead; local codes,
        the cell maker’s data sheet and who is licensed for it have the last word.
      </p>
    </section>
  );
}

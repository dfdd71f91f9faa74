import type { Divider, Edit, ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import type { Commit } from '../../document/session.ts';
import { DividerChoice } from '../../kit/DividerChoice.tsx';
import css from './gauge.module.css';

/** A charger's feedback as it is often found. Common practice, no source. */
const FRESH: Divider = {
  reference: 1.2,
  referenceTolerance: 0.01,
  resistorTolerance: 0.01,
  top: 1e5,
  bottom: 1e4,
};

/** The divider that sets where a charge stops: a pair taken writes the volts. */
export function VoltsDivider({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const { control, stage } = doc.charging!;
  if (!control || !('outputVolts' in stage)) return null;
  const now = control.divider;
  const at: Edit['path'] = ['charging', 'control', 'divider'];
  return (
    <details className={css.divider}>
      <summary>
        {now
          ? `Set by ${formatQuantity(now.top, 'Ω')} over ${formatQuantity(now.bottom, 'Ω')}`
          : 'Set it by a divider'}
      </summary>
      <DividerChoice
        now={now}
        fresh={FRESH}
        volts={stage.outputVolts}
        onField={(field, v) =>
          commit('Change the divider of the charger', [
            now
              ? { op: field in now ? 'replace' : 'add', path: [...at, field], value: v }
              : { op: 'add', path: at, value: { ...FRESH, [field]: v } },
          ])
        }
        onUse={(next, volts) =>
          commit(
            `Stop the charge by ${formatQuantity(next.top, 'Ω')} over ${formatQuantity(next.bottom, 'Ω')}`,
            [
              { op: now ? 'replace' : 'add', path: at, value: next },
              {
                op: 'replace',
                path: ['charging', 'stage', 'outputVolts'],
                value: Number(volts.toPrecision(4)),
              },
            ],
          )
        }
      />
      {now && (
        <button
          type="button"
          className="link"
          onClick={() => commit('No divider any more', [{ op: 'remove', path: at }])}
        >
          Take the divider away
        </button>
      )}
    </details>
  );
}

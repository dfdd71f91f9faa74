import { fadeOf, ROUGHNESS, usageOf } from '@mile-thread/core/belief';
import type { ThreadDocument } from '@mile-thread/core/model';
import { beliefEdit } from '../../../document/belief.ts';
import type { Commit } from '../../../document/session.ts';
import { EditableQuantity } from '../../../kit/EditableQuantity.tsx';
import css from './pack.module.css';

const percent = (share: number) => Math.round(100 * share);

/** What years of its use leave of the cells, and how roughly that is known. */
export function Health({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const { years, runsAYear } = usageOf(doc);
  const { best, usual, worst } = fadeOf(doc);
  const left = {
    left: `${percent(worst.capacity)}%`,
    width: `${percent(best.capacity) - percent(worst.capacity)}%`,
  };
  return (
    <section className={css.health} aria-label="Its health">
      <header>
        <h5>Health</h5>
        <span>a simple law, a factor of {ROUGHNESS} either way</span>
      </header>
      <p>
        After{' '}
        <EditableQuantity
          label="Later, years"
          value={years}
          unit="years"
          onCommit={(v) => commit('Change the years of use', [beliefEdit(doc, { years: v })])}
        />{' '}
        of{' '}
        <EditableQuantity
          label="Runs a year"
          value={runsAYear}
          unit=""
          onCommit={(v) => commit('Change the runs a year', [beliefEdit(doc, { runsAYear: v })])}
        />{' '}
        runs each: <b>{percent(usual.capacity)} %</b> of the charge ({percent(worst.capacity)} to{' '}
        {percent(best.capacity)}), Ω × {usual.resistance.toFixed(2)}
      </p>
      <div className={css.left} aria-hidden="true">
        <i style={{ width: `${percent(usual.capacity)}%` }} />
        <u style={left} />
      </div>
    </section>
  );
}

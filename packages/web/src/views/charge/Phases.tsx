import { phaseWord, type ChargeResult } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { useMemo } from 'react';
import { Link } from 'react-router';
import css from './figures.module.css';

const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);
const wh = (joules: number) => formatQuantity(joules / SECONDS_PER_HOUR, 'Wh', 3);

/** Every phase: how long, how much, how much of it heat. */
export function Phases({ doc, charge }: { doc: ThreadDocument; charge: ChargeResult }) {
  const rows = useMemo(() => charge.phases.slice(0, 12), [charge]);
  return (
    <section className={css.phases} aria-label="Phases of the charge">
      <header>
        <h4>Phase by phase</h4>
        <span>
          the account closes to {(100 * charge.ledger.closure).toExponential(0)} %;{' '}
          <Link to="../path">the loads are those of the path</Link>
          {charge.heldIn !== undefined &&
            `, held in ${doc.modes?.find((m) => m.id === charge.heldIn)?.name ?? charge.heldIn}: their programme is too fast to follow`}
        </span>
      </header>
      <table>
        <thead>
          <tr>
            {[
              'Phase',
              'from',
              'for',
              'to',
              'from the source',
              'kept',
              'of it',
              'heat in cells',
              'heat in charger',
            ].map((h) => (
              <th key={h} scope="col">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((p, k) => (
            <tr key={k}>
              <th scope="row">{phaseWord(p.limit)}</th>
              <td>{hours(p.from)}</td>
              <td>{hours(p.to - p.from)}</td>
              <td>{Math.round(100 * p.toSoc)} %</td>
              <td>{wh(p.supplied)}</td>
              <td>{wh(p.kept)}</td>
              <td>{p.supplied > 0 ? `${Math.round((100 * p.kept) / p.supplied)} %` : '–'}</td>
              <td>{wh(p.cellHeat)}</td>
              <td>{wh(p.chargerHeat)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

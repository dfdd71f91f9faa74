import type { GroupsCharged as Charged } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import css from './beside.module.css';

const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);

/** Groups that differ, as the charge leaves them: a bar to where each stands against full. */
export function GroupsCharged({ doc, groups }: { doc: ThreadDocument; groups: Charged }) {
  const { fullVolts, endVolts } = doc.pack.cell;
  const { volts, soc, bled, fullest, toEven, highest } = groups;
  const share = (v: number) =>
    `${Math.max(0, Math.min(100, (100 * (v - endVolts)) / (1.03 * fullVolts - endVolts)))}%`;
  const bleeds = doc.pack.protection?.balanceCurrent ?? 0;
  return (
    <section className={css.groups} aria-label="Groups as the charge leaves them">
      <header>
        <h4>Group by group, as the charge leaves them</h4>
        <span>
          {highest.length > 1
            ? `the highest changes ${highest.length - 1} times; at the end group ${fullest + 1}`
            : `group ${fullest + 1} is the highest throughout`}
          {bleeds > 0 && toEven !== undefined
            ? `; ${formatQuantity(bleeds, 'A', 2)} would take ${hours(toEven)} to bring them even`
            : '; nothing brings them even'}
        </span>
      </header>
      <ol>
        {volts.map((v, k) => (
          <li key={k} data-over={v > fullVolts + 5e-3 || undefined}>
            <b>{k + 1}</b>
            <span>
              <i style={{ width: share(v) }} />
              <u style={{ left: share(fullVolts) }} />
            </span>
            <em>
              {formatQuantity(v, 'V', 4)} · {Math.round(100 * soc[k]!)} %
              {bled[k]! > 0 && ` · bled ${hours(bled[k]!)}`}
            </em>
          </li>
        ))}
      </ol>
    </section>
  );
}

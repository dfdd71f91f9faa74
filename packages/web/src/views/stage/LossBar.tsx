import type { Snapshot } from '@mile-thread/core';
import { formatQuantity } from '@mile-thread/core/units';
import { lossParts } from './model.ts';
import css from './stage.module.css';

/** Where the loss goes at the needle, by mechanism. */
export function LossBar({ instant }: { instant: Snapshot | undefined }) {
  if (!instant || instant.losses.length === 0) return null;
  const parts = lossParts(instant.losses);
  const sum = parts.reduce((a, p) => a + p.watts, 0);
  if (!(sum > 0)) return null;
  return (
    <section aria-label="Loss at the needle">
      <h4>Where {formatQuantity(sum, 'W')} goes, at the needle</h4>
      <div className={css.lossBar} aria-hidden="true">
        {parts.map((p) => (
          <i key={p.words} style={{ flexGrow: p.watts / sum, background: p.colour }} />
        ))}
      </div>
      <ul className={css.lossKey}>
        {parts.map((p) => (
          <li key={p.words}>
            <i style={{ background: p.colour }} aria-hidden="true" />
            {p.words} <b>{formatQuantity(p.watts, 'W')}</b>
          </li>
        ))}
      </ul>
    </section>
  );
}

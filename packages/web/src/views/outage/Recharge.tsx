import type { BackupAnswers, OutageRow } from '@mile-thread/core/charging';
import { formatDuration, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { useOutageNeedle } from '../../document/view.ts';
import css from './recharge.module.css';

const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);
/** Times the longest recharge that the bars reach. */
const REACH = 1.35;

/** What each outage took, and whether there is time to put it back: bars within the gap that follows. */
export function Recharge({ found }: { found: BackupAnswers }) {
  const { rows } = found;
  const { moveTo } = useOutageNeedle.getState();
  const longest = Math.max(...rows.map((r) => r.recharge ?? r.gap), 1);
  const end = REACH * longest;
  return (
    <section className={css.recharge} aria-label="Recharge against the gap after">
      <header>
        <h4>Recharge against the gap after</h4>
      </header>
      {rows.length === 0 ? (
        <p className="quiet">Mains is always there.</p>
      ) : (
        <ol>
          {rows.map((r) => (
            <li key={r.from} data-dark={r.dark || undefined}>
              <button type="button" title="Bring the needle there" onClick={() => moveTo(r.to)}>
                <b>{hours(r.to - r.from)}</b>
                <small>at {hours(r.from)}</small>
              </button>
              <Bar {...{ row: r, end }} />
            </li>
          ))}
        </ol>
      )}
      <p className={css.legend}>
        <i /> recharge <i data-gap /> gap, to {hours(end)}
      </p>
    </section>
  );
}

function Bar({ row, end }: { row: OutageRow; end: number }) {
  const { recharge, gap, left, dark } = row;
  const share = (seconds: number) => `${Math.min(100, (100 * seconds) / end)}%`;
  const late = recharge === undefined;
  const words = `${late ? '✕ too late' : hours(recharge)} · ${dark ? '✕ dropped' : `${Math.round(100 * left)} % left`}`;
  return (
    <span className={css.bar}>
      <i data-gap data-cut={gap > end || undefined} style={{ width: share(gap) }} />
      <i data-late={late || undefined} style={{ width: share(recharge ?? gap) }} />
      <em data-late={late || dark || undefined}>{words}</em>
    </span>
  );
}

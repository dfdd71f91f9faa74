import type { Together } from '@mile-thread/core/charging';
import { MOST_STATIONS, type Edit, type ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { Button } from 'antd';
import type { Commit } from '../../document/session.ts';
import { useAnswer } from '../../jobs/client.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import css from './beside.module.css';
import chargeCss from './charge.module.css';

const A = (amps: number) => formatQuantity(amps, 'A', 3);

interface Props {
  doc: ThreadDocument;
  commit: Commit;
}

/** Packs alike, each with such a charger, on the one source: what each gets, and how long each takes. */
export function Stations({ doc, commit }: Props) {
  const { stations = [], from } = doc.charging!;
  const { data } = useAnswer('stations', [doc]);
  const put = (label: string, value: typeof stations) =>
    commit(label, [
      value.length === 0
        ? { op: 'remove', path: ['charging', 'stations'] }
        : { op: doc.charging!.stations ? 'replace' : 'add', path: ['charging', 'stations'], value },
    ]);
  const add = () => put('One more pack on the source', [...stations, { from: 0.5 }]);
  return (
    <section className={css.stations} aria-label="Packs on this source">
      <header>
        <h4>More packs on this source</h4>
        {data && <Sum found={data} />}
        <span className={chargeCss.space} />
        <Button size="small" onClick={add} disabled={stations.length >= MOST_STATIONS}>
          + a pack
        </Button>
      </header>
      {stations.length > 0 && (
        <ol>
          {[from, ...stations.map((s) => s.from)].map((soc, k) => (
            <li key={k}>
              <b>{k === 0 ? 'this pack' : `pack ${k + 1}`}</b>
              <From {...{ k, soc, commit }} />
              <Got found={data ?? undefined} k={k} />
              {k > 0 && (
                <button
                  type="button"
                  className="link"
                  aria-label={`Take pack ${k + 1} off`}
                  onClick={() =>
                    put(
                      'Take a pack off the source',
                      stations.filter((_, n) => n !== k - 1),
                    )
                  }
                >
                  ×
                </button>
              )}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

function From({ k, soc, commit }: { k: number; soc: number; commit: Commit }) {
  const path: Edit['path'] = k === 0 ? ['charging', 'from'] : ['charging', 'stations', k - 1, 'from'];
  return (
    <span>
      from{' '}
      <EditableQuantity
        label={k === 0 ? 'This pack begins at, per cent' : `Pack ${k + 1} begins at, per cent`}
        value={100 * soc}
        unit="%"
        shown={`${Math.round(100 * soc)} %`}
        onCommit={(v) => commit('Change where a pack begins', [{ op: 'replace', path, value: v! / 100 }])}
      />
    </span>
  );
}

/** What one gets. */
function Got({ found, k }: { found: Together | undefined; k: number }) {
  const of = found?.stations[k];
  if (!of) return <span className="quiet">…</span>;
  return (
    <span data-short={of.time === undefined || undefined}>
      {A(of.amps)} at first · full in{' '}
      {of.time === undefined ? '✕ never' : formatDuration(of.time / SECONDS_PER_HOUR)}
    </span>
  );
}

function Sum({ found: { asked, limit, lowest, volts, letsGo } }: { found: Together }) {
  const over = asked > limit * (1 + 1e-6);
  return (
    <span data-short={over || letsGo || undefined}>
      together they ask {A(asked)} of {A(limit)} {over || letsGo ? '✕' : '✓'};{' '}
      {letsGo ? 'it lets go of all of them' : `${formatQuantity(Math.min(lowest, volts), 'V', 3)} are left`}
    </span>
  );
}

import { CellGroup, OddCells, fieldsOf, type ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { formatQuantity } from '@mile-thread/core/units';
import clsx from 'clsx';
import type { Commit } from '../../../document/session.ts';
import { groupEdit, oddEdit } from '../../../document/groups.ts';
import { inPercent } from '../../../kit/words.ts';
import { EditableQuantity } from '../../../kit/EditableQuantity.tsx';
import { RemoveLink } from '../RemoveLink.tsx';
import css from './pack.module.css';
import valuesCss from '../../../kit/values.module.css';

interface Props {
  doc: ThreadDocument;
  run: RunResult | undefined;
  commit: Commit;
}

/** Groups drawn one by one; of more, those listed and the next. */
const SHOWN = 12;
/** Charge that fills a bar's room, over the rated. */
const WIDEST = 1.15;

/** How the groups in series, or the cells side by side in each, differ. */
export function Groups({ doc, run, commit }: Props) {
  const { series, parallel, groups, odd } = doc.pack;
  return (
    <>
      {series > 1 && !odd && <InSeries {...{ doc, run, commit }} />}
      {parallel > 1 && !groups && <SideBySide {...{ doc, run, commit }} />}
    </>
  );
}

function InSeries({ doc, run, commit }: Props) {
  const { series, groups, startSoc } = doc.pack;
  const rows = series <= SHOWN ? series : Math.min(series, (groups?.length ?? 0) + 1);
  const at = groups ? run?.groups : undefined;
  const change = (k: number, field: keyof CellGroup, label: string) => (value: number | undefined) =>
    commit(`Change group ${k + 1}, ${label}`, [groupEdit(doc, k, { [field]: value })]);
  return (
    <section className={css.groups} aria-label="Groups in series">
      <header>
        <h5>Groups in series</h5>
        <span>
          {groups ? 'bar: charge held; filled: left at the end' : 'all alike; type over what differs'}
        </span>
      </header>
      <ol>
        {Array.from({ length: rows }, (_, k) => {
          const group = groups?.[k] ?? { capacity: 1, resistance: 1 };
          const weakest = at?.weakest === k;
          return (
            <li key={k} data-group={k + 1} className={clsx(weakest && css.weakest)}>
              <b>{k + 1}</b>
              <div className={css.holds} aria-hidden="true">
                <i style={{ width: share(group.capacity) }}>
                  {at && <u style={{ width: `${100 * (at.soc[k] ?? 0)}%` }} />}
                </i>
              </div>
              <span>
                <EditableQuantity
                  label={`Group ${k + 1}, charge held`}
                  value={100 * group.capacity}
                  unit="%"
                  onCommit={(v) =>
                    inPercent(change(k, 'capacity', 'charge held')(v! / 100), CellGroup, 'capacity')
                  }
                />
              </span>
              <span>
                Ω ×{' '}
                <EditableQuantity
                  label={`Group ${k + 1}, resistance`}
                  value={group.resistance}
                  unit=""
                  onCommit={change(k, 'resistance', 'resistance')}
                />
              </span>
              <span title="Its state of charge when the run starts">
                from{' '}
                <EditableQuantity
                  label={`Group ${k + 1}, charge at the start`}
                  value={group.startSoc === undefined ? undefined : 100 * group.startSoc}
                  shown={`${Math.round(100 * (group.startSoc ?? startSoc))} %`}
                  unit="%"
                  optional
                  onCommit={(v) =>
                    inPercent(
                      change(k, 'startSoc', 'charge at the start')(v === undefined ? undefined : v / 100),
                      CellGroup,
                      'startSoc',
                    )
                  }
                />
              </span>
              {at && (
                <em>
                  {weakest ? '✕ ends at ' : 'ends at '}
                  {formatQuantity(at.volts[k]!, 'V', 3)}
                </em>
              )}
            </li>
          );
        })}
      </ol>
      {rows < series && <p className="quiet">The other {series - rows} are as the record says.</p>}
      {groups && (
        <button
          type="button"
          className="link"
          onClick={() => commit('Make all groups alike', [{ op: 'remove', path: ['pack', 'groups'] }])}
        >
          all alike again
        </button>
      )}
    </section>
  );
}

/** A factor as a share of the bar's room. */
function share(factor: number): string {
  return `${Math.min(100, (100 * factor) / WIDEST)}%`;
}

function SideBySide({ doc, run, commit }: Props) {
  const { odd, parallel, startSoc } = doc.pack;
  if (!odd) {
    return (
      <div className={valuesCss.row}>
        <span>Cells side by side</span>
        <button
          type="button"
          className="link"
          onClick={() => commit('Say that cells differ', [oddEdit(doc, {})])}
        >
          all alike, or not?
        </button>
      </div>
    );
  }
  const field = (name: keyof OddCells, label: string, unit: string, by: number, shown?: string) => (
    <EditableQuantity
      label={`Odd cells, ${label}`}
      value={odd[name] === undefined ? undefined : by * odd[name]}
      unit={unit}
      {...(shown === undefined ? {} : { shown })}
      optional={fieldsOf(OddCells).get(name)!.optional}
      onCommit={(v) => {
        const value = v === undefined ? undefined : v / by;
        const issues = commit(`Change the odd cells’ ${label}`, [oddEdit(doc, { [name]: value })]);
        return by === 100 ? inPercent(issues, OddCells, name) : issues;
      }}
    />
  );
  const shared = run?.sharing;
  const most = (of: readonly number[]) => of.reduce((m, v) => Math.max(m, v), 0);
  const gap = shared ? most(shared.oddSoc.map((z, k) => Math.abs(z - shared.othersSoc[k]!))) : 0;
  return (
    <section className={css.groups} aria-label="Cells side by side">
      <header>
        <h5>Cells side by side</h5>
        <RemoveLink
          label="Make all cells alike"
          onClick={() => commit('Make all cells alike', [oddEdit(doc, undefined)])}
        />
      </header>
      <p>
        {field('count', 'count', '', 1)} of {parallel} in each group {odd.count === 1 ? 'holds' : 'hold'}{' '}
        {field('capacity', 'charge held', '%', 100)} with Ω × {field('resistance', 'resistance', '', 1)},
        starting from{' '}
        {field(
          'startSoc',
          'charge at the start',
          '%',
          100,
          `${Math.round(100 * (odd.startSoc ?? startSoc))} %`,
        )}
        .
      </p>
      {odd.count >= parallel && (
        <p className="quiet">There are not so many with others beside them: not counted.</p>
      )}
      {shared && (
        <div className={valuesCss.row}>
          <span>Most of one: odd, other</span>
          <b>
            {formatQuantity(most(shared.odd), 'A', 3)}, {formatQuantity(most(shared.others), 'A', 3)}
          </b>
        </div>
      )}
      {shared && (
        <div className={valuesCss.row}>
          <span>Furthest apart</span>
          <b>{Math.round(100 * gap)} % of the charge</b>
        </div>
      )}
      {!shared && run && odd.count < parallel && (
        <p className="quiet">Under a programme that repeats they are taken together.</p>
      )}
    </section>
  );
}

import type { Edit } from '@mile-thread/core/model';
import type { Commit } from '../../document/session.ts';
import { FieldRows } from '../../kit/FieldRows.tsx';
import valuesCss from '../../kit/values.module.css';
import css from './figures.module.css';

interface ListProps {
  name: string;
  entries: readonly object[];
  path: Edit['path'];
  model: new () => object;
  fresh: object;
  least?: number;
  commit: Commit;
}

/** Entries of a list, each opened to its figures, added and taken away. */
export function List({ name, entries, path, model, fresh, least = 1, commit }: ListProps) {
  return (
    <>
      {entries.map((entry, k) => (
        <details key={k} className={css.entry}>
          <summary>
            {name} {k + 1}: {summaryOf(entry)}
          </summary>
          <FieldRows
            model={model}
            value={entry}
            path={[...path, k]}
            owner={`${name} ${k + 1}`}
            commit={commit}
          />
          {entries.length > least && (
            <button
              type="button"
              className="link"
              onClick={() =>
                commit(`Remove ${name.toLowerCase()} ${k + 1}`, [{ op: 'remove', path: [...path, k] }])
              }
            >
              Remove {name.toLowerCase()} {k + 1}
            </button>
          )}
        </details>
      ))}
      <button
        type="button"
        className="link"
        onClick={() =>
          commit(`Add ${name.toLowerCase()}`, [{ op: 'add', path: [...path, entries.length], value: fresh }])
        }
      >
        + {name.toLowerCase()}
      </button>
    </>
  );
}

function summaryOf(entry: object): string {
  const { volts, amps } = entry as { volts: number; amps: number };
  return `${volts} V, ${amps} A`;
}

interface OptionalProps {
  name: string;
  value: object | undefined;
  path: Edit['path'];
  model: new () => object;
  fresh: object;
  commit: Commit;
}

/** A part that may be left out. */
export function Optional({ name, value, path, model, fresh, commit }: OptionalProps) {
  if (!value) {
    return (
      <div className={valuesCss.row}>
        <span>{name}</span>
        <button
          type="button"
          className="link"
          onClick={() => commit(`Add ${name.toLowerCase()}`, [{ op: 'add', path, value: fresh }])}
        >
          none, add
        </button>
      </div>
    );
  }
  return (
    <>
      <h6>
        {name}{' '}
        <button
          type="button"
          className="link"
          aria-label={`Remove ${name.toLowerCase()}`}
          onClick={() => commit(`Remove ${name.toLowerCase()}`, [{ op: 'remove', path }])}
        >
          remove
        </button>
      </h6>
      <FieldRows model={model} value={value} path={path} owner={name} commit={commit} />
    </>
  );
}

import { modeName, type ThreadDocument } from '@mile-thread/core/model';
import type { WorstInstant } from '@mile-thread/core/solve';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { useNeedle } from '../../document/view.ts';
import { useAnswer } from '../../jobs/client.ts';
import { ToolTable } from '../../kit/ToolTable.tsx';
import { elementName } from '../../kit/words.ts';
import css from './run.module.css';

/** When it is hardest for the cells and for each load, in which mode, and who is at a peak then. */
export function Worst({ doc }: { doc: ThreadDocument }) {
  const { data } = useAnswer('worst', [doc]);
  if (!data) return null;
  return (
    <section className={css.worst} aria-label="Worst instants">
      <header>
        <h4>Worst instants</h4>
        <span>w moves the needle from one to the next</span>
      </header>
      <ToolTable label="Worst instants" heads={['Of', 'Worst', 'When', '']}>
        {data.map((w) => (
          <tr key={w.of}>
            <th scope="row">{w.of === 'cells' ? 'one cell' : elementName(doc, w.of)}</th>
            <td>
              {w.of === 'cells' ? formatQuantity(w.value, 'A', 3) : formatQuantity(w.value, 'V', 3)}
              <small>{causeOf(doc, w)}</small>
            </td>
            <td>{formatDuration(w.time / SECONDS_PER_HOUR)}</td>
            <td>
              <button type="button" className="link" onClick={() => useNeedle.getState().moveTo(w.look)}>
                show
              </button>
            </td>
          </tr>
        ))}
      </ToolTable>
    </section>
  );
}

function causeOf(doc: ThreadDocument, { mode, peaks }: WorstInstant): string {
  const names = peaks.map((id) => `${elementName(doc, id)} at its peak`);
  return [mode === undefined ? '' : modeName(doc, mode), ...names].filter(Boolean).join(', ');
}

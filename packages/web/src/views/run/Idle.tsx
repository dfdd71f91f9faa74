import { modeName, type ThreadDocument } from '@mile-thread/core/model';
import type { Cut, RunResult } from '@mile-thread/core/solve';
import { formatQuantity, formatShelf } from '@mile-thread/core/units';
import { useAnswer } from '../../jobs/client.ts';
import { ToolTable } from '../../kit/ToolTable.tsx';
import { elementName } from '../../kit/words.ts';
import css from './run.module.css';

const A = (amps: number) => formatQuantity(amps, 'A', 3);
const lasts = (hours: number) => (hours === Infinity ? 'for ever' : formatShelf(hours));

/** What flows with every load off and asleep, and what a switch at each place would change. */
export function Idle({ doc, run: { idle } }: { doc: ThreadDocument; run: RunResult }) {
  const { data } = useAnswer('budget', [doc]);
  return (
    <>
      <section className={css.idle} aria-label="With everything off">
        <header>
          <h4>With everything off</h4>
          <span>
            to the end volts in {lasts(idle.hoursToEnd)}, to damage in {lasts(idle.hoursToDamage)}
          </span>
        </header>
        <ToolTable label="With everything off" heads={['Takes', 'Current', 'Share']}>
          {idle.items.map((i) => (
            <tr key={i.element}>
              <th scope="row">{elementName(doc, i.element)}</th>
              <td>{A(i.amps)}</td>
              <td>{Number(((100 * i.amps) / idle.amps).toPrecision(2))} %</td>
            </tr>
          ))}
        </ToolTable>
        {data && (
          <ToolTable label="Cut where" heads={['A switch here', 'Leaves', 'Keeps']}>
            {data.cuts.map((c) => (
              <tr key={c.before}>
                <th scope="row">{placeWords(doc, c)}</th>
                <td>{A(c.amps)}</td>
                <td>{lasts(c.hoursToEnd)}</td>
              </tr>
            ))}
          </ToolTable>
        )}
      </section>
      {data && data.modes.length > 0 && (
        <section className={css.idle} aria-label="Held in one mode">
          <header>
            <h4>Waiting in one mode</h4>
            <span>as long as the cells only drain: true of modes that draw little</span>
          </header>
          <ToolTable label="Waiting in one mode" heads={['Mode', 'Current', 'Keeps', 'Most of it']}>
            {data.modes.map(({ mode, idle: held }) => (
              <tr key={mode}>
                <th scope="row">{modeName(doc, mode)}</th>
                <td>{A(held.amps)}</td>
                <td>{lasts(held.hoursToEnd)}</td>
                <td>{held.items[0] ? elementName(doc, held.items[0].element) : 'nothing'}</td>
              </tr>
            ))}
          </ToolTable>
        </section>
      )}
    </>
  );
}

function placeWords(doc: ThreadDocument, { before }: Cut): string {
  if (before === 'cells') return 'at the cells';
  return before === 'protection' ? 'behind the board' : `before ${elementName(doc, before)}`;
}

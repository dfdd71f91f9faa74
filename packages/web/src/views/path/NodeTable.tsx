import { type ThreadDocument, MODE_TABLE } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import type { Instant } from '../../drawing/sample.ts';
import { elementName } from '../../kit/words.ts';
import css from './path.module.css';

/** The drawing in words: every node at the needle. For screen readers, and for reading on a narrow screen. */
export function NodeTable({ doc, instant }: { doc: ThreadDocument; instant: Instant }) {
  const row = (
    name: string,
    from: string,
    inV: number,
    inA: number,
    outV: number,
    outA: number,
    state: string,
  ) => (
    <tr key={name + from}>
      <th scope="row">{name}</th>
      <td>{from}</td>
      <td>{formatQuantity(inV, 'V')}</td>
      <td>{formatQuantity(inA, 'A')}</td>
      <td>{Number.isNaN(outV) ? '' : formatQuantity(outV, 'V')}</td>
      <td>{Number.isNaN(outA) ? '' : formatQuantity(outA, 'A')}</td>
      <td>
        {Number.isNaN(outV) ? formatQuantity(inV * inA, 'W') : formatQuantity(inV * inA - outV * outA, 'W')}
      </td>
      <td>{state}</td>
    </tr>
  );
  const pack = doc.pack.series * instant.cellVolts;
  return (
    <table
      className={css.nodeTable}
      aria-label={`The path at ${formatDuration(instant.time / SECONDS_PER_HOUR)}`}
    >
      <thead>
        <tr>
          <th scope="col">Node</th>
          <th scope="col">Fed from</th>
          <th scope="col">In, volts</th>
          <th scope="col">In, amps</th>
          <th scope="col">Out, volts</th>
          <th scope="col">Out, amps</th>
          <th scope="col">Lost or used</th>
          <th scope="col">State</th>
        </tr>
      </thead>
      <tbody>
        {row(
          'Pack',
          'cells',
          pack,
          instant.packAmps,
          instant.packVolts,
          instant.packAmps,
          `${Math.round(instant.soc * 100)} % left`,
        )}
        {doc.stages.map((s) => {
          const p = instant.stages.get(s.id)!;
          return row(
            s.name,
            elementName(doc, s.from),
            p.inputVolts,
            p.inputAmps,
            p.outputVolts,
            p.outputAmps,
            MODE_TABLE[p.mode].phrase,
          );
        })}
        {doc.loads.map((l) => {
          const p = instant.loads.get(l.id)!;
          const state = p.state === 'in' ? 'in range' : p.state === 'low' ? 'too low' : 'too high';
          return row(l.name, elementName(doc, l.from), p.volts, p.amps, NaN, NaN, state);
        })}
      </tbody>
    </table>
  );
}

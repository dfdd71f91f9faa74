import { MOST_PROGRAMMED, type Issue, type Programming } from '@mile-thread/core/model';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import css from './dial.module.css';

interface Props {
  own: Programming;
  write(label: string, next: Programming): Issue[];
}

/** How a resistance becomes a current: K over it, or by the table of a chip's sheet. */
export function ProgrammedLaw({ own, write }: Props) {
  const { factor, table } = own;
  if (!table) {
    return (
      <p>
        I ={' '}
        <EditableQuantity
          label="K of the chip"
          value={factor}
          unit="V"
          onCommit={(v) => write('Change the programming resistor', { ...own, factor: v! })}
        />{' '}
        ÷ R ·{' '}
        <button
          type="button"
          className="link"
          onClick={() => write('Set it by a table', { ...own, table: begun(own) })}
        >
          by a table
        </button>
      </p>
    );
  }
  const put = (label: string, next: typeof table) => write(label, { ...own, table: next });
  const last = table.at(-1)!;
  return (
    <div className={css.lines}>
      {table.map((line, k) => {
        const change = (field: keyof typeof line) => (v: number | undefined) =>
          put(
            'Change the table',
            table.map((l, n) => (n === k ? { ...l, [field]: v! } : l)),
          );
        return (
          <p key={k}>
            <EditableQuantity
              label={`Line ${k + 1}, resistance`}
              value={line.ohms}
              unit="Ω"
              onCommit={change('ohms')}
            />{' '}
            gives{' '}
            <EditableQuantity
              label={`Line ${k + 1}, current`}
              value={line.amps}
              unit="A"
              onCommit={change('amps')}
            />{' '}
            {table.length > 2 && (
              <button
                type="button"
                className="link"
                aria-label={`Take line ${k + 1} away`}
                onClick={() =>
                  put(
                    'Take a line of the table away',
                    table.filter((_, n) => n !== k),
                  )
                }
              >
                ×
              </button>
            )}
          </p>
        );
      })}
      <p>
        {table.length < MOST_PROGRAMMED && (
          <button
            type="button"
            className="link"
            onClick={() =>
              put('A line more', [
                ...table,
                { ohms: 2 * last.ohms, amps: Number((last.amps / 2).toPrecision(3)) },
              ])
            }
          >
            + a line
          </button>
        )}{' '}
        <button
          type="button"
          className="link"
          onClick={() => {
            const { table: gone, ...rest } = own;
            void gone;
            return write('Set it by K over R', rest);
          }}
        >
          by K ÷ R
        </button>
      </p>
    </div>
  );
}

/** A table that says what K does, to type over. */
function begun({ factor, fixed }: Programming) {
  const round = (x: number) => Number(x.toPrecision(3));
  return [0.5, 1, 2, 4].map((times) => {
    const ohms = round(times * fixed);
    return { ohms, amps: round(factor / ohms) };
  });
}

import { halfOhms, restSoc, type CellCurve } from '@mile-thread/core';
import type { CellRecord } from '@mile-thread/core/model';
import { END_WORDS } from '@mile-thread/core/solve';
import { formatDuration, formatQuantity } from '@mile-thread/core/units';
import { CopyOutlined, DeleteOutlined, EditOutlined } from '@ant-design/icons';
import { Button, Dropdown } from 'antd';
import { useMemo } from 'react';
import { LinesPlot } from '../../charts/LinesPlot.tsx';
import { ToolTable } from '../../kit/ToolTable.tsx';
import type { ThreadRow } from '../../storage/db.ts';
import { MARKS, wattHoursPerKilogram, type Entry } from './model.ts';
import css from './cells.module.css';

interface Props {
  entries: readonly Entry[];
  /** by the entry’s id, as far as they are there */
  curves: Readonly<Record<string, CellCurve>>;
  threads: readonly ThreadRow[];
  onUse(cell: CellRecord, thread: ThreadRow): void;
  /** [V] at rest whose charge is told */
  restVolts: number;
  onRemove(entry: Entry): void;
  onOpen(entry: Entry): void;
  onCopy(entry: Entry): void;
}

/** Cells side by side: their discharges in one plot, their figures in one table, and the way into a thread. */
export function Compare({ entries, curves, threads, restVolts, onUse, onRemove, onOpen, onCopy }: Props) {
  const lines = useMemo(
    () =>
      entries.flatMap(({ id, cell }, k) => {
        const curve = curves[id];
        const { colour, letter } = MARKS[k]!;
        if (!curve) return [];
        return [
          { name: `${letter} ${cell.name}`, x: curve.taken, y: curve.volts, colour },
          { name: `${letter} at rest`, x: curve.taken, y: curve.rest, colour, dash: true },
        ];
      }),
    [entries, curves],
  );
  return (
    <>
      <div className={css.plot}>
        <LinesPlot
          x={NONE}
          xUnit=" Ah"
          yUnit="V"
          lines={lines}
          fromZero={false}
          file="cells"
          label="Discharge of the chosen cells"
        />
      </div>
      <div className={css.scroll}>
        <ToolTable label="Chosen cells" heads={headsOf(restVolts)}>
          {entries.map((entry, k) => {
            const { cell, own } = entry;
            const curve = curves[entry.id];
            const perKilogram = wattHoursPerKilogram(cell);
            return (
              <tr key={entry.id}>
                <th scope="row" title={cell.source} className={css.cellName}>
                  <b style={{ color: MARKS[k]!.colour }}>{MARKS[k]!.letter}</b> {cell.name}
                </th>
                <td>{curve ? gives(curve) : '…'}</td>
                <td>{formatQuantity(halfOhms(cell), 'Ω', 3)}</td>
                <td>{restWords(cell, restVolts)}</td>
                <td>
                  {cell.dischargeRate} C / {cell.chargeRate} C
                </td>
                <td>{perKilogram === undefined ? 'not known' : Math.round(perKilogram)}</td>
                <td>{Number((100 * cell.selfDischargePerMonth).toPrecision(2))} %</td>
                <td>{formatQuantity(cell.endVolts, 'V', 3)}</td>
                <td data-grade={cell.grade}>{cell.grade}</td>
                <td className={css.deeds}>
                  <Dropdown
                    trigger={['click']}
                    menu={{
                      items: threads.map((t) => ({
                        key: t.id,
                        label: t.name,
                        onClick: () => onUse(cell, t),
                      })),
                    }}
                  >
                    <Button size="small" aria-label={`Use ${cell.name} in a thread`}>
                      Use in…
                    </Button>
                  </Dropdown>
                  {own ? (
                    <Button
                      size="small"
                      type="text"
                      aria-label={`Change the figures of ${cell.name}`}
                      title="Change its figures"
                      icon={<EditOutlined />}
                      onClick={() => onOpen(entry)}
                    />
                  ) : (
                    <Button
                      size="small"
                      type="text"
                      aria-label={`Copy ${cell.name} as your own`}
                      title="Copy it as your own"
                      icon={<CopyOutlined />}
                      onClick={() => onCopy(entry)}
                    />
                  )}
                  {own && (
                    <Button
                      size="small"
                      type="text"
                      danger
                      aria-label={`Remove ${cell.name}`}
                      title="Remove it"
                      icon={<DeleteOutlined />}
                      onClick={() => onRemove(entry)}
                    />
                  )}
                </td>
              </tr>
            );
          })}
        </ToolTable>
      </div>
    </>
  );
}

/** How full a cell is that rests at some volts. */
function restWords(cell: CellRecord, volts: number): string {
  const soc = restSoc(cell, volts);
  return soc <= 0 ? 'empty' : soc >= 1 ? 'full' : `${Math.round(100 * soc)} % full`;
}

/** What it gives down to its end voltage, or why it never gets there. */
function gives({ ah, hours, ends }: CellCurve): string {
  if (hours === 0) return `nothing: ${END_WORDS[ends]}`;
  const words = ends === 'cutoff' ? '' : `, ${END_WORDS[ends]}`;
  return `${formatQuantity(ah, 'Ah', 3)} in ${formatDuration(hours)}${words}`;
}

const NONE: number[] = [];
const headsOf = (volts: number) => [
  'Cell',
  'Gives',
  'Half full',
  `At ${formatQuantity(volts, 'V', 3)}`,
  'Out / in',
  'Wh/kg',
  'A month',
  'Ends at',
  'Figures',
  '',
];

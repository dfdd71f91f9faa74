import { CHEMISTRIES, issueSentence, type CellRecord, type ChemistryName } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { Button, Spin } from 'antd';
import { Fragment, useMemo, useState } from 'react';
import { LinesPlot } from '../../charts/LinesPlot.tsx';
import { useAnswer } from '../../jobs/client.ts';
import type { LogFile, ReadFile, ReadLogs } from '../../jobs/questions/cells.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { EditableText } from '../../kit/EditableText.tsx';
import { LogColumns } from '../../kit/LogColumns.tsx';
import { QuietSelect } from '../../kit/SelectRow.tsx';
import { COLOURS } from '../../tokens/tokens.ts';
import { MARKS } from './model.ts';
import css from './cells.module.css';

interface Props {
  files: readonly LogFile[];
  /** today, as it is read: 2026-05-01 */
  date: string;
  onFiles(files: LogFile[]): void;
  onKeep(cell: CellRecord): void;
}

/** Dropped logs: how their columns are read, what they come to, the cell they tell, or why they tell none. */
export function LogPanel({ files, date, onFiles, onKeep }: Props) {
  const [name, setName] = useState('Own cell');
  const [chemistry, setChemistry] = useState<ChemistryName>('NMC');
  const { data, error, isPlaceholderData } = useAnswer('readLogs', [files, { chemistry, date }]);
  const put = (at: number, change: Partial<LogFile>) =>
    onFiles(files.map((f, k) => (k === at ? { ...f, ...change } : f)));
  return (
    <section className={css.logs} aria-label="Dropped logs">
      <header>
        <h2>Dropped logs</h2>
        <span>discharges of one cell from full: two currents or more, colder ones besides</span>
        <Button size="small" type="text" onClick={() => onFiles([])}>
          ✕ put them away
        </Button>
      </header>
      {error && <p role="alert">{error.message}</p>}
      {!data && !error && <Spin />}
      {data && (
        <div className={css.logParts}>
          <div>
            {data.files.map((file, k) => (
              <FilePart
                key={k}
                file={file}
                onChange={(change) => put(k, change)}
                onAway={() => onFiles(files.filter((_, n) => n !== k))}
              />
            ))}
          </div>
          <div>
            <p className={css.named}>
              <EditableText label="Name of the cell" value={name} onCommit={(v) => (setName(v), [])} />
              <QuietSelect
                label="Chemistry of the cell"
                value={chemistry}
                options={CHEMISTRIES.map((c) => ({ value: c, label: c as string }))}
                onChange={(c) => setChemistry(c as typeof chemistry)}
              />
            </p>
            {data.issues.map((issue) => (
              <p key={issue.allowed} role="alert" className={css.refused}>
                ✕ {issueSentence(issue)}
              </p>
            ))}
            <Found data={data} waiting={isPlaceholderData} onKeep={(cell) => onKeep({ ...cell, name })} />
          </div>
        </div>
      )}
    </section>
  );
}

interface FileProps {
  file: ReadFile;
  onChange(change: Partial<LogFile>): void;
  onAway(): void;
}

/** One file: the first lines as they stand, and what each column is taken for. */
function FilePart({ file, onChange, onAway }: FileProps) {
  const { heads, sample, columns: now, sum, issues, celsius } = file;
  return (
    <div className={css.file}>
      <p>
        <b>{file.name}</b>{' '}
        {sum && (
          <span>
            {sum.rows} readings in {formatDuration(sum.seconds / SECONDS_PER_HOUR)},{' '}
            {formatQuantity(sum.charge / SECONDS_PER_HOUR, 'Ah', 4)} at{' '}
            {formatQuantity(sum.charge / sum.seconds, 'A', 3)}
          </span>
        )}{' '}
        <button type="button" className="link" onClick={onAway} aria-label={`Put ${file.name} away`}>
          away
        </button>
      </p>
      <div className={css.roles}>
        <LogColumns
          name={file.name}
          heads={heads}
          columns={now}
          onChange={(columns) => onChange({ columns: columns as Required<typeof columns> })}
        />
        <label>
          cell at{' '}
          <EditableQuantity
            label={`${file.name}, temperature of the cell`}
            value={celsius ?? ROOM_AIR}
            unit="°C"
            onCommit={(v) => {
              if (!(v! >= -60 && v! <= 100))
                return [{ code: 'range', path: '', given: '', allowed: '-60 to 100 °C' }];
              onChange({ celsius: v! });
              return [];
            }}
          />
        </label>
      </div>
      <table className={css.sample} aria-label={`First lines of ${file.name}`}>
        <tbody>
          {sample.map((fields, k) => (
            <tr key={k}>
              {fields.slice(0, 5).map((f, n) => (
                <td key={n}>{f}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {issues.slice(0, 3).map((issue, k) => (
        <p key={k} role="alert" className={css.refused}>
          ✕ {issueSentence(issue)}
        </p>
      ))}
    </div>
  );
}

/** [°C] of a log where nothing is said. */
const ROOM_AIR = 25;

interface FoundProps {
  data: ReadLogs;
  /** another answer is on its way */
  waiting: boolean;
  onKeep(cell: CellRecord): void;
}

/** What the logs tell: capacity, resistance, what is left over, the curve. */
function Found({ data: { curves, cell }, waiting, onKeep }: FoundProps) {
  const lines = useMemo(
    () => (curves ? [{ name: 'at rest', y: curves.ocv, colour: COLOURS.pine }] : []),
    [curves],
  );
  const left = useMemo(
    () =>
      (curves?.misses ?? []).map((m, k) => ({
        name: formatQuantity(m.amps, 'A', 2),
        x: m.soc.map((s) => 100 * s),
        y: m.volts.map((v) => 1000 * v),
        colour: MARKS[k % MARKS.length]!.colour,
      })),
    [curves],
  );
  const charge = useMemo(() => curves?.soc.map((s) => 100 * s) ?? [], [curves]);
  if (!curves || !cell) return null;
  const half = curves.ohms[curves.soc.indexOf(0.5)]!;
  return (
    <>
      <dl className={css.found}>
        <dt>Capacity</dt>
        <dd>{formatQuantity(curves.capacityAh, 'Ah', 4)}</dd>
        <dt>Resistance half full</dt>
        <dd>{formatQuantity(half, 'Ω', 3)}</dd>
        <dt>Left over, root mean square</dt>
        <dd>
          {formatQuantity(curves.residual.rms, 'V', 2)}, at most{' '}
          {formatQuantity(curves.residual.most, 'V', 2)}
        </dd>
        <dt>Two logs reach down to</dt>
        <dd>{Math.round(100 * curves.both)} %</dd>
        {curves.warmth?.celsius.map(
          (t, k) =>
            curves.warmth!.resistance[k] !== 1 && (
              <Fragment key={t}>
                <dt>At {t} °C</dt>
                <dd>
                  Ω × {curves.warmth!.resistance[k]!.toFixed(2)},{' '}
                  {Math.round(100 * curves.warmth!.capacity[k]!)} % of the charge
                </dd>
              </Fragment>
            ),
        )}
      </dl>
      <div className={css.fitted}>
        <LinesPlot
          x={charge}
          xUnit=" %"
          yUnit="V"
          lines={lines}
          fromZero={false}
          file="cell-at-rest"
          label="Volts at rest over charge"
        />
      </div>
      <div className={css.fitted}>
        <LinesPlot
          x={charge}
          xUnit=" %"
          yUnit="mV"
          lines={left}
          fromZero={false}
          file="cell-left-over"
          label="What was read less what the curves say, over charge"
        />
      </div>
      <p className="quiet">
        Below: what each log read less what the curves say of it. Resistance is that of the whole discharge:
        what a cell’s branches add is in it. Rates and self-discharge are assumed until you measure them.
      </p>
      <Button type="primary" disabled={waiting} onClick={() => onKeep(cell)}>
        Keep as a cell
      </Button>
    </>
  );
}

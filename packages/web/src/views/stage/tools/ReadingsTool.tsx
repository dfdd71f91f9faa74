import { isConverter, surroundingsOf, type LossPoint } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Alert, App as AntApp, Button, Input, Modal } from 'antd';
import clsx from 'clsx';
import { FileButton } from '../../../kit/FileButton.tsx';
import Papa from 'papaparse';
import { useMemo, useState } from 'react';
import { EfficiencyPlot } from '../../../charts/EfficiencyPlot.tsx';
import { useAnswer } from '../../../jobs/client.ts';
import { LossRows } from '../../../kit/LossRows.tsx';
import type { ToolProps } from './props.ts';
import css from './tools.module.css';

/** The stated loss: typed in, or a whole table pasted. */
export function ReadingsTool(props: ToolProps) {
  const { stage, path, commit } = props;
  const [open, setOpen] = useState(false);
  if (!isConverter(stage)) return null;
  return (
    <div className={css.tool}>
      <div className={css.toolActions}>
        <Button size="small" onClick={() => setOpen(true)}>
          Paste a table…
        </Button>
        <span className="quiet">
          {stage.parts?.used
            ? 'These readings rest: the run-down uses the parts.'
            : 'The run-down uses this.'}
        </span>
      </div>
      <LossRows
        loss={stage.loss}
        path={[...path, 'loss']}
        owner={stage.name}
        outputVolts={stage.outputVolts}
        commit={commit}
      />
      {open && <PasteTable {...props} onClose={() => setOpen(false)} />}
    </div>
  );
}

/** Largest file looked at: two thousand readings are some fifty kilobytes. */
const MOST_BYTES = 1e6;

const EXAMPLE =
  'Vin (V)\tIout (mA)\tEfficiency (%)\n9\t100\t87.2\n9\t500\t91.4\n12\t100\t85.8\n12\t500\t92.6';

/** A table of readings before it is taken over: its points, the surface through them, what is odd and what cannot be. */
function PasteTable({ doc, stage, path, sized, commit, onClose }: ToolProps & { onClose(): void }) {
  const { message } = AntApp.useApp();
  const [text, setText] = useState('');
  const converter = isConverter(stage) ? stage : undefined;
  const rows = useMemo(
    () => Papa.parse<string[]>(text.trim(), { delimitersToGuess: ['\t', ';', ',', '|'] }).data,
    [text],
  );
  const volts = converter?.outputVolts ?? 1;
  const { data: table } = useAnswer('lossTable', text.trim() ? [rows, volts] : undefined);
  const points = useMemo(() => (text.trim() ? (table?.points ?? []) : []), [text, table]);
  const tried = useMemo(
    () =>
      converter && points.length >= 2
        ? {
            ...converter,
            parts: undefined,
            loss: { basis: 'points' as const, quiescentCurrent: converter.loss.quiescentCurrent, points },
          }
        : undefined,
    [converter, points],
  );
  const range = rangeOf(points, sized.envelope.inputs);
  const { air } = surroundingsOf(doc);
  const { data: map } = useAnswer('map', tried ? [tried, range, air] : undefined);
  const readings = useMemo(
    () =>
      points.map((p, k) => {
        const odd = table?.outliers.find((o) => o.point === k);
        return {
          volts: p.inputVolts,
          amps: Math.max(p.outputAmps, range.leastAmps),
          odd: odd !== undefined,
          words: odd?.reason ?? pointWords(p),
        };
      }),
    [points, table, range.leastAmps],
  );
  if (!converter) return null;
  const take = () => {
    const loss = { basis: 'points', quiescentCurrent: converter.loss.quiescentCurrent, points };
    const issues = commit(`Take ${points.length} readings of ${stage.name}`, [
      { op: 'replace', path: [...path, 'loss'], value: loss },
      ...(converter.parts?.used
        ? [{ op: 'replace' as const, path: [...path, 'parts', 'used'], value: false }]
        : []),
    ]);
    if (issues.length > 0) return void message.error(`${issues[0]!.path} must be ${issues[0]!.allowed}`);
    onClose();
  };
  const refused = text.trim() ? (table?.refused ?? []) : [];
  return (
    <Modal
      open
      width={960}
      title={`Readings of ${stage.name}`}
      onCancel={onClose}
      okText={points.length >= 2 ? `Take ${points.length} readings` : 'Take the readings'}
      okButtonProps={{ disabled: points.length < 2 }}
      onOk={take}
    >
      <div className={css.paste}>
        <div>
          <label htmlFor="paste-table">
            From a spreadsheet or CSV: input volts, load, and efficiency or input current
          </label>
          <Input.TextArea
            id="paste-table"
            rows={12}
            value={text}
            placeholder={EXAMPLE}
            onChange={(e) => setText(e.target.value)}
            spellCheck={false}
          />
          <div className={css.toolActions}>
            <FileButton
              size="small"
              accept=".csv,.tsv,.txt"
              onFiles={([file]) => {
                if (file!.size > MOST_BYTES)
                  void message.error(`${file!.name} is too large for a table of readings.`);
                else void file!.text().then(setText);
              }}
            >
              Open a CSV file…
            </FileButton>
          </div>
          {refused.length > 0 && (
            <Alert
              type="error"
              title={`${refused.length === 1 ? 'One line is' : `${refused.length} lines are`} left out`}
              description={
                <ul className={css.pasteRefused}>
                  {refused.slice(0, 6).map((r) => (
                    <li key={r.line}>
                      line {r.line}: {r.reason}
                    </li>
                  ))}
                  {refused.length > 6 && <li>and {refused.length - 6} more</li>}
                </ul>
              }
            />
          )}
          {(table?.outliers.length ?? 0) > 0 && text.trim() && (
            <Alert
              type="warning"
              title="Worth another look; kept for now"
              description={
                <ul className={css.pasteRefused}>
                  {table!.outliers.slice(0, 6).map((o) => (
                    <li key={o.point}>
                      {formatQuantity(points[o.point]?.inputVolts ?? 0, 'V', 3)},{' '}
                      {formatQuantity(points[o.point]?.outputAmps ?? 0, 'A', 3)}: {o.reason}
                    </li>
                  ))}
                </ul>
              }
            />
          )}
        </div>
        <div>
          {map && tried ? (
            <EfficiencyPlot
              {...map}
              readings={readings}
              label={`Efficiency through ${points.length} readings`}
            />
          ) : (
            <p className={clsx('quiet', css.pasteEmpty)}>
              The points and the surface through them show here.
            </p>
          )}
        </div>
      </div>
    </Modal>
  );
}

function pointWords(p: LossPoint): string {
  const gives =
    p.efficiency !== undefined
      ? `${(100 * p.efficiency).toFixed(1)} %`
      : `takes ${formatQuantity(p.inputAmps!, 'A', 3)}`;
  return `${formatQuantity(p.inputVolts, 'V', 3)}, ${formatQuantity(p.outputAmps, 'A', 3)}: ${gives}`;
}

function rangeOf(points: readonly LossPoint[], inputs: { least: number; most: number }) {
  const volts = points.map((p) => p.inputVolts);
  const amps = points.map((p) => p.outputAmps).filter((a) => a > 0);
  const low = Math.min(...volts, inputs.least < Infinity ? inputs.least : Infinity, 1e3);
  const high = Math.max(...volts, inputs.most, 1);
  return {
    lowVolts: Math.max(0.3, low - 0.3),
    highVolts: high + 0.3,
    leastAmps: amps.length > 0 ? Math.min(...amps) / 2 : 0.01,
    mostAmps: amps.length > 0 ? Math.max(...amps) * 1.6 : 1,
  };
}

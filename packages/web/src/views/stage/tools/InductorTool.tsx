import { bare, largestBoundary, RIPPLE_RATIO, type ListedInductor } from '@mile-thread/core/design';
import { isConverter } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Button } from 'antd';
import { useMemo, useState } from 'react';
import clsx from 'clsx';
import { EditableQuantity } from '../../../kit/EditableQuantity.tsx';
import { COLOURS } from '../../../tokens/tokens.ts';
import { LinesPlot } from '../../../charts/LinesPlot.tsx';
import { useAnswer } from '../../../jobs/client.ts';
import { between } from '../../../kit/between.ts';
import type { ToolProps } from './props.ts';
import { ToolTable } from '../../../kit/ToolTable.tsx';
import css from './tools.module.css';
import tablesCss from '../../../kit/tables.module.css';

/** Inductors of the generic list that do it, and what another frequency would ask for. */
export function InductorTool({ stage, path, sized, commit }: ToolProps) {
  const [ratio, setRatio] = useState(RIPPLE_RATIO);
  const { envelope, trade } = sized;
  const parts = isConverter(stage) ? stage.parts : undefined;
  const worst = (id: string) => envelope.figures.find((f) => f.id === id)?.worst ?? 0;
  const rms = worst('inductorRms');
  const ripple = worst('inductorRipple');
  const peak = worst('inductorPeak');
  // Ripple is inverse to inductance: what is fitted, scaled to the ratio wanted.
  const inductance = parts && rms > 0 ? (parts.inductor.inductance * ripple) / (ratio * rms) : 1e-6;
  const wanted = { inductance, peak: peak - ripple / 2 + (ratio * rms) / 2, rms };
  const { data: list = [] } = useAnswer('inductors', [wanted]);
  const lines = useMemo(
    () => [{ name: 'loss', y: trade.map((t) => t.loss), colour: COLOURS.emberInk }],
    [trade],
  );
  const frequencies = useMemo(() => trade.map((t) => t.frequency), [trade]);
  if (!parts || !isConverter(stage)) return null;
  const { least: low, most: high } = envelope.inputs;
  const rectifier = 'rectifierVolts' in stage ? stage.rectifierVolts : 0;
  const edge = largestBoundary(
    stage.kind,
    { low, high },
    stage.outputVolts,
    parts.inductor.inductance,
    parts.frequency,
    rectifier,
  );
  const use = (listed: ListedInductor) =>
    commit(`Use ${formatQuantity(listed.inductance, 'H', 2)} in ${stage.name}`, [
      { op: 'replace', path: [...path, 'parts', 'inductor'], value: bare(listed) },
    ]);
  return (
    <div className={css.tool}>
      <p className={css.toolLine}>
        Ripple of{' '}
        <EditableQuantity
          label="Ripple over mean current"
          value={ratio}
          unit=""
          shown={`${Math.round(100 * ratio)} %`}
          onCommit={between(0.05, 2, '', setRatio)}
        />{' '}
        of the current asks for {formatQuantity(inductance, 'H', 2)}; peak {formatQuantity(wanted.peak, 'A')},
        RMS {formatQuantity(rms, 'A')}, a fifth of both ratings kept free.
        {edge > 0 &&
          ` With what is fitted its current reaches zero below ${formatQuantity(edge, 'A', 2)} out.`}
      </p>
      <ToolTable label="Inductors of the list" heads={['value', 'body', 'winding', 'saturates', 'RMS', '']}>
        {list.map((l) => (
          <tr key={`${l.inductance}-${l.mm.join()}`}>
            <th scope="row">{formatQuantity(l.inductance, 'H', 2)}</th>
            <td>{l.mm.join(' × ')} mm</td>
            <td>{formatQuantity(l.resistance, 'Ω', 2)}</td>
            <td>{formatQuantity(l.saturationCurrent, 'A', 2)}</td>
            <td>{formatQuantity(l.rmsCurrent, 'A', 2)}</td>
            <td>
              <Button size="small" onClick={() => use(l)}>
                Use
              </Button>
            </td>
          </tr>
        ))}
      </ToolTable>
      {list.length === 0 && (
        <p className="quiet">
          Nothing on the generic list carries this; wind your own, or raise the frequency.
        </p>
      )}
      {trade.length > 0 && (
        <>
          <h5>Loss and inductor over frequency</h5>
          <LinesPlot
            x={frequencies}
            xUnit="Hz"
            yUnit="W"
            lines={lines}
            logX
            label="Loss of the stage over its switching frequency"
          />
          <ToolTable label="Frequency trade-off" heads={['frequency', 'asks for', 'body', 'loss', '']}>
            {trade.map((t) => (
              <tr key={t.frequency} className={clsx(t.frequency === parts.frequency && tablesCss.used)}>
                <th scope="row">{formatQuantity(t.frequency, 'Hz', 2)}</th>
                <td>{formatQuantity(t.inductance, 'H', 2)}</td>
                <td>{t.inductor ? `${t.inductor.mm.join(' × ')} mm` : 'none that large'}</td>
                <td>{Number.isNaN(t.loss) ? '–' : formatQuantity(t.loss, 'W', 3)}</td>
                <td>
                  {t.inductor && (
                    <Button
                      size="small"
                      onClick={() =>
                        commit(`Switch ${stage.name} at ${formatQuantity(t.frequency, 'Hz', 2)}`, [
                          { op: 'replace', path: [...path, 'parts', 'frequency'], value: t.frequency },
                          { op: 'replace', path: [...path, 'parts', 'inductor'], value: bare(t.inductor!) },
                        ])
                      }
                    >
                      Use
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </ToolTable>
        </>
      )}
    </div>
  );
}

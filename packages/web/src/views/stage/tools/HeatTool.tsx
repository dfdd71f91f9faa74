import type { Airs } from '@mile-thread/core';
import { selfHeating, heatSink } from '@mile-thread/core/design';
import {
  isConverter,
  type Converter,
  type Rectifier,
  Surroundings,
  surroundingsOf,
} from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { useState } from 'react';
import clsx from 'clsx';
import { EditableQuantity } from '../../../kit/EditableQuantity.tsx';
import { FieldRows } from '../../../kit/FieldRows.tsx';
import { between } from '../../../kit/between.ts';
import type { ToolProps } from './props.ts';
import { ToolTable } from '../../../kit/ToolTable.tsx';
import toolsCss from './tools.module.css';
import tablesCss from '../../../kit/tables.module.css';

const AIR_WORDS: Record<keyof Airs, string> = {
  coldest: 'coldest air',
  usual: 'usual air',
  warmest: 'warmest air',
  box: 'closed box, warmest day',
};

/** Hottest part over the run in each air, and the heat sink it would take. */
export function HeatTool({ doc, stage, sized, commit }: ToolProps) {
  const [chain, setChain] = useState({ toCase: 5, toSink: 1 });
  const { heat } = sized.envelope;
  const surroundings = { ...surroundingsOf(doc) };
  const worst = heat.reduce<(typeof heat)[number] | undefined>(
    (a, b) => (!a || b.celsius > a.celsius ? b : a),
    undefined,
  );
  const resistance =
    'parts' in stage && stage.parts
      ? stage.parts.thermalResistance
      : ('thermalResistance' in stage && stage.thermalResistance) || 0;
  const watts = worst && resistance > 0 ? (worst.celsius - worst.airCelsius) / resistance : 0;
  const sink =
    worst?.limit !== undefined && watts > 0
      ? heatSink(worst.airCelsius, watts, worst.limit - 15, resistance, chain.toCase, chain.toSink)
      : undefined;
  return (
    <div className={toolsCss.tool}>
      {heat.length === 0 ? (
        <p className="quiet">
          No thermal resistance is stated for this stage; give it “Junction to air” to see its heat.
        </p>
      ) : (
        <ToolTable
          label="Hottest part in each air"
          heads={['air', 'around it', 'hottest', 'reaches', 'limit', 'when']}
        >
          {heat.map((h) => (
            <tr key={h.air}>
              <th scope="row">{AIR_WORDS[h.air]}</th>
              <td>{Math.round(h.airCelsius)} °C</td>
              <td>{h.name}</td>
              <td className={clsx(h.limit !== undefined && h.celsius > h.limit && tablesCss.over)}>
                {Math.round(h.celsius)} °C
              </td>
              <td>{h.limit === undefined ? '–' : `${h.limit} °C`}</td>
              <td>{formatDuration(h.time / SECONDS_PER_HOUR)}</td>
            </tr>
          ))}
        </ToolTable>
      )}
      {worst?.limit !== undefined && (
        <p className={toolsCss.toolLine}>
          {sink === undefined
            ? 'No heat sink is needed for 15 K of room to the limit.'
            : sink > 0
              ? `A heat sink of at most ${sink.toFixed(0)} K/W keeps 15 K of room`
              : 'No heat sink is good enough for 15 K of room: lose less'}
          {sink !== undefined && (
            <>
              , with{' '}
              <EditableQuantity
                label="Junction to case"
                value={chain.toCase}
                unit="K/W"
                onCommit={between(0, 200, 'K/W', (toCase) => setChain({ ...chain, toCase }))}
              />{' '}
              to the case and{' '}
              <EditableQuantity
                label="Case to sink"
                value={chain.toSink}
                unit="K/W"
                onCommit={between(0, 200, 'K/W', (toSink) => setChain({ ...chain, toSink }))}
              />{' '}
              to the sink.
            </>
          )}
        </p>
      )}
      {isConverter(stage) && stage.parts && !stage.parts.integrated && (
        <SelfHeating {...{ stage, sized, air: surroundings.maxAir }} />
      )}
      <h5>Where the thread works</h5>
      <FieldRows
        model={Surroundings}
        value={surroundings}
        path={['conditions']}
        owner="Surroundings"
        commit={(label, edits) =>
          doc.conditions
            ? commit(label, edits)
            : commit(label, [{ op: 'add', path: ['conditions'], value: surroundings }, ...edits])
        }
      />
      <p className="quiet">
        A burn hurts from about 60 °C on a surface that is touched; lithium cells are not to be charged below
        0 °C or run above what their data sheet allows.
      </p>
    </div>
  );
}

/** Switches whose resistance rises with their own heat: where each settles, and from which current on it does not. */
function SelfHeating({ stage, sized, air }: { stage: Converter; sized: ToolProps['sized']; air: number }) {
  const [alpha, setAlpha] = useState(0.004);
  const parts = stage.parts!;
  const lines = sized.envelope.figures.flatMap((f) => {
    const model = (parts as unknown as Record<string, Rectifier | undefined>)[f.part];
    if (!f.id.endsWith('Amps') || model?.type !== 'switch' || !(f.worst > 0)) return [];
    const { settled, runaway } = selfHeating(f.worst, model.resistance, alpha, air, parts.thermalResistance);
    const where = settled ? `${Math.round(settled.junction)} °C` : 'runs away';
    return [`${f.label.split(',')[0]} ${where}, runs away from ${formatQuantity(runaway, 'A', 2)}`];
  });
  if (lines.length === 0) return null;
  return (
    <p className={toolsCss.toolLine}>
      If the resistances are those at 25 °C and rise by{' '}
      <EditableQuantity
        label="Rise of the on-resistance per kelvin"
        value={alpha}
        unit=""
        shown={`${Number((100 * alpha).toPrecision(2))} %`}
        onCommit={between(0, 0.02, '', setAlpha)}
      />{' '}
      per kelvin, conduction alone takes them, on the warmest day, to: {lines.join('; ')}.
    </p>
  );
}

import { REGULATED_SOURCE, RINGS, toroidInductance } from '@mile-thread/core/design';
import { isConverter, OutputFilter, type OutputFilter as Filter } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Button } from 'antd';
import { useState } from 'react';
import clsx from 'clsx';
import { EditableQuantity } from '../../../kit/EditableQuantity.tsx';
import { useAnswer } from '../../../jobs/client.ts';
import { FieldRows } from '../../../kit/FieldRows.tsx';
import { between } from '../../../kit/between.ts';
import type { ToolProps } from './props.ts';
import css from './tools.module.css';

const FRESH: Filter = { inductance: 1e-6, resistance: 0.02, capacitance: 10e-6, esr: 4e-3 };

/** A coil and a capacitor behind the stage: what is left of its ripple, and where the pair rings. */
export function FilterTool({ stage, path, sized, commit }: ToolProps) {
  const converter = isConverter(stage) ? stage : undefined;
  const parts = converter?.parts;
  const filter = parts?.filter;
  const [coil, setCoil] = useState({ al: 35e-9, turns: 6 });
  const { envelope } = sized;
  const ripple = envelope.figures.find((f) => f.id === 'outputRipple')?.worst ?? 0;
  const amps = envelope.mostAmps;
  const volts = converter?.outputVolts ?? 1;
  const place = { source: REGULATED_SOURCE, load: volts / Math.max(amps, 1e-3) };
  const { data } = useAnswer(
    'filter',
    filter && parts ? [filter, place, parts.frequency, ripple] : undefined,
  );
  if (!converter || !parts) return null;
  const at = [...path, 'parts', 'filter'];
  if (!filter) {
    return (
      <div className={css.tool}>
        <p className={css.toolLine}>
          The output ripples by {formatQuantity(ripple, 'V')} at most. A small coil or ferrite bead and a
          capacitor behind the stage keep it from the load, for a little resistance in the path.
        </p>
        <Button
          size="small"
          onClick={() => commit(`Add a filter behind ${stage.name}`, [{ op: 'add', path: at, value: FRESH }])}
        >
          Add a filter
        </Button>
      </div>
    );
  }
  const db = (gain: number) => `${(20 * Math.log10(gain)).toFixed(0).replace('-', '−')} dB`;
  const wound = toroidInductance(coil.al, coil.turns);
  const rings = data !== undefined && data.peak.gain > RINGS;
  return (
    <div className={css.tool}>
      {data && (
        <dl className={css.toolFacts}>
          <div>
            <dt>at {formatQuantity(parts.frequency, 'Hz', 3)}</dt>
            <dd>{db(data.gain)}</dd>
          </div>
          <div>
            <dt>third harmonic</dt>
            <dd>{db(data.gain3)}</dd>
          </div>
          <div>
            <dt>ripple left</dt>
            <dd>{formatQuantity(data.ripple, 'V', 2)}</dd>
          </div>
          <div>
            <dt>drops</dt>
            <dd>{formatQuantity(filter.resistance * amps, 'V', 2)}</dd>
          </div>
          <div className={clsx(rings && css.short)}>
            <dt>{rings ? 'rings at' : 'quiet at'}</dt>
            <dd>
              {formatQuantity(data.peak.frequency, 'Hz', 2)}, {db(data.peak.gain)}
            </dd>
          </div>
        </dl>
      )}
      <FieldRows
        model={OutputFilter}
        value={filter}
        path={at}
        owner={`${stage.name}, filter`}
        commit={commit}
      />
      <p className={css.toolLine}>
        Wound on a toroid: A<sub>L</sub>{' '}
        <EditableQuantity
          label="A_L of the core"
          value={coil.al}
          unit="H"
          onCommit={between(1e-10, 1e-4, 'H', (al) => setCoil({ ...coil, al }))}
        />{' '}
        ×{' '}
        <EditableQuantity
          label="Turns"
          value={coil.turns}
          unit=""
          shown={`${coil.turns} turns`}
          onCommit={between(1, 500, '', (n) => setCoil({ ...coil, turns: Math.round(n) }))}
        />{' '}
        squared gives {formatQuantity(wound, 'H', 3)}{' '}
        <Button
          size="small"
          onClick={() =>
            commit('Wind the filter coil', [{ op: 'replace', path: [...at, 'inductance'], value: wound }])
          }
        >
          Use
        </Button>
      </p>
      <div className={css.toolActions}>
        {rings && data && (
          <Button
            size="small"
            onClick={() =>
              commit(`Damp the filter of ${stage.name}`, [
                {
                  op: 'replace',
                  path: at,
                  value: {
                    ...filter,
                    dampingCapacitance: data.damping.capacitance,
                    dampingResistance: Number(data.damping.resistance.toPrecision(2)),
                  },
                },
              ])
            }
          >
            Damp it: {formatQuantity(data.damping.capacitance, 'F', 2)} with{' '}
            {formatQuantity(data.damping.resistance, 'Ω', 2)}
          </Button>
        )}
        <Button
          size="small"
          onClick={() => commit(`Remove the filter of ${stage.name}`, [{ op: 'remove', path: at }])}
        >
          Remove the filter
        </Button>
      </div>
    </div>
  );
}

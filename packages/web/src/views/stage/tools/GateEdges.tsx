import { edgeTimes } from '@mile-thread/core/design';
import type { Edit, Stage } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Button } from 'antd';
import { useState } from 'react';
import { EditableQuantity } from '../../../kit/EditableQuantity.tsx';
import type { Commit } from '../../../document/session.ts';
import { between } from '../../../kit/between.ts';
import css from './tools.module.css';

interface Props {
  stage: Stage;
  /** of the switch in the document */
  path: Edit['path'];
  /** [V] [A] that it switches, [V] its gate is driven with */
  volts: number;
  amps: number;
  drive: number;
  commit: Commit;
}

/** Edge times of a switch from its gate resistor and capacitances, for data sheets that give no overlap. */
export function GateEdges({ stage, path, volts, amps, drive, commit }: Props) {
  const [gate, setGate] = useState({
    threshold: 1.8,
    gain: 20,
    gateSource: 8e-10,
    gateDrain: 1.2e-10,
    gateOhms: 5,
  });
  const t = edgeTimes({ volts, amps, drive, ...gate });
  const on = t.currentRise + t.voltageFall;
  const off = t.voltageRise + t.currentFall;
  const possible = Number.isFinite(on) && on > 0;
  const field = (key: keyof typeof gate, label: string, unit: string, least: number, most: number) => (
    <EditableQuantity
      label={label}
      value={gate[key]}
      unit={unit}
      onCommit={between(least, most, unit, (v) => setGate({ ...gate, [key]: v }))}
    />
  );
  return (
    <details className={css.gateEdges}>
      <summary>Edge times from the gate</summary>
      <p className={css.toolLine}>
        Switching {formatQuantity(volts, 'V', 3)} and {formatQuantity(amps, 'A', 3)}, driven with{' '}
        {formatQuantity(drive, 'V', 2)} through {field('gateOhms', 'Gate resistor', 'Ω', 0.1, 1e4)}; threshold{' '}
        {field('threshold', 'Threshold', 'V', 0.2, 20)}, gain {field('gain', 'Gain', 'A/V²', 0.01, 1e4)}, gate
        to source {field('gateSource', 'Gate to source', 'F', 1e-12, 1e-6)}, gate to drain{' '}
        {field('gateDrain', 'Gate to drain', 'F', 1e-13, 1e-7)}:{' '}
        {possible ? (
          <>
            on in <b>{formatQuantity(on, 's', 2)}</b>, off in <b>{formatQuantity(off, 's', 2)}</b>.{' '}
            <Button
              size="small"
              onClick={() =>
                commit(`Change the edges of ${stage.name}`, [
                  { op: 'replace', path: [...path, 'turnOnTime'], value: Number(on.toPrecision(3)) },
                  { op: 'replace', path: [...path, 'turnOffTime'], value: Number(off.toPrecision(3)) },
                ])
              }
            >
              Use
            </Button>
          </>
        ) : (
          'the drive is too low to carry that current.'
        )}
      </p>
    </details>
  );
}

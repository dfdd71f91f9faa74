import { fuseFor, gaugeFor, traceFor } from '@mile-thread/core/design';
import { isRegulated, PACK, surroundingsOf, type Lead } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Button } from 'antd';
import { useState } from 'react';
import { EditableQuantity } from '../../../kit/EditableQuantity.tsx';
import { between } from '../../../kit/between.ts';
import type { ToolProps } from './props.ts';
import { ToolTable } from '../../../kit/ToolTable.tsx';
import css from './tools.module.css';

function wires(gauge: number, length: number): Lead {
  return { gaugeSystem: 'AWG', gauge, length, parallel: 1, temperature: 25 };
}

/** Wire, board trace and fuse for the currents of this stage at their worst. */
export function CopperTool({ doc, stage, path, sized, commit }: ToolProps) {
  const [way, setWay] = useState({ length: 0.2, drop: 0.05, rise: 10, inrush: 0.01 });
  const { snapshots, mostAmps } = sized.envelope;
  const input = Math.max(0, ...snapshots.map((s) => s.iin));
  const sides = [
    { name: 'Input', amps: input, field: 'inputWires' as const },
    { name: 'Output', amps: mostAmps, field: 'outputWires' as const },
  ];
  const air = surroundingsOf(doc).maxAir;
  const fuse = fuseFor(input, 1.3 * input, way.inrush);
  return (
    <div className={css.tool}>
      <p className={css.toolLine}>
        Over{' '}
        <EditableQuantity
          label="Length one way"
          value={way.length}
          unit="m"
          onCommit={between(0.001, 100, 'm', (length) => setWay({ ...way, length }))}
        />
        , dropping at most{' '}
        <EditableQuantity
          label="Drop allowed"
          value={way.drop}
          unit="V"
          onCommit={between(0.001, 10, 'V', (drop) => setWay({ ...way, drop }))}
        />{' '}
        there and back; a trace may warm by{' '}
        <EditableQuantity
          label="Rise allowed"
          value={way.rise}
          unit="K"
          onCommit={between(1, 100, 'K', (rise) => setWay({ ...way, rise }))}
        />
        .
      </p>
      <ToolTable
        label="Wire and trace"
        heads={['side', 'worst current', 'wire', 'trace outside', 'trace inside', '']}
      >
        {sides.map(({ name, amps, field }) => {
          const gauge = amps > 0 ? gaugeFor(amps, way.length, way.drop) : undefined;
          const width = (inside: boolean) =>
            amps > 0
              ? `${(1000 * traceFor(amps, way.rise, 1, inside, way.length, air).width).toFixed(2)} mm`
              : '–';
          return (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td>{formatQuantity(amps, 'A')}</td>
              <td>{gauge === undefined ? 'several in parallel' : `AWG ${gauge} or thicker`}</td>
              <td>{width(false)}</td>
              <td>{width(true)}</td>
              <td>
                {gauge !== undefined && isRegulated(stage) && (
                  <Button
                    size="small"
                    title="Kept with the stage for the build sheet; the run does not count their resistance"
                    onClick={() =>
                      commit(`Wires of ${stage.name}`, [
                        { op: 'replace', path: [...path, field], value: wires(gauge, way.length) },
                      ])
                    }
                  >
                    {stage[field]?.gauge === gauge ? 'Chosen' : 'Choose'}
                  </Button>
                )}
              </td>
            </tr>
          );
        })}
      </ToolTable>
      <p className={css.toolLine}>
        Fuse at its input, inrush{' '}
        <EditableQuantity
          label="Melting energy of the inrush"
          value={way.inrush}
          unit="A²s"
          onCommit={between(0, 1e4, 'A²s', (inrush) => setWay({ ...way, inrush }))}
        />
        : {fuse === undefined ? 'none of the usual ratings' : formatQuantity(fuse, 'A', 3)}
        {fuse !== undefined &&
          stage.from === PACK &&
          doc.pack.fuse &&
          fuse !== doc.pack.fuse.rating &&
          doc.stages.filter((s) => s.from === PACK).length === 1 && (
            <>
              {' '}
              <Button
                size="small"
                onClick={() =>
                  commit('Change the fuse', [
                    { op: 'replace', path: ['pack', 'fuse', 'rating'], value: fuse },
                  ])
                }
              >
                Use as the pack’s
              </Button>
            </>
          )}
        . Half an ounce of copper needs twice the width; bundles and closed boxes need more. Local codes come
        first.
      </p>
    </div>
  );
}

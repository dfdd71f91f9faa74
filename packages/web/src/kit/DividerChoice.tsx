import { SERIES, type SeriesName } from '@mile-thread/core/design';
import type { Divider, Issue } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { useState } from 'react';
import { Button } from 'antd';
import clsx from 'clsx';
import { useAnswer } from '../jobs/client.ts';
import { between } from './between.ts';
import { EditableQuantity } from './EditableQuantity.tsx';
import { QuietSelect } from './SelectRow.tsx';
import { ToolTable } from './ToolTable.tsx';
import css from './dividerChoice.module.css';
import tablesCss from './tables.module.css';

const CHOICES = SERIES.map((value) => ({ value, label: value.replace('+', ' and ') }));

interface Props {
  /** the one in use */
  now: Divider | undefined;
  /** what it begins with where there is none */
  fresh: Divider;
  /** [V] it begins to look for */
  volts: number;
  onField(field: keyof Divider, value: number | undefined): Issue[];
  /** @param volts [V] that the pair gives */
  onUse(next: Divider, volts: number): void;
}

/** Feedback divider: the nearest pairs of a series, what their tolerances make of them, and their drain. */
export function DividerChoice({ now, fresh, volts, onField, onUse }: Props) {
  const d = now ?? fresh;
  const [target, setTarget] = useState(volts);
  const [series, setSeries] = useState<SeriesName>('E96');
  const [drain, setDrain] = useState({ least: 10e-6, most: 150e-6 });
  const task = {
    reference: d.reference,
    referenceTolerance: d.referenceTolerance,
    resistorTolerance: d.resistorTolerance,
    target,
    leastAmps: drain.least,
    mostAmps: drain.most,
    pinBias: d.pinBias ?? 0,
    series,
  };
  const { data: pairs = [] } = useAnswer('dividers', [task]);
  const setField = (field: keyof Divider) => (v: number | undefined) => onField(field, v);
  const percent = (v: number) => `${Number((100 * v).toPrecision(2))} %`;
  return (
    <div>
      <p className={css.line}>
        Set{' '}
        <EditableQuantity
          label="Volts to set"
          value={target}
          unit="V"
          onCommit={between(d.reference, 1000, 'V', setTarget)}
        />{' '}
        from a{' '}
        <EditableQuantity label="Reference" value={d.reference} unit="V" onCommit={setField('reference')} /> ±{' '}
        <EditableQuantity
          label="Tolerance of the reference"
          value={d.referenceTolerance}
          unit=""
          shown={percent(d.referenceTolerance)}
          onCommit={setField('referenceTolerance')}
        />{' '}
        reference with{' '}
        <QuietSelect<SeriesName>
          label="Series of the resistors"
          value={series}
          options={CHOICES}
          onChange={setSeries}
        />{' '}
        ±{' '}
        <EditableQuantity
          label="Tolerance of the resistors"
          value={d.resistorTolerance}
          unit=""
          shown={percent(d.resistorTolerance)}
          onCommit={setField('resistorTolerance')}
        />
        , draining{' '}
        <EditableQuantity
          label="Least divider current"
          value={drain.least}
          unit="A"
          onCommit={between(1e-7, drain.most, 'A', (least) => setDrain({ ...drain, least }))}
        />{' '}
        to{' '}
        <EditableQuantity
          label="Most divider current"
          value={drain.most}
          unit="A"
          onCommit={between(drain.least, 0.1, 'A', (most) => setDrain({ ...drain, most }))}
        />
        ; the pin takes up to{' '}
        <EditableQuantity
          label="Current into the feedback pin"
          value={d.pinBias ?? 0}
          unit="A"
          onCommit={setField('pinBias')}
        />
      </p>
      <ToolTable label="Divider pairs" heads={['pair', 'gives', 'worst case', 'likely', 'drain', '']}>
        {pairs.map((p) => {
          const used = now?.top === p.top && now.bottom === p.bottom;
          return (
            <tr key={`${p.top}/${p.bottom}`} className={clsx(used && tablesCss.used)}>
              <th scope="row">
                {ohms(p.top)} / {ohms(p.bottom)}
              </th>
              <td>{p.volts.toFixed(3)} V</td>
              <td>
                {p.spread.least.toFixed(2)} – {p.spread.most.toFixed(2)} V
              </td>
              <td>± {((100 * p.spread.likely) / p.spread.nominal).toFixed(1)} %</td>
              <td>{formatQuantity(p.amps, 'A', 2)}</td>
              <td>
                {used ? (
                  'in use'
                ) : (
                  <Button size="small" onClick={() => onUse({ ...d, top: p.top, bottom: p.bottom }, p.volts)}>
                    Use
                  </Button>
                )}
              </td>
            </tr>
          );
        })}
      </ToolTable>
      {pairs.length === 0 && (
        <p className="quiet">No pair draws within these limits; widen them, or use another series.</p>
      )}
    </div>
  );
}

/** As printed on the part: 102k, 9k76. IEC 60062. */
function ohms(value: number): string {
  const [scale, letter] = value >= 1e6 ? [1e6, 'M'] : value >= 1e3 ? [1e3, 'k'] : [1, 'R'];
  const text = String(Number((value / scale).toPrecision(4)));
  return text.includes('.') ? text.replace('.', letter) : `${text}${letter}`;
}

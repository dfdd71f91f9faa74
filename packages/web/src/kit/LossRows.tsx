import {
  EfficiencyLoss,
  PolynomialLoss,
  PointsLoss,
  type Edit,
  type Loss,
  type LossPoint,
} from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Button } from 'antd';
import { useState } from 'react';
import { EditableQuantity } from './EditableQuantity.tsx';
import { FieldRows } from './FieldRows.tsx';
import type { Commit } from '../document/session.ts';
import { SelectRow } from './SelectRow.tsx';
import css from './values.module.css';

interface Props {
  loss: Loss;
  path: Edit['path'];
  owner: string;
  /** [V] the stage's set output, for a new reading's start value */
  outputVolts: number;
  commit: Commit;
}

const MODELS = { efficiency: EfficiencyLoss, polynomial: PolynomialLoss, points: PointsLoss };
const BASES = [
  { value: 'efficiency', label: 'one efficiency' },
  { value: 'polynomial', label: 'loss polynomial' },
  { value: 'points', label: 'readings' },
];

/** How a converter's loss is given, and its figures. */
export function LossRows({ loss, path, owner, outputVolts, commit }: Props) {
  const swap = (basis: Loss['basis']) => {
    const quiescentCurrent = loss.quiescentCurrent;
    const fresh: Record<Loss['basis'], Loss> = {
      efficiency: { basis: 'efficiency', efficiency: 0.9, quiescentCurrent },
      polynomial: {
        basis: 'polynomial',
        fixed: 0.02,
        perOutputAmp: 0.1,
        perInputAmp: 0.05,
        perInputAmpSquared: 0.05,
        quiescentCurrent,
      },
      points: {
        basis: 'points',
        quiescentCurrent,
        points: [
          { inputVolts: outputVolts, outputAmps: 0.1, efficiency: 0.85 },
          { inputVolts: outputVolts, outputAmps: 0.5, efficiency: 0.9 },
        ],
      },
    };
    commit(`Change how ${owner} loses`, [{ op: 'replace', path, value: fresh[basis] }]);
  };
  return (
    <>
      <SelectRow
        name="Loss from"
        label={`${owner}, loss from`}
        value={loss.basis}
        options={BASES}
        onChange={swap}
      />
      <FieldRows
        model={MODELS[loss.basis]}
        value={loss}
        path={path}
        owner={owner}
        skip={['basis']}
        commit={commit}
      />
      {loss.basis === 'points' && (
        <Readings points={loss.points} path={[...path, 'points']} owner={owner} commit={commit} />
      )}
    </>
  );
}

interface ReadingsProps {
  points: LossPoint[];
  path: Edit['path'];
  owner: string;
  commit: Commit;
}

/** Rows of a long table shown at once: each is three fields to type over. */
const PAGE = 40;

function Readings({ points, path, owner, commit }: ReadingsProps) {
  const [shown, setShown] = useState(PAGE);
  const cell = (k: number, name: keyof LossPoint, unit: string, words?: string) => (
    <EditableQuantity
      label={`${owner}, reading ${k + 1}, ${name === 'inputVolts' ? 'input volts' : name === 'outputAmps' ? 'output current' : name === 'inputAmps' ? 'input current' : 'efficiency'}`}
      value={points[k]![name]}
      unit={unit}
      shown={words}
      onCommit={(value) =>
        commit(`Change a reading of ${owner}`, [{ op: 'replace', path: [...path, k, name], value }])
      }
    />
  );
  const last = points[points.length - 1]!;
  return (
    <table className={css.readings} aria-label={`${owner}, readings`}>
      <thead>
        <tr>
          <th scope="col">in</th>
          <th scope="col">out</th>
          <th scope="col">gives</th>
          <th scope="col">
            <span className="hidden">remove</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {points.slice(0, shown).map((p, k) => (
          <tr key={k}>
            <td>{cell(k, 'inputVolts', 'V')}</td>
            <td>{cell(k, 'outputAmps', 'A')}</td>
            <td>
              {p.efficiency !== undefined
                ? cell(k, 'efficiency', '', `${formatQuantity(p.efficiency * 100, '', 3)} %`)
                : cell(k, 'inputAmps', 'A')}
            </td>
            <td>
              <button
                type="button"
                className="link"
                aria-label={`Remove reading ${k + 1} of ${owner}`}
                disabled={points.length <= 2}
                onClick={() => commit(`Remove a reading of ${owner}`, [{ op: 'remove', path: [...path, k] }])}
              >
                ×
              </button>
            </td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td colSpan={4}>
            {points.length > shown && (
              <Button size="small" type="text" onClick={() => setShown(shown + 5 * PAGE)}>
                {points.length - shown} more
              </Button>
            )}
            <Button
              size="small"
              type="text"
              onClick={() => {
                setShown(Math.max(shown, points.length + 1));
                commit(`Add a reading to ${owner}`, [
                  { op: 'add', path: [...path, points.length], value: { ...last } },
                ]);
              }}
            >
              + reading
            </Button>
          </td>
        </tr>
      </tfoot>
    </table>
  );
}

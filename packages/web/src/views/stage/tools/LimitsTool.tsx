import { isRegulated, LimitSet } from '@mile-thread/core/model';
import { formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { Button } from 'antd';
import { useMemo } from 'react';
import { COLOURS } from '../../../tokens/tokens.ts';
import { LinesPlot } from '../../../charts/LinesPlot.tsx';
import { TimeMark } from '../../../charts/TimeMark.tsx';
import { FieldRows } from '../../../kit/FieldRows.tsx';
import type { ToolProps } from './props.ts';
import css from './tools.module.css';

/** What the stage could give over the discharge, and what its seller and its chip say it can. */
export function LimitsTool({ stage, path, sized, commit }: ToolProps) {
  const { limits, envelope } = sized;
  const hours = useMemo(() => limits.map((l) => l.time / SECONDS_PER_HOUR), [limits]);
  const lines = useMemo(
    () => [
      { name: 'most it can give', y: limits.map((l) => l.amps), colour: COLOURS.madder, dash: true },
      { name: 'asked', y: limits.map((l) => l.asked), colour: COLOURS.ink },
    ],
    [limits],
  );
  const { needs } = sized;
  const inputLines = useMemo(
    () => [
      {
        name: needs.passesFrom ? 'least input' : 'least input (dropout)',
        y: needs.least,
        colour: COLOURS.slateInk,
      },
      ...(needs.passesFrom
        ? [{ name: 'passes through from', y: needs.passesFrom, colour: COLOURS.saffronInk, dash: true }]
        : []),
    ],
    [needs],
  );
  const reasons = [...new Set(limits.map((l) => l.by))];
  if (!isRegulated(stage)) return null;
  return (
    <div className={css.tool}>
      {limits.length > 1 && (
        <>
          <LinesPlot x={hours} xUnit=" h" yUnit="A" lines={lines} label="Largest output current over the run">
            <TimeMark hours={hours} />
          </LinesPlot>
          <p className={css.toolLine}>
            Held by its {reasons.join(', then ')}. From {formatQuantity(envelope.inputs.first, 'V')} down to{' '}
            {formatQuantity(envelope.inputs.last, 'V')}.
          </p>
        </>
      )}
      <LinesPlot
        x={needs.amps}
        xUnit="A"
        yUnit="V"
        lines={inputLines}
        fromZero={false}
        label="Input volts needed over the load"
      />
      {(['listing', 'chip'] as const).map((name) => {
        const set = stage[name];
        const words = name === 'listing' ? 'What the listing says' : 'What the chip’s data sheet says';
        const at = [...path, name];
        return (
          <section key={name} aria-label={words}>
            <h5>{words}</h5>
            {set ? (
              <>
                <FieldRows
                  model={LimitSet}
                  value={set}
                  path={at}
                  owner={`${stage.name}, ${name}`}
                  commit={commit}
                />
                <Button
                  size="small"
                  type="text"
                  onClick={() => commit(`Forget the ${name} of ${stage.name}`, [{ op: 'remove', path: at }])}
                >
                  Remove
                </Button>
              </>
            ) : (
              <Button
                size="small"
                onClick={() =>
                  commit(`Note the ${name} of ${stage.name}`, [{ op: 'add', path: at, value: {} }])
                }
              >
                + figures
              </Button>
            )}
          </section>
        );
      })}
      <p className="quiet">
        The strictest figure of stage, listing and chip counts; a difference between the two is a finding.
      </p>
    </div>
  );
}

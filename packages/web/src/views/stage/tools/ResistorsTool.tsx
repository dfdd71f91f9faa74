import {
  E96,
  lockoutDivider,
  nearest,
  programmedAmps,
  senseLimit,
  senseResistor,
  softStartCapacitor,
  startCurrent,
} from '@mile-thread/core/design';
import { isConverter, isRegulated } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Button } from 'antd';
import { useState } from 'react';
import { EditableQuantity } from '../../../kit/EditableQuantity.tsx';
import { between } from '../../../kit/between.ts';
import type { ToolProps } from './props.ts';
import css from './tools.module.css';

/** Lock-out set to the pack, current limit, soft start, programming resistor. */
export function ResistorsTool({ doc, stage, path, sized, commit }: ToolProps) {
  const { pack } = doc;
  const floor = stage.from === 'pack' ? pack.series * pack.cell.endVolts : 0;
  const regulated = isRegulated(stage) ? stage : undefined;
  const kept = regulated?.lockout;
  const fitted = isConverter(stage) ? stage.parts : undefined;
  const [lock, setLock] = useState({
    off: kept ? regulated.minInput : floor > 0 ? floor : (regulated?.minInput ?? 3),
    hysteresis: kept ? regulated.hysteresis : 0.4,
    pin: kept?.threshold ?? 1.2,
    amps: kept?.pinCurrent ?? 2e-6,
  });
  const [sense, setSense] = useState({
    volts: fitted?.sense?.threshold ?? 0.1,
    tolerance: fitted?.sense?.tolerance ?? 0.1,
    ohms: fitted?.sense?.resistance ?? 0.05,
  });
  const [start, setStart] = useState({
    amps: fitted?.softStart?.pinCurrent ?? 5e-6,
    seconds: fitted?.softStart?.seconds ?? 5e-3,
    reference: 0.6,
  });
  const [program, setProgram] = useState({ k: 1200, ohms: 1200 });
  if (!isRegulated(stage)) return null;
  const divider = lockoutDivider(lock.off + lock.hysteresis, lock.off, lock.pin, lock.amps);
  const top = nearest(E96, divider.top);
  const bottom = nearest(E96, divider.bottom);
  const off = lock.pin * (1 + top / bottom);
  const on = off + lock.amps * top;
  const parts = isConverter(stage) ? stage.parts : undefined;
  const ripple = sized.envelope.figures.find((f) => f.id === 'inductorRipple');
  const limit = senseLimit(sense.volts, sense.tolerance, sense.ohms, 0.01, ripple?.worst ?? 0);
  const output = parts ? parts.outputCapacitor.capacitance * parts.outputCapacitor.count : 0;
  const soft = softStartCapacitor(start.amps, start.seconds, parts?.divider?.reference ?? start.reference);
  return (
    <div className={css.tool}>
      <h5>Lock-out</h5>
      <p className={css.toolLine}>
        Off below{' '}
        <EditableQuantity
          label="Lock-out volts"
          value={lock.off}
          unit="V"
          onCommit={between(lock.pin, 500, 'V', (v) => setLock({ ...lock, off: v }))}
        />
        {floor > 0 &&
          ` (the cells’ end is ${formatQuantity(floor, 'V')}, the stage’s own minimum ${formatQuantity(stage.minInput, 'V')})`}
        , on again{' '}
        <EditableQuantity
          label="Lock-out hysteresis"
          value={lock.hysteresis}
          unit="V"
          onCommit={between(0.01, 50, 'V', (v) => setLock({ ...lock, hysteresis: v }))}
        />{' '}
        above; pin at{' '}
        <EditableQuantity
          label="Threshold of the enable pin"
          value={lock.pin}
          unit="V"
          onCommit={between(0.1, lock.off, 'V', (v) => setLock({ ...lock, pin: v }))}
        />{' '}
        with{' '}
        <EditableQuantity
          label="Hysteresis current of the pin"
          value={lock.amps}
          unit="A"
          onCommit={between(1e-8, 1e-3, 'A', (v) => setLock({ ...lock, amps: v }))}
        />{' '}
        of hysteresis: <b>{formatQuantity(top, 'Ω', 3)}</b> over <b>{formatQuantity(bottom, 'Ω', 3)}</b>, off
        at {off.toFixed(2)} V, on at {on.toFixed(2)} V, drains {formatQuantity(off / (top + bottom), 'A', 2)}.{' '}
        <Button
          size="small"
          onClick={() =>
            commit(`Set the lock-out of ${stage.name}`, [
              { op: 'replace', path: [...path, 'minInput'], value: Number(off.toPrecision(3)) },
              { op: 'replace', path: [...path, 'hysteresis'], value: Number((on - off).toPrecision(2)) },
              {
                op: 'replace',
                path: [...path, 'lockout'],
                value: { top, bottom, threshold: lock.pin, pinCurrent: lock.amps },
              },
            ])
          }
        >
          Use
        </Button>
      </p>
      {parts && (
        <>
          <h5>Current sense</h5>
          <p className={css.toolLine}>
            <EditableQuantity
              label="Sense threshold"
              value={sense.volts}
              unit="V"
              onCommit={between(1e-3, 5, 'V', (v) => setSense({ ...sense, volts: v }))}
            />{' '}
            ±{' '}
            <EditableQuantity
              label="Tolerance of the threshold"
              value={sense.tolerance}
              unit=""
              shown={`${Number((100 * sense.tolerance).toPrecision(2))} %`}
              onCommit={between(0, 0.5, '', (v) => setSense({ ...sense, tolerance: v }))}
            />{' '}
            over{' '}
            <EditableQuantity
              label="Sense resistor"
              value={sense.ohms}
              unit="Ω"
              onCommit={between(1e-4, 10, 'Ω', (v) => setSense({ ...sense, ohms: v }))}
            />{' '}
            limits the peak at {formatQuantity(limit.peak, 'A')} ({formatQuantity(limit.least, 'A')} –{' '}
            {formatQuantity(limit.most, 'A')}), the mean at {formatQuantity(limit.mean, 'A')} where the ripple
            is largest
            {ripple &&
              ripple.full !== ripple.end &&
              `, ${formatQuantity(limit.peak - Math.min(ripple.full, ripple.end) / 2, 'A')} where it is least`}
            ; it burns {formatQuantity(limit.watts, 'W', 2)}.{' '}
            <Button
              size="small"
              onClick={() =>
                commit(`Limit ${stage.name} at ${formatQuantity(limit.least, 'A')}`, [
                  {
                    op: 'replace',
                    path: [...path, 'parts', 'peakLimit'],
                    value: Number(limit.least.toPrecision(3)),
                  },
                  {
                    op: 'replace',
                    path: [...path, 'parts', 'sense'],
                    value: { resistance: sense.ohms, threshold: sense.volts, tolerance: sense.tolerance },
                  },
                ])
              }
            >
              Use the least
            </Button>{' '}
            For the present limit of {formatQuantity(parts.peakLimit, 'A')} take{' '}
            {formatQuantity(senseResistor(sense.volts, sense.tolerance, 0.01, parts.peakLimit), 'Ω', 3)} at
            most.
          </p>
          <h5>Soft start</h5>
          <p className={css.toolLine}>
            In{' '}
            <EditableQuantity
              label="Start time"
              value={start.seconds}
              unit="s"
              onCommit={between(1e-5, 10, 's', (v) => setStart({ ...start, seconds: v }))}
            />{' '}
            with{' '}
            <EditableQuantity
              label="Current of the soft-start pin"
              value={start.amps}
              unit="A"
              onCommit={between(1e-8, 1e-3, 'A', (v) => setStart({ ...start, amps: v }))}
            />{' '}
            to{' '}
            <EditableQuantity
              label="Reference"
              value={parts.divider?.reference ?? start.reference}
              unit="V"
              onCommit={between(0.05, 10, 'V', (v) => setStart({ ...start, reference: v }))}
            />
            : {formatQuantity(soft, 'F', 2)}; charging its own output takes{' '}
            {formatQuantity(startCurrent(output, stage.outputVolts, start.seconds), 'A', 2)} meanwhile.{' '}
            <Button
              size="small"
              onClick={() =>
                commit(`Soft start of ${stage.name}`, [
                  {
                    op: 'replace',
                    path: [...path, 'parts', 'softStart'],
                    value: {
                      capacitance: Number(soft.toPrecision(2)),
                      pinCurrent: start.amps,
                      seconds: start.seconds,
                    },
                  },
                ])
              }
            >
              {parts.softStart ? 'Fit this one' : 'Fit it'}
            </Button>
          </p>
        </>
      )}
      <h5>Programming resistor</h5>
      <p className={css.toolLine}>
        I = K/R:{' '}
        <EditableQuantity
          label="Programming constant"
          value={program.k}
          unit="V"
          onCommit={between(1, 1e5, 'V', (v) => setProgram({ ...program, k: v }))}
        />{' '}
        over{' '}
        <EditableQuantity
          label="Programming resistor"
          value={program.ohms}
          unit="Ω"
          onCommit={between(1, 1e7, 'Ω', (v) => setProgram({ ...program, ohms: v }))}
        />{' '}
        sets {formatQuantity(programmedAmps(program.k, program.ohms), 'A')}.
      </p>
    </div>
  );
}

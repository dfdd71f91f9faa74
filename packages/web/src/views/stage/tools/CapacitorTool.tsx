import {
  capacitanceForRelease,
  capacitanceForStep,
  ceramic,
  releaseOvershoot,
  stepDip,
  stepDipPi,
} from '@mile-thread/core/design';
import { isConverter, type Capacitor } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Button } from 'antd';
import { useState } from 'react';
import { EditableQuantity } from '../../../kit/EditableQuantity.tsx';
import { between } from '../../../kit/between.ts';
import type { ToolProps } from './props.ts';
import css from './tools.module.css';

/** Zero of a usual PI controller, as a share of its crossover. Common practice, no source. */
const ZERO = 0.1;

/** Capacitance for ripple and for load steps, counted with what the DC bias leaves. */
export function CapacitorTool({ stage, path, sized, commit }: ToolProps) {
  const converter = isConverter(stage) ? stage : undefined;
  const parts = converter?.parts;
  const volts = converter?.outputVolts ?? 1;
  const { envelope } = sized;
  const [ripple, setRipple] = useState(parts?.rippleAllowed ?? 0.01 * volts);
  const [inputRipple, setInputRipple] = useState(0.01 * envelope.inputs.most || 0.1);
  const [step, setStep] = useState({
    amps: Math.max(0.01, 0.5 * envelope.mostAmps),
    crossover: (parts?.frequency ?? 5e5) / 10,
    dip: 0.03 * volts,
  });
  if (!converter || !parts) return null;
  if (!envelope.snapshots.some((s) => s.period)) {
    return (
      <p className="quiet">
        It does not switch in this run; hang a load on it to see what its capacitors carry.
      </p>
    );
  }
  const left = (c: Capacitor) => c.capacitance * c.count * c.biasShare;
  const worst = (id: string) => envelope.figures.find((f) => f.id === id)?.worst ?? 0;
  const fitted = left(parts.outputCapacitor);
  // Ripple is inverse to capacitance while the series resistance is small: what is fitted, scaled.
  const forRipple = (fitted * worst('outputRipple')) / ripple;
  const forDip = capacitanceForStep(step.amps, step.crossover, step.dip);
  const forRelease = capacitanceForRelease(volts, parts.inductor.inductance, step.amps, step.dip);
  const need = Math.max(forRipple, forDip, forRelease);
  const output = ceramic(need, volts);
  const fittedIn = left(parts.inputCapacitor);
  const input = ceramic((fittedIn * worst('inputRipple')) / inputRipple, envelope.inputs.most);
  const pieces = (c: Capacitor) => `${c.count} × ${formatQuantity(c.capacitance, 'F', 2)}`;
  const fit = (part: 'outputCapacitor' | 'inputCapacitor', value: Capacitor) =>
    commit(`Fit ${pieces(value)} in ${stage.name}`, [
      { op: 'replace', path: [...path, 'parts', part], value },
    ]);
  const largest = need === forRipple ? 'the ripple' : need === forDip ? 'the dip' : 'the release';
  return (
    <div className={css.tool}>
      <h5>Output</h5>
      <p className={css.toolLine}>
        A ripple of{' '}
        <EditableQuantity
          label="Output ripple allowed"
          value={ripple}
          unit="V"
          onCommit={between(1e-5, volts, 'V', setRipple)}
        />{' '}
        asks for {formatQuantity(forRipple, 'F', 2)}; a step of{' '}
        <EditableQuantity
          label="Load step"
          value={step.amps}
          unit="A"
          onCommit={between(1e-4, 1000, 'A', (amps) => setStep({ ...step, amps }))}
        />{' '}
        that dips or rises by{' '}
        <EditableQuantity
          label="Dip allowed"
          value={step.dip}
          unit="V"
          onCommit={between(1e-4, volts, 'V', (dip) => setStep({ ...step, dip }))}
        />{' '}
        with the loop crossing at{' '}
        <EditableQuantity
          label="Crossover of the loop"
          value={step.crossover}
          unit="Hz"
          onCommit={between(10, parts.frequency / 2, 'Hz', (crossover) => setStep({ ...step, crossover }))}
        />{' '}
        asks for {formatQuantity(forDip, 'F', 2)}, its release for {formatQuantity(forRelease, 'F', 2)}. Most
        is for {largest}: <b>{pieces(output)}</b>, {formatQuantity(left(output), 'F', 2)} left at{' '}
        {formatQuantity(volts, 'V', 3)}.{' '}
        <Button size="small" onClick={() => fit('outputCapacitor', output)}>
          Use
        </Button>
      </p>
      <p className={css.toolLine}>
        What is fitted, {formatQuantity(fitted, 'F', 2)}, dips by{' '}
        {formatQuantity(stepDip(step.amps, step.crossover, fitted), 'V', 2)} at most,{' '}
        {formatQuantity(stepDipPi(step.amps, step.crossover, fitted, ZERO), 'V', 2)} with a usual PI
        controller, and rises by{' '}
        {formatQuantity(releaseOvershoot(volts, parts.inductor.inductance, fitted, step.amps), 'V', 2)} at the
        release.
      </p>
      <h5>Input</h5>
      <p className={css.toolLine}>
        A ripple of{' '}
        <EditableQuantity
          label="Input ripple allowed"
          value={inputRipple}
          unit="V"
          onCommit={between(1e-4, 100, 'V', setInputRipple)}
        />{' '}
        at the input asks for <b>{pieces(input)}</b>, {formatQuantity(left(input), 'F', 2)} left at{' '}
        {formatQuantity(envelope.inputs.most, 'V', 3)}; fitted is {formatQuantity(fittedIn, 'F', 2)}.{' '}
        <Button size="small" onClick={() => fit('inputCapacitor', input)}>
          Use
        </Button>
      </p>
      <p className="quiet">
        Ceramics lose capacitance at their volts: the offer counts with a typical class 2 part; type over the
        share left with what its data sheet draws.
      </p>
    </div>
  );
}

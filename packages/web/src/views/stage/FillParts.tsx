import type { Envelope } from '@mile-thread/core';
import { USUAL_FREQUENCY } from '@mile-thread/core/design';
import type { Converter, Edit } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { App as AntApp, Button } from 'antd';
import { useState } from 'react';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import type { Commit } from '../../document/session.ts';
import { ask } from '../../jobs/client.ts';
import css from './stage.module.css';

interface Props {
  stage: Converter;
  path: Edit['path'];
  envelope: Envelope;
  commit: Commit;
}

/** A stage without parts: one click fills it for its own run, to be edited from there. */
export function FillParts({ stage, path, envelope, commit }: Props) {
  const { message } = AntApp.useApp();
  const [frequency, setFrequency] = useState(USUAL_FREQUENCY);
  const [busy, setBusy] = useState(false);
  const { inputs, mostAmps } = envelope;
  const known = inputs.most > 0 && inputs.least < Infinity;
  const amps = mostAmps > 0 ? mostAmps : (stage.outputLimit ?? 0.1);
  const range = known
    ? { low: inputs.least, high: inputs.most }
    : { low: stage.minInput || 1, high: stage.maxInput };
  const fill = async () => {
    setBusy(true);
    try {
      const value = await ask('parts', [stage, range, amps, frequency]);
      const issues = commit(`Fill ${stage.name} with parts`, [
        { op: 'add', path: [...path, 'parts'], value },
      ]);
      if (issues.length > 0)
        void message.error(`Not possible here: ${issues[0]!.path} must be ${issues[0]!.allowed}`);
    } catch (error) {
      void message.error((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <section className={css.fillParts} aria-label="Choose parts">
      <h3>No parts yet: its loss is only stated</h3>
      <p>
        From {formatQuantity(range.low, 'V')} to {formatQuantity(range.high, 'V')}, up to{' '}
        {formatQuantity(amps, 'A')} out, switching at{' '}
        <EditableQuantity
          label="Switching frequency"
          value={frequency}
          unit="Hz"
          onCommit={(v) => {
            if (v === undefined || v < 1e3 || v > 1e7) {
              return [
                { code: 'range', path: 'frequency', given: String(v), allowed: 'from 1 kHz to 10 MHz' },
              ];
            }
            setFrequency(v);
            return [];
          }}
        />
        : inductor from the list, ceramics with their DC bias, switches for the current, a divider from E96.
        Then type over what your data sheets say.
      </p>
      <Button type="primary" loading={busy} onClick={() => void fill()}>
        Fill with parts
      </Button>
    </section>
  );
}

import { modeName, type Load, type ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import clsx from 'clsx';
import { addPeak, MODE_UNIT, setPeak } from '../../document/programme.ts';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { QuietSelect } from '../../kit/SelectRow.tsx';
import type { Lane, Score, Spike } from './model.ts';
import { NAMES, SPIKE } from './scoreShape.ts';
import css from './needs.module.css';

/** “when it is switched on” in the list of when a peak comes. */
const SWITCHED_ON = ' on';

interface AddProps {
  doc: ThreadDocument;
  load: Load;
  score: Score;
  commit: Commit;
}

/** A peak more for a load. */
export function AddPeak({ load, commit }: AddProps) {
  const edits = addPeak(load);
  if (edits.length === 0) return null;
  return (
    <button
      type="button"
      className={clsx('link', css.addPeak)}
      aria-label={`Add a peak of ${load.name}`}
      onClick={() => commit(`Add a peak of ${load.name}`, edits)}
    >
      + peak
    </button>
  );
}

interface Props {
  doc: ThreadDocument;
  lane: Lane;
  spike: Spike;
  score: Score;
  top: number;
  commit: Commit;
}

/** What a peak is, typed over where it stands: how much, how long, when. */
export function PeakWords({ doc, lane, spike, score, top, commit }: Props) {
  const { load } = lane;
  const peak = load.peaks![spike.peak]!;
  const { x } = score.columns[spike.column]!;
  const of = `${load.name}, peak`;
  const change = (next: Parameters<typeof setPeak>[2]) =>
    commit(`Change a peak of ${load.name}`, setPeak(load, spike.peak, next));
  const unit = MODE_UNIT[peak.draw ?? load.draw];
  const modes = doc.programme ? (doc.modes ?? []) : [];
  return (
    <div className={css.peak} style={{ left: NAMES + x + SPIKE + 3, top: top + 4 }}>
      {peak.value === undefined ? (
        <>
          <EditableQuantity
            label={`${of}, times`}
            value={peak.factor}
            unit=""
            shown={`${Number(peak.factor!.toPrecision(3))} ×`}
            onCommit={(factor) => change({ factor })}
          />{' '}
          = {formatQuantity(spike.watts, 'W', 3)}
        </>
      ) : (
        <EditableQuantity label={of} value={peak.value} unit={unit} onCommit={(value) => change({ value })} />
      )}{' '}
      for{' '}
      <EditableQuantity
        label={`${of}, lasts`}
        value={peak.seconds}
        unit="s"
        shown={formatQuantity(peak.seconds, 's', 3)}
        onCommit={(seconds) => change({ seconds: seconds! })}
      />
      <span className={css.peakMore}>
        <QuietSelect
          label={`${of}, when`}
          value={peak.mode ?? SWITCHED_ON}
          options={[
            { value: SWITCHED_ON, label: 'when switched on' },
            ...modes.map((m) => ({ value: m.id, label: `at each ${modeName(doc, m.id)}` })),
          ]}
          onChange={(mode) => change({ mode: mode === SWITCHED_ON ? undefined : mode })}
        />{' '}
        every{' '}
        <EditableQuantity
          label={`${of}, every`}
          value={peak.every}
          unit="s"
          optional
          {...(peak.every === undefined ? { shown: 'once' } : {})}
          onCommit={(every) => change({ every })}
        />{' '}
        <button
          type="button"
          className="link quiet-link"
          aria-label={`Remove the peak of ${load.name}`}
          onClick={() => change(undefined)}
        >
          remove
        </button>
      </span>
    </div>
  );
}

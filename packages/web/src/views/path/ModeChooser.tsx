import type { ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { useMemo } from 'react';
import { modeAt, nearestIn } from '../../document/programme.ts';
import { useNeedle } from '../../document/view.ts';
import css from '../../kit/values.module.css';

/** The modes of a programme; one chosen moves the needle to where it is nearest. */
export function ModeChooser({ doc, run }: { doc: ThreadDocument; run: RunResult }) {
  const now = useNeedle((s) => modeAt(doc, s.time)?.id);
  const modes = useMemo(
    () =>
      doc.programme
        ? (doc.modes ?? []).filter((m) => doc.programme!.segments.some((s) => s.mode === m.id))
        : [],
    [doc],
  );
  if (modes.length < 2) return null;
  const go = (mode: string) => {
    const { time, moveTo } = useNeedle.getState();
    const to = nearestIn(doc, mode, time, run.deadEnd.time);
    if (to !== undefined) moveTo(to);
  };
  return (
    <span className={css.modeChooser} role="group" aria-label="Mode at the needle">
      {modes.map((m) => (
        <button key={m.id} type="button" aria-pressed={m.id === now} onClick={() => go(m.id)}>
          {m.name}
        </button>
      ))}
    </span>
  );
}

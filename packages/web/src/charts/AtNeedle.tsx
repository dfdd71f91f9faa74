import type { ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { useMemo, type ReactNode } from 'react';
import { useNeedle } from '../document/view.ts';
import { sampleRun, type Instant } from '../drawing/sample.ts';

interface Props {
  doc: ThreadDocument;
  run: RunResult;
  /** what to show of the instant under the needle */
  children(instant: Instant): ReactNode;
}

/**
 * Whatever moves with the needle, and nothing else: only these parts render again while it is dragged, so
 * that sixty frames a second are left for them.
 */
export function AtNeedle({ doc, run, children }: Props) {
  const time = useNeedle((s) => Math.min(s.time, s.end));
  const instant = useMemo(() => sampleRun(doc, run, time), [doc, run, time]);
  return children(instant);
}

import type { ThreadDocument } from '../model/thread.ts';
import { compile, SharedPaths } from '../plant/compile.ts';
import type { DeadReason } from './account/result.ts';
import { answersOf } from './rundown.ts';

/** How long a thread lasts where one of its modes is held from the start. */
export interface HeldMode {
  /** its id */
  mode: string;
  /** [s] until it is of no more use */
  time: number;
  /** why the pack stops giving anything */
  reason: DeadReason;
}

/** Each mode held by itself; none for a thread without modes. */
export function heldModes(doc: ThreadDocument): HeldMode[] {
  const shared = new SharedPaths();
  return (doc.modes ?? []).map(({ id }) => {
    const { usefulEnd, deadEnd } = answersOf(compile(doc, { mode: id }, shared));
    return { mode: id, time: usefulEnd.time, reason: deadEnd.reason };
  });
}

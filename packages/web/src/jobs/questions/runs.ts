import type { ThreadDocument } from '@mile-thread/core/model';
import { plantKey, simulate, type RunResult } from '@mile-thread/core/solve';

/** Rows of a run for a whole charge: as many as a plot has pixels to tell apart. */
const ROWS = 400;

/** Runs kept: what is asked about one thread, one after the other, and the one before an undo. */
const KEPT = 12;
const runs = new Map<string, RunResult>();

/** The run of a thread, rows included; kept by what matters to its numbers. */
export function runOf(doc: ThreadDocument): RunResult {
  return kept(runs, plantKey(doc), () => simulate(doc, { rows: ROWS }));
}

/** A value by its key, made where it is not there yet. */
export function kept<T>(in_: Map<string, T>, key: string, make: () => T): T {
  const value = in_.get(key) ?? make();
  // As the last one used; the one unused longest goes.
  in_.delete(key);
  in_.set(key, value);
  if (in_.size > KEPT) in_.delete(in_.keys().next().value!);
  return value;
}

import type { ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { runOf } from './runs.ts';

/** Run a thread down: the answers, which are shown first. */
export function compute(doc: ThreadDocument): RunResult {
  return runOf(doc);
}

import type { Finding } from '@mile-thread/core';
import type { ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { findingsOf, runOf } from './runs.ts';

/** Run a thread down: the answers, which are shown first. */
export function compute(doc: ThreadDocument): RunResult {
  return runOf(doc);
}

/** What the checks say of that run; ways out are tried before they are offered, so it takes longer than the run. */
export function checks(doc: ThreadDocument): Finding[] {
  return findingsOf(doc);
}

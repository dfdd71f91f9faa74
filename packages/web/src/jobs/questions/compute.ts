import type { Finding } from '@mile-thread/core';
import type { ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { findingsOf, runOf } from './runs.ts';

/** A run with what the checks say of it. */
export interface Computed {
  run: RunResult;
  findings: Finding[];
}

/** Run a thread down and check it. */
export function compute(doc: ThreadDocument): Computed {
  return { run: runOf(doc), findings: findingsOf(doc) };
}

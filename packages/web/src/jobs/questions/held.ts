import { seriesCsv } from '@mile-thread/core';
import type { ThreadDocument } from '@mile-thread/core/model';
import { heldModes, type HeldMode } from '@mile-thread/core/solve';
import { runOf } from './runs.ts';

/** How long a thread lasts in each of its modes alone. */
export function held(doc: ThreadDocument): HeldMode[] {
  return heldModes(doc);
}

/** Every row of a run as CSV. */
export function rowsCsv(doc: ThreadDocument): string {
  return seriesCsv(doc, runOf(doc).series);
}

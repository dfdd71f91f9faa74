import { crossing, type Crossing } from '@mile-thread/core';
import type { ThreadDocument } from '@mile-thread/core/model';

/** How packs of so many cells in series get to some rails: of each rail one crossing a count. */
export function reach(
  doc: ThreadDocument,
  rails: readonly string[],
  counts: readonly number[],
): Crossing[][] {
  return rails.map((rail) => counts.map((series) => crossing(doc, rail, series)));
}

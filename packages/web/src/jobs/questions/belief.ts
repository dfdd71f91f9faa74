import {
  caseRuns,
  drawHours,
  rangeOf,
  type CaseRun,
  type Drawn,
  type LifeRange,
} from '@mile-thread/core/belief';
import type { ThreadDocument } from '@mile-thread/core/model';
import type { Conditions } from '@mile-thread/core/solve';

/** A thread new, cold, hot, aged and at its worst. */
export function cases(doc: ThreadDocument): CaseRun[] {
  return caseRuns(doc);
}

/** Some of the draws that make a range. */
export function draws(
  doc: ThreadDocument,
  seed: number,
  from: number,
  to: number,
  under?: Partial<Conditions>,
): Generator<number, Drawn, undefined> {
  return drawHours(doc, seed, from, to, under);
}

/** What draws come to. */
export function range(doc: ThreadDocument, parts: Drawn[]): LifeRange {
  return rangeOf(doc, parts);
}

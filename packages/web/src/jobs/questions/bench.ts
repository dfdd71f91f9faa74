import { explain, planOf, type Explanation, type PlanStep } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import { threadKey } from '@mile-thread/core/solve';
import { kept } from './runs.ts';

const plans = new Map<string, PlanStep[]>();

/** The measuring plan of a thread. */
export function plan(doc: ThreadDocument): PlanStep[] {
  return kept(plans, threadKey(doc), () => planOf(doc));
}

/**
 * What explains how a thread's readings are off; null where none says anything.
 * @param readings how many there are: a thread's key does not know them, the question must
 */
export function* explanation(
  doc: ThreadDocument,
  readings: string,
): Generator<number, Explanation | null, undefined> {
  void readings;
  return (yield* explain(doc)) ?? null;
}

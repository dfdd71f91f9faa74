import { planOf, type PlanStep } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import { threadKey } from '@mile-thread/core/solve';
import { kept } from './runs.ts';

const plans = new Map<string, PlanStep[]>();

/** The measuring plan of a thread. */
export function plan(doc: ThreadDocument): PlanStep[] {
  return kept(plans, threadKey(doc), () => planOf(doc));
}

import { repeatsWithin } from '../model/cycle.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { FAST } from '../plant/compile.ts';
import { compileCharging } from '../plant/compileCharging.ts';
import type { Conditions } from '../plant/conditions.ts';
import type { Gone, OutageResult } from './account/outageResult.ts';
import { attempts, type RunOptions } from './keepers/ground.ts';
import { onTimeline } from './onTimeline.ts';

/**
 * A timeline of mains: where the pack gives nothing more, all is dark until mains or the loads change.
 * @param doc a thread that says how it is charged; a programmer's error otherwise
 * @param gone when mains is gone, in order, apart from each other @param horizon [s]
 */
export function outage(
  doc: ThreadDocument,
  gone: readonly Gone[],
  horizon: number,
  conditions: Partial<Conditions> = {},
  options: RunOptions = {},
): OutageResult {
  const compiled = () => compileCharging(doc, { startSoc: 1, ...conditions });
  const plant = compiled();
  const fast = plant.conditions.mode === undefined && repeatsWithin(plant.doc, FAST);
  const bleeds = plant.pack.bleeds < Infinity;
  const { first, then } = attempts(options);
  if (fast || bleeds) {
    const found = onTimeline(plant, gone, horizon, first, { byMean: false, bleeds });
    if (found.end.whole || found.end.overCharged) return found;
  }
  // Too many cycles that no skip carries, or a board that bleeds on and on: without these it is known at least about when.
  return onTimeline(compiled(), gone, horizon, then, { byMean: fast, bleeds: false });
}

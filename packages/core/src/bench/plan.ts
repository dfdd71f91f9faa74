import type { ThreadDocument } from '../model/thread.ts';
import { predictions, type Predictions } from './predict.ts';
import type { PlanStep } from './step.ts';
import { whole } from './steps/kind.ts';
import { STEP_KINDS } from './steps/registry.ts';
import { heavyModes } from './steps/underLoad.ts';

/**
 * The measuring plan of a design, in the order in which it is safe. Steps that the design has no use for are not in it; those of
 * kinds that come again in each mode stand together by modes.
 */
export function planOf(doc: ThreadDocument, { steps: found }: Predictions = predictions(doc)): PlanStep[] {
  const inModes = STEP_KINDS.filter((kind) => kind.inMode);
  const modes = doc.loads.length > 0 ? heavyModes(doc, found) : [];
  return STEP_KINDS.flatMap((kind) => {
    if (!kind.inMode) return (kind.steps?.(doc, found) ?? []).map((step) => whole(kind, step));
    if (kind !== inModes[0]) return [];
    return modes.flatMap(({ mode, as }) =>
      inModes.flatMap((one) => one.inMode!(doc, found, mode, as).map((step) => whole(one, step))),
    );
  });
}

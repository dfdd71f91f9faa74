import { fieldsOf } from './fields.ts';
import { STAGE_KINDS, type Stage } from './kinds/registry.ts';
import { relationIssues } from './stageChecks.ts';

/** Whether a number may stand in a field. */
export function fits(model: new () => object, field: string, value: number): boolean {
  const meta = fieldsOf(model).get(field);
  if (!meta || !Number.isFinite(value)) return false;
  if (meta.type === 'whole' && !Number.isInteger(value)) return false;
  return value >= (meta.min ?? -Infinity) && value <= (meta.max ?? Infinity);
}

/** Whether every number of a stage may stand where it stands, and its values go together. */
export function isPossible(stage: Stage): boolean {
  const { model } = STAGE_KINDS[stage.kind];
  const numbers = Object.entries(stage).every(
    ([field, value]) => typeof value !== 'number' || fits(model, field, value),
  );
  return numbers && relationIssues(stage, '').length === 0;
}

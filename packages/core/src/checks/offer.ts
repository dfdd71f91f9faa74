import { fieldsOf } from '../model/fields.ts';
import { relationIssues } from '../model/stageChecks.ts';
import type { Edit } from '../model/edit.ts';
import { STAGE_KINDS, type Stage } from '../model/kinds/registry.ts';
import type { Load } from '../model/load.ts';
import { MOST_STAGES, type ThreadDocument } from '../model/thread.ts';
import type { Action } from './finding.ts';

/** Actions are offered only where the model takes what they would write. */

/** Whether a number may stand in a field. */
export function fits(model: new () => object, field: string, value: number): boolean {
  const meta = fieldsOf(model).get(field);
  if (!meta || !Number.isFinite(value)) return false;
  if (meta.type === 'whole' && !Number.isInteger(value)) return false;
  return value >= (meta.min ?? -Infinity) && value <= (meta.max ?? Infinity);
}

/** An action that writes one number, where it may stand. */
export function offerNumber(
  model: new () => object,
  path: Edit['path'],
  value: number,
  label: string,
): { action: Action } | Record<string, never> {
  const field = String(path.at(-1));
  if (!fits(model, field, value)) return {};
  return { action: { label, edits: [{ op: 'replace', path, value }] } };
}

/** Whether every number of a stage may stand where it stands, and its values go together. */
export function isPossible(stage: Stage): boolean {
  const { model } = STAGE_KINDS[stage.kind];
  const numbers = Object.entries(stage).every(
    ([field, value]) => typeof value !== 'number' || fits(model, field, value),
  );
  return numbers && relationIssues(stage, '').length === 0;
}

/** The next value with two significant digits: a part is never proposed smaller than what was worked out. */
export function upToTwoDigits(value: number): number {
  const unit = 10 ** (Math.floor(Math.log10(value)) - 1);
  return Number((Math.ceil(value / unit - 1e-9) * unit).toPrecision(2));
}

/** An action that adds a stage and hangs a load on it, where its set volts are in the load's range. */
export function offerStage(
  { stages }: ThreadDocument,
  load: Load,
  stage: Stage & { outputVolts: number },
  label: string,
): { action: Action } | Record<string, never> {
  const { min, max } = load.range;
  const inRange = stage.outputVolts >= min && stage.outputVolts <= max;
  if (!inRange || stages.length >= MOST_STAGES || !isPossible(stage)) return {};
  return {
    action: {
      label,
      edits: [
        { op: 'add', path: ['stages', stages.length], value: stage },
        { op: 'replace', path: ['loads', load.id, 'from'], value: stage.id },
      ],
    },
  };
}

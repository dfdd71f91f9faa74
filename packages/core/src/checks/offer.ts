import type { Edit } from '../model/edit.ts';
import { STAGE_KINDS, type Stage, type StageKind } from '../model/kinds/registry.ts';
import { fits, isPossible } from '../model/possible.ts';
import type { Load } from '../model/load.ts';
import { MOST_STAGES, type ThreadDocument } from '../model/thread.ts';
import type { Action } from './finding.ts';

/** Actions are offered only where the model takes what they would write. */

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

/** “buck-boost”: a kind within a sentence. */
export function kindWord(kind: StageKind): string {
  return STAGE_KINDS[kind].label.toLowerCase();
}

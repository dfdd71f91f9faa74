import { structuredCloneJson } from './edit.ts';
import { Choice, PartOf, Text, Whole } from './fields.ts';
import { StageBase } from './kinds/base.ts';
import { STAGE_VARIANTS, type Stage } from './kinds/registry.ts';

export const RECORD_FORMAT = 'mile-stage';

/** A stage kept apart from any thread: a module's or a circuit's figures, to be used again. */
export class StageRecord {
  @Choice([RECORD_FORMAT], 'Marks a stage record')
  format!: typeof RECORD_FORMAT;
  @Whole(1, 1, 'Version of the format')
  version!: 1;
  @Text(120, 'Name of the record')
  name!: string;
  @Text(400, 'What it is, where its figures come from', { optional: true })
  notes?: string;
  @PartOf(() => StageBase, STAGE_VARIANTS, 'The stage; its id and place are set when it is used')
  stage!: Stage;
}

/** The stage of a record in the place of another: everything but its id, its place and its name. */
export function applyRecord(record: StageRecord, place: Stage): Stage {
  return { ...structuredCloneJson(record.stage), id: place.id, from: place.from, name: place.name };
}

/** A record of a stage as it stands in a thread. */
export function recordOf(stage: Stage, name: string): StageRecord {
  const copy = { ...structuredCloneJson(stage), id: 'record', from: 'pack' };
  return { format: RECORD_FORMAT, version: 1, name, stage: copy };
}

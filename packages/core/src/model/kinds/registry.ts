import type { StageBase, ConverterStage, RegulatedStage } from './base.ts';

/** Every kind adds its class to this list from its own file. */
// oxlint-disable-next-line typescript/no-empty-object-type
export interface StageTypes {}

/** A stage of any kind. */
export type Stage = StageTypes[keyof StageTypes];
export type StageKind = keyof StageTypes;

/** What a document needs to know of a kind; its physics and traits stand in `stages/kinds`. */
export interface KindModel<S extends StageBase = StageBase> {
  kind: string;
  model: new () => S;
  /** A complete stage with assumed values; `outputVolts` is ignored by kinds that do not regulate. */
  create(id: string, from: string, outputVolts: number): S;
  label: string;
}

type KindModels = { [K in StageKind]: KindModel<StageTypes[K]> };

/** The kinds registered, by name. Filled by `stages/kinds/registry.ts`, which has the one list. */
export const STAGE_KINDS = {} as KindModels;

/** The kinds' classes by name, for reading files. */
export const STAGE_VARIANTS = {
  property: 'kind',
  classes: {} as Record<string, new () => object>,
};

/** Take a kind up. @returns what lets it go again @throws Error when another one has its name: a programmer's mistake */
export function registerModel(entry: KindModel): () => void {
  if (entry.kind in STAGE_VARIANTS.classes) throw new Error(`registerModel: there is a kind ${entry.kind}`);
  (STAGE_KINDS as Record<string, KindModel>)[entry.kind] = entry;
  STAGE_VARIANTS.classes[entry.kind] = entry.model;
  return () => {
    delete (STAGE_KINDS as Record<string, KindModel>)[entry.kind];
    delete STAGE_VARIANTS.classes[entry.kind];
  };
}

/** A stage that holds its output at a set voltage. */
export type Regulated = Extract<Stage, RegulatedStage>;

/** True when the stage holds its output at a set voltage. */
export function isRegulated(stage: Stage): stage is Regulated {
  return 'outputVolts' in stage;
}

/** A stage with a switch and an inductor. */
export type Converter = Extract<Stage, ConverterStage>;

export function isConverter(stage: Stage): stage is Converter {
  return 'loss' in stage;
}

/**
 * The same place in the path with another kind of stage: fields both kinds have keep their values,
 * the rest take the new kind's defaults, and a name that was the old kind's becomes the new one's.
 */
export function swapKind(stage: Stage, kind: StageKind, outputVolts: number): Stage {
  const volts = isRegulated(stage) ? stage.outputVolts : outputVolts;
  const fresh = STAGE_KINDS[kind].create(stage.id, stage.from, volts);
  const kept: Record<string, unknown> = { ...fresh };
  const old = stage as unknown as Record<string, unknown>;
  for (const name of Object.keys(fresh)) if (name in old && name !== 'kind') kept[name] = old[name];
  for (const name of ['outputLimit', 'shutdownCurrent', 'listing', 'chip']) {
    if (old[name] !== undefined && isRegulated(fresh)) kept[name] = old[name];
  }
  if (stage.name === STAGE_KINDS[stage.kind].label) kept.name = STAGE_KINDS[kind].label;
  return kept as unknown as Stage;
}

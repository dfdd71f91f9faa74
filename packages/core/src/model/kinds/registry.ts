import { BoostStage, defaultBoost } from './boost.ts';
import { BuckStage, defaultBuck } from './buck.ts';
import { BuckBoostStage, defaultBuckBoost } from './buckBoost.ts';
import { DirectStage, defaultDirect } from './direct.ts';
import { LinearStage, defaultLinear } from './linear.ts';
import { SepicStage, defaultSepic } from './sepic.ts';

export type Stage = DirectStage | LinearStage | BuckStage | BoostStage | BuckBoostStage | SepicStage;
export type StageKind = Stage['kind'];

interface KindEntry {
  model: new () => Stage;
  /** A complete stage with assumed values; `outputVolts` is ignored by kinds that do not regulate. */
  create(id: string, from: string, outputVolts: number): Stage;
  label: string;
}

/** Every kind of stage: one line each. Its physics are in `stages/registry.ts`. */
export const STAGE_KINDS: Record<StageKind, KindEntry> = {
  direct: { model: DirectStage, create: defaultDirect, label: 'Direct' },
  linear: { model: LinearStage, create: defaultLinear, label: 'Linear' },
  buck: { model: BuckStage, create: defaultBuck, label: 'Buck' },
  boost: { model: BoostStage, create: defaultBoost, label: 'Boost' },
  buckBoost: { model: BuckBoostStage, create: defaultBuckBoost, label: 'Buck-boost' },
  sepic: { model: SepicStage, create: defaultSepic, label: 'SEPIC' },
};

/** The kinds' classes by name, for reading files. */
export const STAGE_VARIANTS = {
  property: 'kind',
  classes: Object.fromEntries(Object.entries(STAGE_KINDS).map(([k, e]) => [k, e.model])),
};

/** True when the stage holds its output at a set voltage. */
export function isRegulated(stage: Stage): stage is Exclude<Stage, DirectStage> {
  return stage.kind !== 'direct';
}

/** A stage with a switch and an inductor. */
export type Converter = BuckStage | BoostStage | BuckBoostStage | SepicStage;

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

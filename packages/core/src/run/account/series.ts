/** Where each value of a row stands. Node values follow `FIXED` ones: stages first, then loads. */
export const ROW = {
  /** [s] */ time: 0,
  /** 0…1 */ soc: 1,
  /** [V] one cell, at its terminals */ cellVolts: 2,
  /** [V] one cell, at rest */ restVolts: 3,
  /** [A] one cell */ cellAmps: 4,
  /** [V] where the path begins, behind protection and leads */ packVolts: 5,
  /** [A] into the path */ packAmps: 6,
} as const;
const FIXED = 7;

/** Where a stage's values stand from its first: input volts, input amps, output volts, output amps, mode. */
export const STAGE_ROW = { inputVolts: 0, inputAmps: 1, outputVolts: 2, outputAmps: 3, mode: 4 } as const;
export const PER_STAGE = 5;
/** Where a load's values stand from its first. */
export const LOAD_ROW = { volts: 0, amps: 1 } as const;
export const PER_LOAD = 2;

/**
 * The run in rows, one an instant, all values of an instant side by side. Can be sent to a worker as it is; read it
 * through a `Reading`.
 */
export interface Series {
  /** rows, stages and loads of each */
  count: number;
  stages: number;
  loads: number;
  /** whether each row ends with a charger's values */
  charger?: boolean;
  /** [row-major] count × stride */
  data: Float64Array;
}

/** Where a charger's values stand from its first, see `CHARGE_COLUMN`; the limit is an index into LIMITS. */
export const CHARGE_ROW = {
  outVolts: 0,
  outAmps: 1,
  nodeVolts: 2,
  inVolts: 3,
  inAmps: 4,
  sourceVolts: 5,
  sourceAmps: 6,
  supplied: 7,
  heat: 8,
  limit: 9,
} as const;
const PER_CHARGER = 10;

/** Values in one row. */
export function rowStride({ stages, loads, charger }: Pick<Series, 'stages' | 'loads' | 'charger'>): number {
  return loadColumn(stages, loads) + (charger ? PER_CHARGER : 0);
}

/** Column of a charger's first value. */
export function chargerColumn(stages: number, loads: number): number {
  return loadColumn(stages, loads);
}

/** Column of a stage's first value. */
export function stageColumn(stage: number): number {
  return FIXED + stage * PER_STAGE;
}

/** Column of a load's first value. */
export function loadColumn(stages: number, load: number): number {
  return FIXED + stages * PER_STAGE + load * PER_LOAD;
}

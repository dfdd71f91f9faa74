import { MECHANISMS } from '../stages/point.ts';

/**
 * Columns of a path at one voltage of the pack: the power it takes, then fifteen numbers a stage, then two a load.
 * Powers rather than currents: at constant power they stand still.
 */
export const POWER = 0;

/** Where a stage's numbers stand from its first: [V] [W] in, [V] [A] out, then its losses [W] by mechanism. */
export const STAGE_COLUMN = { inputVolts: 0, inputWatts: 1, outputVolts: 2, outputAmps: 3, loss: 4 } as const;
export const PER_STAGE = STAGE_COLUMN.loss + MECHANISMS.length;

/** Where a load's numbers stand from its first: [V] [W]. */
export const LOAD_COLUMN = { volts: 0, watts: 1 } as const;
export const PER_LOAD = 2;

/** Column of a stage's first number. */
export function stageAt(stage: number): number {
  return 1 + stage * PER_STAGE;
}

/** Column of a load's first number. */
export function loadAt(stages: number, load: number): number {
  return 1 + stages * PER_STAGE + load * PER_LOAD;
}

/** Columns in all. */
export function columnCount(stages: number, loads: number): number {
  return loadAt(stages, loads);
}

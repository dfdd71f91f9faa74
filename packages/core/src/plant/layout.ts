import { MECHANISMS } from '../stages/point.ts';

/**
 * Columns of a path at one voltage of the pack: the power it takes and the power to all loads, four numbers a stage, two
 * a load, and last the losses of each stage: rows need what stands before them, ledgers all. Powers rather than
 * currents: at constant power they stand still.
 */
export const POWER = 0;
export const DELIVERED = 1;
/** How many of them the solver asks alone at every step. */
export const LEADING = 2;

/** Where a stage's numbers stand from its first: [V] [W] in, [V] [A] out. */
export const STAGE_COLUMN = { inputVolts: 0, inputWatts: 1, outputVolts: 2, outputAmps: 3 } as const;
const PER_STAGE = 4;

/** Where a load's numbers stand from its first: [V] [W]. */
export const LOAD_COLUMN = { volts: 0, watts: 1 } as const;
export const PER_LOAD = 2;

/** Column of a stage's first number. */
export function stageAt(stage: number): number {
  return LEADING + stage * PER_STAGE;
}

/** Column of a load's first number. */
export function loadAt(stages: number, load: number): number {
  return LEADING + stages * PER_STAGE + load * PER_LOAD;
}

/** Column of a stage's first loss [W], by mechanism. Also: how many columns stand before the losses. */
export function lossAt(stages: number, loads: number, stage = 0): number {
  return loadAt(stages, loads) + stage * MECHANISMS.length;
}

/** Columns in all. */
export function columnCount(stages: number, loads: number): number {
  return lossAt(stages, loads, stages);
}

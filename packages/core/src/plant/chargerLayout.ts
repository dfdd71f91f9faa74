import { MECHANISMS } from '../stages/point.ts';
import { columnCount } from './layout.ts';

/** Where a charger's numbers stand from its first column. [V] [W] [A] */
export const CHARGE_COLUMN = {
  outVolts: 0,
  outAmps: 1,
  nodeVolts: 2,
  inVolts: 3,
  inAmps: 4,
  sourceVolts: 5,
  sourceAmps: 6,
  supplied: 7,
  wallLoss: 8,
  droopLoss: 9,
  cableLoss: 10,
  diodeLoss: 11,
  pathLoss: 12,
  heat: 13,
  losses: 14,
} as const;
/** How many there are. */
export const CHARGE_COLUMNS = CHARGE_COLUMN.losses + MECHANISMS.length;

/** Added to who carries where the adapter gives all it may. */
export const FULL = 8;

/** Column of a charger's first number. */
export function chargerAt(stages: number, loads: number): number {
  return columnCount(stages, loads);
}

/** What decides how much the charger gives, by a path's signature: an index into LIMITS. */
export function limitIn(signature: Int32Array, stages: number, loads: number): number {
  return signature[2 * stages + loads]!;
}

/** What has come of what is watched, by a path's signature; see WATCHED. */
export function watchedIn(signature: Int32Array, stages: number, loads: number): number {
  return signature[2 * stages + loads + 1]!;
}

/** Who carries a rail where adapter and battery meet, by a path's signature; see CARRIES. */
export function carriesIn(signature: Int32Array, stages: number, loads: number): number {
  return signature[2 * stages + loads + 2]! % FULL;
}

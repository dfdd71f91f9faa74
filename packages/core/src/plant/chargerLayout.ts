import { MECHANISMS } from '../stages/point.ts';
import { columnCount } from './layout.ts';

/** Where a charger's numbers stand from its first column. [V] [W] [A] */
export const CHARGE_COLUMN = {
  outVolts: 0,
  outAmps: 1,
  inVolts: 2,
  inAmps: 3,
  sourceVolts: 4,
  sourceAmps: 5,
  supplied: 6,
  wallLoss: 7,
  droopLoss: 8,
  cableLoss: 9,
  diodeLoss: 10,
  pathLoss: 11,
  heat: 12,
  losses: 13,
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

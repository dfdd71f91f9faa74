import type { Decides } from '../../charging/phases.ts';
import type { Grade } from '../../model/grade.ts';
import type { Ledger } from './account.ts';
import type { CellWarmth, Counts } from './result.ts';
import type { Series } from './series.ts';

/**
 * Why a charge ends. `never`: it does not, by itself; what it settles at is told beside. `overCharged`: the cells rest far above
 * their full volts. `cold`, `hot`: its thermistor lets it not begin.
 */
export type ChargeEnd =
  | 'terminated'
  | 'timer'
  | 'prechargeTimer'
  | 'never'
  | 'overCharged'
  | 'overVoltage'
  | 'cold'
  | 'hot'
  | 'drained'
  | 'unfinished';

/** Whether a charge that ends so leaves the pack as full as it is to be. */
export function endsFull(reason: ChargeEnd): boolean {
  return reason === 'terminated';
}

/** A stretch of a charge in which one thing decides how much flows. */
export interface ChargePhase {
  limit: Decides;
  /** [s] */
  from: number;
  to: number;
  /** state of charge at both ends */
  fromSoc: number;
  toSoc: number;
  /** [J] from the source, kept in the cells, and turned to heat in the cells and in the charger */
  supplied: number;
  kept: number;
  cellHeat: number;
  chargerHeat: number;
}

/** What keeps a charge from ending. */
export type Keeps = 'load' | 'noEnd' | 'headroom' | 'heat' | 'source' | 'letsGo' | 'lockOut' | 'slow';

/** How the groups stood through a charge. */
export interface Balanced {
  /** [s] that each bled */
  bled: number[];
  /** [s] that the board would have to bleed from the start until all lack as much; absent where it bleeds nothing */
  toEven?: number;
  /** which stood highest from when on, by its place; [s] */
  highest: { group: number; from: number }[];
}

/** Groups that differ, at the end of a charge. */
export interface GroupsCharged extends Balanced {
  /** state of charge of each, and [V] of one of its cells at its terminals */
  soc: number[];
  volts: number[];
  /** the one that stands highest, by its place */
  fullest: number;
}

/** A whole charge. Plain values: it can cross to and from a worker. */
export interface ChargeResult {
  end: {
    /** [s] */
    time: number;
    reason: ChargeEnd;
    /** state of charge there, and [V] of one cell at its terminals and at rest */
    soc: number;
    cellVolts: number;
    restVolts: number;
    /** what keeps it from ending, where it does not */
    keeps?: Keeps;
    /** [A] that the charger gives there */
    amps: number;
  };
  /** [s] at which 80 % and 99 % of the charge are reached; absent where they are not */
  to80?: number;
  to99?: number;
  phases: ChargePhase[];
  ledger: Ledger;
  /** [A] largest of one cell, as a rate, with [s] when; and of the source */
  fastest: { amps: number; rate: number; time: number };
  /** [°C] hottest junction of the charger as stated, with [W] and [s]; absent where its heat is not followed */
  hottest?: { celsius?: number; watts: number; time: number };
  /** [W] most heat of the charger before the fast charge */
  prechargeHeat: number;
  /** [A] most from the source, and [V] lowest at the charger's input while it works */
  mostSource: number;
  lowestInput: number;
  /** of groups that differ */
  groups?: GroupsCharged;
  /** of cells that warm themselves */
  warmth?: CellWarmth;
  /** the mode the loads were held in, where their programme is too fast to be followed */
  heldIn?: string;
  grade: Grade;
  gradeFrom: { element: string; grade: Grade }[];
  counts: Counts;
  series: Series;
}

import type { Grade } from '../model/grade.ts';
import type { Mode } from '../stages/point.ts';
import type { Idle } from './idle.ts';
import type { Ledger } from './ledger.ts';
import type { Nose } from './nose.ts';
import type { Series } from './series.ts';

export type DeadReason = 'cutoff' | 'trip' | 'collapse' | 'empty' | 'nothingDraws' | 'timeLimit';

/** When and why the pack stops giving anything. */
export interface DeadEnd {
  /** [s] */
  time: number;
  reason: DeadReason;
  /** Largest power the pack could give when it collapsed. */
  nose?: Nose;
}

/** When and why the run stops being of use. */
export interface UsefulEnd {
  /** [s] */
  time: number;
  /** The essential load that left its range first; absent when the pack ended before any did. */
  load?: { id: string; side: 'low' | 'high'; volts: number };
  /** What made it leave, where a stage did: the stage nearest to the load that does not regulate, and its mode. */
  stage?: { id: string; mode: Mode };
}

/** A stretch of the run in which a stage works in one way. [s] */
export interface ModeInterval {
  from: number;
  to: number;
  mode: Mode;
}

/** A stretch of the run in which a load is in range, low or high. [s] */
export interface RangeInterval {
  from: number;
  to: number;
  state: 'in' | 'low' | 'high';
}

/** A stage that tried to start again and fell back, again and again. */
export interface Cycling {
  stage: string;
  /** [s] */
  time: number;
}

/** A whole run-down. Plain values: it can cross to and from a worker. */
export interface RunResult {
  series: Series;
  usefulEnd: UsefulEnd;
  deadEnd: DeadEnd;
  /** the account at the useful end */
  ledger: Ledger;
  /** the account at the dead end */
  ledgerAtDead: Ledger;
  /** [J] above the cells' end voltage at the useful end */
  leftBehind: number;
  /** state of charge at the useful end */
  socAtUseful: number;
  /** largest current of one cell up to the useful end */
  worstCell: { amps: number; rate: number; time: number };
  stageModes: Record<string, ModeInterval[]>;
  loadRanges: Record<string, RangeInterval[]>;
  cycling: Cycling[];
  /** stages whose measured table was left during the run */
  extended: string[];
  idle: Idle;
  grade: Grade;
  /** what the grade rests on, worst first */
  gradeFrom: { element: string; grade: Grade }[];
  /** steps taken and rejected, for the curious and the tests */
  counts: { steps: number; rejected: number; located: number };
}

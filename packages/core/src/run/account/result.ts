import type { Grade } from '../../model/grade.ts';
import type { Mode } from '../../stages/modes.ts';
import type { Ledger } from './account.ts';
import type { Series } from './series.ts';

/**
 * Why a run ends. `unfinished`: the searches it took were given up after their allowance; everything up to there holds,
 * what follows is not known.
 */
export type DeadReason =
  | 'cutoff'
  | 'trip'
  | 'short'
  | 'collapse'
  | 'empty'
  | 'nothingDraws'
  | 'timeLimit'
  | 'charged'
  | 'unfinished';

/** The most a pack can give into this path at one state of charge. */
export interface Nose {
  /** [V] where the path begins */
  volts: number;
  /** [A] */
  amps: number;
  /** [W] into the path */
  watts: number;
  /** [W] to all loads together */
  loadWatts: number;
  /** how many times the loads' present draw that is */
  scale: number;
}

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
  /** What made it leave, where a stage did: the stage nearest to the pack that does not hold, and its mode. */
  stage?: { id: string; mode: Mode };
}

/** A stretch of the run in which a stage works in one way. [s] */
export interface ModeInterval {
  /** [s] */
  from: number;
  to: number;
  mode: Mode;
}

/** A stretch of the run in which a load is in range, low or high. [s] */
export interface RangeInterval {
  /** [s] */
  from: number;
  to: number;
  state: 'in' | 'low' | 'high';
}

/** A stage that tried to start again and fell back. */
export interface Cycling {
  stage: string;
  /** [s] */
  time: number;
}

/** What a mode of the programme had of the run. */
export interface ModeShare {
  /** its id */
  mode: string;
  /** [s] */
  seconds: number;
  /** [J] out of the pack into the path, and to the loads */
  joules: number;
  delivered: number;
  /** [V] lowest where the path begins, and [s] when; absent where the mode was never reached */
  lowest?: { volts: number; time: number };
}

/** What came of a programme up to the useful end. */
export interface Worked {
  /** whole cycles done */
  cycles: number;
  /** the mode in which it ended; absent of a thread without modes */
  endsIn?: string;
  modes: ModeShare[];
  /** times each load has started anew, of those that did, by its id */
  resets: Record<string, number>;
}

/** How a run was worked out, for tests and the curious. */
export interface Counts {
  /** steps taken, tried and found too long, and events met */
  steps: number;
  rejected: number;
  located: number;
  /** Newton sweeps of all steps */
  sweeps: number;
  /** steps made by the present current alone, since none could be solved */
  crept: number;
  /** demands of rails worked out, those behind parts counted fivefold, and pieces they were kept in */
  work: number;
  pieces: number;
  /** instants taken up on a jump of the demand, and searches that ended with no root or out of calls */
  jumps: number;
  none: number;
  unconverged: number;
  /** cycles of a programme taken one by one, and those skipped */
  cycles: number;
  skipped: number;
  /** stages held as collapsed since a search of theirs found no end in reasonable time */
  abandoned: number;
}

/** How warm the cells were up to the useful end: [°C] coldest and warmest with [s] when, and at that end. */
export interface CellWarmth {
  least: { celsius: number; time: number };
  most: { celsius: number; time: number };
  end: number;
}

/** How odd cells and those beside them share a run, from instant to instant: state of charge and [A] out of one of each. */
export interface SharedCourse {
  /** [s] */
  time: number[];
  oddSoc: number[];
  othersSoc: number[];
  odd: number[];
  others: number[];
}

/** How groups that differ stand where the run ends for good, each from the negative end of the pack. */
export interface GroupsAtEnd {
  /** place of the one that stands lowest */
  weakest: number;
  /** state of its own charge */
  soc: number[];
  /** [V] of one cell at its terminals */
  volts: number[];
  /** [J] in each above the cell's end voltage at rest */
  left: number[];
}

/** What is known of a run without its rows. Plain values: it can cross to and from a worker. */
export interface RunAnswers {
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
  /** of a pack whose groups differ */
  groups?: GroupsAtEnd;
  /** of cells side by side that differ, where it was followed how they share */
  sharing?: SharedCourse;
  /** of cells that warm themselves */
  warmth?: CellWarmth;
  stageModes: Record<string, ModeInterval[]>;
  loadRanges: Record<string, RangeInterval[]>;
  cycling: Cycling[];
  /** of a thread with a programme */
  worked?: Worked;
  /** stages whose measured table was left during the run */
  extended: string[];
  grade: Grade;
  /** what the grade rests on, worst first */
  gradeFrom: { element: string; grade: Grade }[];
  counts: Counts;
}

/** What the path's volts did in one cycle. */
export interface EnvelopeRow {
  /** [s] where the cycle begins, and its state of charge */
  time: number;
  soc: number;
  /** [V] where the path begins: lowest, mean by charge, highest */
  least: number;
  mean: number;
  most: number;
  /** [W] mean into the path */
  watts: number;
}

/** What flows with every load off. */
export interface Idle {
  /** [A] out of the pack at the start of the run, everything off */
  amps: number;
  /** [A] by element, largest first */
  items: { element: string; amps: number }[];
  /** [h] on the shelf until the cells rest at their end voltage; Infinity when nothing drains them */
  hoursToEnd: number;
  /** [h] on the shelf until the cells rest at the voltage that damages them */
  hoursToDamage: number;
}

/** A whole run-down, with its rows and what flows with everything off. */
export interface RunResult extends RunAnswers {
  series: Series;
  idle: Idle;
  /** of a programme: what each whole cycle did, those skipped by a few of them */
  envelope?: EnvelopeRow[];
}

/** Runs: compile a thread, run it down, read what came of it. */
export { compile, type Plant } from './plant/compile.ts';
export type { Conditions } from './plant/conditions.ts';
export { plantKey, readingsKey, threadKey } from './plant/key.ts';
export { finish } from './numeric/finish.ts';
export { heldModes, type HeldMode } from './run/held.ts';
export { idleBudget, type Cut, type IdleBudget } from './run/idleBudget.ts';
export { cycleAt, type OneCycle } from './run/oneCycle.ts';
export { worstInstants, type WorstInstant } from './run/reading/worst.ts';
export type { Ledger, LedgerEntry } from './run/account/account.ts';
export { OPEN_WORDS, quickLook, type Open, type Quick } from './run/quickLook.ts';
export { Reading, readingOf, type Extremes, type StageReading } from './run/reading/reading.ts';
export type {
  Counts,
  DeadEnd,
  DeadReason,
  EnvelopeRow,
  Idle,
  ModeInterval,
  ModeShare,
  RangeInterval,
  RunAnswers,
  RunResult,
  UsefulEnd,
} from './run/account/result.ts';
export { answersOf, runPlant, simulate, type RunOptions } from './run/rundown.ts';
export { ROW, type Series } from './run/account/series.ts';
export { END_WORDS } from './words/ends.ts';

/** Runs: compile a thread, run it down, read what came of it. */
export { compile, type Plant } from './plant/compile.ts';
export type { Conditions } from './plant/conditions.ts';
export { plantKey, readingsKey, threadKey } from './plant/key.ts';
export { finish } from './numeric/finish.ts';
export { heldModes, type HeldMode } from './solver/held.ts';
export { runMany, type Candidate } from './solver/batch.ts';
export type { Idle } from './solver/idle.ts';
export { idleBudget, type Cut, type IdleBudget } from './solver/idleBudget.ts';
export { cycleAt, type OneCycle } from './solver/oneCycle.ts';
export { worstInstants, type WorstInstant } from './solver/worst.ts';
export type { Ledger, LedgerEntry } from './solver/ledger.ts';
export { Reading, readingOf, type Extremes, type StageReading } from './solver/reading.ts';
export type {
  Counts,
  DeadEnd,
  DeadReason,
  EnvelopeRow,
  ModeInterval,
  ModeShare,
  RangeInterval,
  RunAnswers,
  RunResult,
  UsefulEnd,
} from './solver/result.ts';
export { answersOf, runPlant, simulate, type RunOptions } from './solver/rundown.ts';
export { ROW, type Series } from './solver/series.ts';
export { END_WORDS } from './words/ends.ts';

import type { DeadReason } from '../account/result.ts';

/** What is given from outside, and when it changes: a programme of the loads, mains. */
export interface Track {
  /** [s] when it changes next; Infinity: never again */
  readonly next: number;
  /** Set everything as it is at the beginning. */
  begin(): void;
  /**
   * It changes, or has changed while nobody looked: set everything as it is at the present time.
   * @returns what came of that
   */
  turn(): Turned;
  /** The run has ended within it. */
  close?(): void;
}

/** What a change from outside came to: the loads are others, the source is another, nothing at all, or the end of the run. */
export type Turned = 'loads' | 'source' | 'nothing' | { ends: DeadReason };

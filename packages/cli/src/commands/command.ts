import type { ThreadDocument } from '@mile-thread/core/model';

/** What the exit codes say; documented in the README. */
export const EXIT = { met: 0, notMet: 1, usage: 2, badFile: 3 } as const;

/** Every option any command takes, as `parseArgs` reads them. */
export const OPTIONS = {
  json: { type: 'boolean' },
  csv: { type: 'string' },
  stage: { type: 'string' },
  at: { type: 'string' },
  cycle: { type: 'string' },
  charge: { type: 'boolean' },
  transfer: { type: 'boolean' },
  years: { type: 'string' },
  log: { type: 'string' },
} as const;

/** What was given of them. */
export interface Values {
  json?: boolean;
  csv?: string;
  stage?: string;
  at?: string;
  cycle?: string;
  charge?: boolean;
  transfer?: boolean;
  years?: string;
  log?: string;
}

/** One command: what it is called with, what it says of itself, and what it does. Help and usage follow from it. */
export interface Command {
  name: string;
  /** ways to call it, each with lines that say what comes of it */
  usage: readonly { args: string; says: readonly string[] }[];
  options: readonly (keyof Values)[];
  /** whether the first word is a thread, which it is then given */
  reads: boolean;
  /** words behind that: so many, or from so many on */
  words: number | { least: number };
  /** What is wrong with what was asked, in a sentence; undefined where nothing is. */
  refuses?(words: readonly string[], values: Values): string | undefined;
  /** @param doc the thread, where it reads one @returns the exit code */
  run(doc: ThreadDocument, words: readonly string[], values: Values): number;
}

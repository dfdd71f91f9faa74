import type { ThreadDocument } from '../model/thread.ts';
import { compile, SharedPaths } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import type { RunAnswers } from './account/result.ts';
import { answersOf, type RunOptions } from './rundown.ts';

/** One of many runs: a thread, and the conditions it is run under where they are not its own. */
export interface Candidate {
  doc: ThreadDocument;
  conditions?: Partial<Conditions>;
}

/**
 * Candidates run in one go before they are handed over: a few at first, so that something is there to see, then more each
 * time.
 */
export const CHUNKS = { first: 4, growth: 4, most: 128 } as const;

/**
 * Answers of many threads that share cells, readings and paths: tables are prepared once for all of them. Yields them in
 * order, a chunk at a time; whoever asks may stop between two chunks.
 * @param candidates in the order wanted; equal paths next to each other cost least
 */
export function* runMany(
  candidates: Iterable<Candidate>,
  options: RunOptions = {},
): Generator<RunAnswers[], void, undefined> {
  const shared = new SharedPaths();
  let chunk: RunAnswers[] = [];
  let size: number = CHUNKS.first;
  for (const { doc, conditions } of candidates) {
    chunk.push(answersOf(compile(doc, conditions, shared), options));
    if (chunk.length < size) continue;
    yield chunk;
    chunk = [];
    size = Math.min(CHUNKS.most, CHUNKS.growth * size);
  }
  if (chunk.length > 0) yield chunk;
}

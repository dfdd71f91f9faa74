import {
  parseRecords,
  readThreadFile,
  recordsFromRows,
  type ReadRecords,
  type ReadThreads,
} from '@mile-thread/core';
import { table } from './tables.ts';

/** Read files of threads, one after the other. */
export function* threadFiles(
  files: readonly { name: string; text: string }[],
): Generator<number, ReadThreads, undefined> {
  const all: ReadThreads = { threads: [], refused: [] };
  for (const [k, { name, text }] of files.entries()) {
    const reading = readThreadFile(text, name);
    let step = reading.next();
    for (; !step.done; step = reading.next()) yield (k + step.value) / files.length;
    const { threads, refused } = step.value;
    all.threads.push(...threads);
    all.refused.push(...refused);
  }
  return all;
}

/** Records at most that a table of them may hold. */
const MOST_RECORDS = 20_000;

/** Read stage records. @param isTable whether the text is a table, not JSON */
export function* records(text: string, isTable: boolean): Generator<number, ReadRecords, undefined> {
  return isTable
    ? recordsFromRows(yield* table(text, { of: 'records', lines: MOST_RECORDS }))
    : parseRecords(text);
}

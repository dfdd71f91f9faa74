import {
  parseRecords,
  readThreadFile,
  recordsFromRows,
  type ReadRecords,
  type ReadThreads,
} from '@mile-thread/core';

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

/** Read stage records: cells of a table, or JSON. */
export function records(given: string | string[][]): ReadRecords {
  return typeof given === 'string' ? parseRecords(given) : recordsFromRows(given);
}

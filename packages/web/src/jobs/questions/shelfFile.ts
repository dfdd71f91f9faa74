import { encodeShelf } from '@mile-thread/core';
import { decodeThread, type ThreadDocument } from '@mile-thread/core/model';

/** Kept threads as one file; those that cannot be read are left out and counted. */
export function* shelfFile(
  docs: readonly unknown[],
): Generator<number, { text: string; left: number }, undefined> {
  const good: ThreadDocument[] = [];
  for (const [k, doc] of docs.entries()) {
    if (k % 16 === 15) yield k / docs.length;
    const read = decodeThread(doc);
    if (read.ok) good.push(read.value);
  }
  return { text: encodeShelf(good), left: docs.length - good.length };
}

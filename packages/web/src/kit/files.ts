import type { ReadThreads } from '@mile-thread/core';
import { issueSentence, type Issue } from '@mile-thread/core/model';
import { ask } from '../jobs/client.ts';
import type { AskOptions } from '../jobs/pool.ts';

/** Largest file looked at: a thread is some tens of kilobytes, a whole shelf rarely a few megabytes. */
const MOST_BYTES = 20e6;

/** Hand a text or a picture to the person as a file. */
export function saveFile(
  name: string,
  content: string | Uint8Array<ArrayBuffer>,
  type = 'application/json',
): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([content], { type }));
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

/** `Tide-pool microscope` → `tide-pool-microscope.thread.json` */
export function fileName(name: string, extension = 'thread.json'): string {
  const stem = name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/\p{M}/gu, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');
  return `${stem || 'thread'}.${extension}`;
}

/**
 * Read files: threads, or whole shelves. What is broken in them is named and keeps nothing else out. Read by a worker;
 * what is too large is not even opened.
 */
export async function readThreadFiles(
  files: readonly File[],
  options: AskOptions = {},
): Promise<ReadThreads> {
  const small = files.filter((f) => f.size <= MOST_BYTES);
  const texts = await Promise.all(small.map(async (f) => ({ name: f.name, text: await f.text() })));
  const read = await ask('threadFiles', [texts], options);
  const large = files.filter((f) => f.size > MOST_BYTES);
  const refused = large.map(({ name, size }) => ({
    name,
    issues: [
      {
        code: 'range',
        path: '',
        given: `${Math.round(size / 1e6)} MB`,
        allowed: 'thread files of at most 20 MB',
      },
    ],
  }));
  return { threads: read.threads, refused: [...read.refused, ...refused] };
}

/** At most five, and how many more. */
export function fewSentences(issues: readonly Issue[]): string[] {
  const shown = issues.slice(0, 5).map(issueSentence);
  return issues.length > 5 ? [...shown, `And ${issues.length - 5} more.`] : shown;
}

import { parseThreadFile, type ReadThreads } from '@mile-thread/core';
import { issueSentence, type Issue } from '@mile-thread/core/model';

/** Largest file looked at: a thread is some tens of kilobytes, a whole shelf rarely a few megabytes. */
const MOST_BYTES = 20e6;

/** Hand a text to the person as a file. */
export function saveFile(name: string, text: string, type = 'application/json'): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type }));
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

/** Read a dropped file: one thread, or a whole shelf. What is broken in it is named and keeps nothing else out. */
export async function readThreadFile(file: File): Promise<ReadThreads> {
  if (file.size <= MOST_BYTES) return parseThreadFile(await file.text(), file.name);
  const given = `${Math.round(file.size / 1e6)} MB`;
  const issues = [{ code: 'range', path: '', given, allowed: 'thread files of at most 20 MB' }];
  return { threads: [], refused: [{ name: file.name, issues }] };
}

/** At most five, and how many more. */
export function fewSentences(issues: readonly Issue[]): string[] {
  const shown = issues.slice(0, 5).map(issueSentence);
  return issues.length > 5 ? [...shown, `And ${issues.length - 5} more.`] : shown;
}

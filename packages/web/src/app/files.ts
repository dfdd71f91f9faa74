import {
  encodeThread,
  issueSentence,
  parseThread,
  decodeThread,
  type Issue,
  type ThreadDocument,
} from '@mile-thread/core/model';

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

/** Everything on the shelf in one file. */
export function encodeShelf(docs: readonly ThreadDocument[]): string {
  return `${JSON.stringify({ format: 'mile-shelf', version: 1, threads: docs.map((d) => JSON.parse(encodeThread(d)) as unknown) }, null, 1)}\n`;
}

export type ReadFile = { name: string } & (
  | { ok: true; threads: ThreadDocument[] }
  | { ok: false; sentences: string[] }
);

/** Read a dropped file: one thread, or a whole shelf. All of it, or nothing with the reasons. */
export async function readThreadFile(file: File): Promise<ReadFile> {
  const { name } = file;
  if (file.size > MOST_BYTES) {
    return {
      name,
      ok: false,
      sentences: [`It is ${Math.round(file.size / 1e6)} MB; thread files have at most 20 MB.`],
    };
  }
  const text = await file.text();
  const shelf = asShelf(text);
  if (!shelf) {
    const one = parseThread(text);
    return one.ok
      ? { name, ok: true, threads: [one.value] }
      : { name, ok: false, sentences: sentences(one.issues) };
  }
  const all = shelf.map((data) => decodeThread(data));
  const bad = all.flatMap((o, k) =>
    o.ok ? [] : o.issues.map((i) => ({ ...i, path: `threads[${k}].${i.path}` })),
  );
  if (bad.length > 0) return { name, ok: false, sentences: sentences(bad) };
  return { name, ok: true, threads: all.flatMap((o) => (o.ok ? [o.value] : [])) };
}

function asShelf(text: string): unknown[] | undefined {
  try {
    const data = JSON.parse(text) as { format?: unknown; threads?: unknown };
    return data?.format === 'mile-shelf' && Array.isArray(data.threads) ? data.threads : undefined;
  } catch {
    return undefined;
  }
}

/** At most five, and how many more. */
function sentences(issues: Issue[]): string[] {
  const shown = issues.slice(0, 5).map(issueSentence);
  return issues.length > 5 ? [...shown, `And ${issues.length - 5} more.`] : shown;
}

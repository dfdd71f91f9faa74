import { demoThreads } from '@mile-thread/core';
import type { ThreadDocument } from '@mile-thread/core/model';
import { db, type RevisionRow, type ThreadRow } from './db.ts';

/** Revisions kept for each thread; older ones can no longer be undone. */
const MOST_REVISIONS = 300;

/** Another tab wrote the thread since this one read it. */
export class ConflictError extends Error {}

/** Put the demo threads in at the very first start; a shelf emptied on purpose stays empty. */
export async function seed(): Promise<void> {
  await db.transaction('rw', db.threads, db.meta, async () => {
    if (await db.meta.get('seeded')) return;
    const now = Date.now();
    const docs = demoThreads();
    await db.threads.bulkAdd(docs.map((doc, k) => newRow(doc, now - k)));
    await db.meta.put({ key: 'seeded', value: true });
  });
}

function newRow(doc: ThreadDocument, at: number): ThreadRow {
  const id = crypto.randomUUID();
  return { id, name: doc.name, doc, head: 0, token: crypto.randomUUID(), createdAt: at, changedAt: at };
}

/** Keep new threads. @returns their ids */
export async function addThreads(docs: readonly ThreadDocument[]): Promise<string[]> {
  const now = Date.now();
  const rows = docs.map((doc) => newRow(doc, now));
  await db.threads.bulkAdd(rows);
  return rows.map((r) => r.id);
}

/** A copy under another name. */
export async function duplicateThread(id: string): Promise<void> {
  const row = await db.threads.get(id);
  if (row) await addThreads([{ ...row.doc, name: `${row.doc.name}, copy`.slice(0, 120) }]);
}

/** Take a thread off the shelf. @returns what brings it back, whole */
export async function removeThread(id: string): Promise<() => Promise<void>> {
  return db.transaction('rw', db.threads, db.revisions, async () => {
    const row = await db.threads.get(id);
    const revisions = await db.revisions.where('threadId').equals(id).toArray();
    await db.threads.delete(id);
    await db.revisions.where('threadId').equals(id).delete();
    return async () => {
      if (!row) return;
      await db.transaction('rw', db.threads, db.revisions, async () => {
        await db.threads.put(row);
        await db.revisions.bulkPut(revisions);
      });
    };
  });
}

/** Every thread on the shelf, newest change first. */
export function listThreads(): Promise<ThreadRow[]> {
  return db.threads.orderBy('changedAt').reverse().toArray();
}

/** A thread with its history. */
export async function readThread(
  id: string,
): Promise<{ row: ThreadRow; history: RevisionRow[] } | undefined> {
  const row = await db.threads.get(id);
  if (!row) return undefined;
  const history = await db.revisions.where('threadId').equals(id).sortBy('number');
  return { row, history };
}

/** What a tab wants to write. */
export interface Write {
  id: string;
  doc: ThreadDocument;
  head: number;
  /** present for a new change; absent when an old one was undone or done again */
  revision?: RevisionRow;
  /** the token this tab read last */
  base: string;
}

/**
 * Write a change, if no other tab wrote in between.
 * @returns the new token
 * @throws ConflictError when another tab did; nothing is written then
 */
export async function writeThread(write: Write): Promise<string> {
  return db.transaction('rw', db.threads, db.revisions, async () => {
    const row = await db.threads.get(write.id);
    if (!row || row.token !== write.base) throw new ConflictError(row ? 'changed' : 'deleted');
    const token = crypto.randomUUID();
    const { doc, head, revision } = write;
    await db.threads.put({ ...row, doc, name: doc.name, head, token, changedAt: Date.now() });
    if (revision) {
      const { id } = write;
      const undone = db.revisions.where('[threadId+number]').between([id, revision.number], [id, Infinity]);
      await undone.delete();
      await db.revisions.put(revision);
      const old = revision.number - MOST_REVISIONS;
      if (old > 0) await db.revisions.where('[threadId+number]').between([id, 0], [id, old]).delete();
    }
    return token;
  });
}

/** What went wrong with storage, in words that say what to do. */
export function storageTrouble(error: unknown): string {
  const name = (error as { name?: string; inner?: { name?: string } })?.inner?.name ?? (error as Error)?.name;
  if (name === 'QuotaExceededError') {
    return 'The browser has no room left for this thread. Your change is on screen but not kept: export the thread, then delete others or free space.';
  }
  if (
    name === 'InvalidStateError' ||
    name === 'MissingAPIError' ||
    name === 'OpenFailedError' ||
    name === 'UnknownError'
  ) {
    return 'The browser does not let this page keep data, as in some private windows. Export the thread before you close the page.';
  }
  return `The change could not be kept (${(error as Error)?.message ?? 'unknown reason'}). Export the thread to be safe.`;
}

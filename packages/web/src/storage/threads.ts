import { decodeThread, presentEdits, type Outcome, type ThreadDocument } from '@mile-thread/core/model';
import { db, type RevisionRow, type ThreadRow } from './db.ts';

/** Revisions kept for each thread; older ones can no longer be undone. */
const MOST_REVISIONS = 300;

/** Another tab wrote the thread since this one read it. */
export class ConflictError extends Error {}

/** Put the demo threads in at the very first start; a shelf emptied on purpose stays empty. */
export async function seed(): Promise<void> {
  // As a rule there is nothing to do, and nothing to wait for a disk for.
  if (await db.meta.get('seeded')) return;
  const { demoThreads } = await import('./demos.ts');
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
  const read = row && documentOf(row);
  if (!read?.ok) return;
  await addThreads([{ ...read.value, name: `${read.value.name}, copy`.slice(0, 120) }]);
}

const read = new Map<string, Outcome<ThreadDocument>>();

/** The document of a row, brought to the present version, or what is wrong with it. Read once for each write. */
export function documentOf({ token, doc }: ThreadRow): Outcome<ThreadDocument> {
  let outcome = read.get(token);
  if (!outcome) {
    outcome = decodeThread(doc);
    read.set(token, outcome);
    if (read.size > MOST_READ) read.delete(read.keys().next().value!);
  }
  return outcome;
}

/** Documents kept as read. */
const MOST_READ = 400;

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

/** A thread with its history; `doc` says what is wrong where it cannot be read. */
export interface KeptThread {
  row: ThreadRow;
  doc: Outcome<ThreadDocument>;
  history: RevisionRow[];
}

export async function readThread(id: string): Promise<KeptThread | undefined> {
  const row = await db.threads.get(id);
  if (!row) return undefined;
  const history = await db.revisions.where('threadId').equals(id).sortBy('number');
  const present = history.map((r) => ({
    ...r,
    patches: presentEdits(r.patches),
    inverse: presentEdits(r.inverse),
  }));
  return { row, doc: documentOf(row), history: present };
}

/** What a tab wants to write. */
export interface Write {
  id: string;
  doc: ThreadDocument;
  head: number;
  /** new changes, oldest first; none where old ones were undone or done again */
  revisions: readonly RevisionRow[];
  /** whether revisions above the first of them have been undone: they go */
  undone: boolean;
  /** the token this tab read last, and when the thread was made */
  base: string;
  createdAt: number;
}

/**
 * Write changes, if no other tab wrote in between. Said to be written when the disk has them.
 * @returns the new token
 * @throws ConflictError when another tab did; nothing is written then
 */
export async function writeThread(write: Write): Promise<string> {
  const { id, doc, head, revisions, createdAt } = write;
  const token = crypto.randomUUID();
  const row: ThreadRow = { id, doc, name: doc.name, head, token, createdAt, changedAt: Date.now() };
  const [first] = revisions;
  const numbered = (from: number, to: number) =>
    db.revisions.where('[threadId+number]').between([id, from], [id, to]);
  const old = head - MOST_REVISIONS;
  await db.transaction('rw', db.threads, db.revisions, async () => {
    // Asked for all at once, while the page draws what has changed: every turn between could be the last. Where another
    // tab was faster, all of it is taken back.
    const [before] = await Promise.all([
      db.threads.get(id),
      db.threads.put(row),
      // What has been undone goes before what takes its numbers.
      first && write.undone
        ? numbered(first.number, Infinity)
            .delete()
            .then(() => db.revisions.bulkPut([...revisions]))
        : first && db.revisions.bulkPut([...revisions]),
      old > 0 ? numbered(0, old).delete() : undefined,
    ]);
    if (before?.token !== write.base) throw new ConflictError(before ? 'changed' : 'deleted');
  });
  return token;
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

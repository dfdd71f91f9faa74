import { ThinnedRows } from '@mile-thread/core/logs';
import { MOST_POINTS } from '@mile-thread/core/model';
import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useState } from 'react';
import { db, type RecordingPart, type RecordingRow } from './db.ts';

/** A recording as far as it has come. */
export interface Kept {
  recording: RecordingRow;
  /** what stands for all of its rows, dips kept, and how many there are */
  rows: RecordingPart['rows'];
  count: number;
  /** whether some tab is writing it: nobody else takes it or throws it away */
  beingWritten: boolean;
}

/** Name of the lock that who writes a recording holds: it is let go when the tab ends, however it does. */
const lockOf = (id: string) => `mile-thread:recording:${id}`;

/** A recording that is being written. */
export interface Writing {
  id: string;
  /** Keep its next rows. */
  keep(rows: RecordingPart['rows']): Promise<void>;
  /** Nothing more comes. */
  end(): void;
}

/** Begin to keep one; it is this tab's until it ends. */
export async function beginRecording(threadId: string, startedAt: number): Promise<Writing> {
  const id = crypto.randomUUID();
  const recording = { id, threadId, startedAt };
  const end = await hold(lockOf(id));
  await db.recordings.put(recording);
  let part = 0;
  return {
    id,
    async keep(rows) {
      if (rows.length === 0) return;
      const next = part++;
      await db.transaction('rw', db.recordings, db.recordingParts, async () => {
        // Thrown away elsewhere meanwhile, by an older tab: its pieces are not left without it.
        await db.recordings.put(recording);
        await db.recordingParts.put({ id, part: next, rows });
      });
    },
    end,
  };
}

/** Hold a lock until what is returned is called. A browser without locks has one tab's word for it. */
async function hold(name: string): Promise<() => void> {
  const { locks } = navigator;
  if (!locks) return () => undefined;
  return new Promise((held) => {
    void locks.request(name, () => new Promise<void>((end) => held(() => end())));
  });
}

/** Ids of all that is being written, in whichever tab. */
async function beingWritten(): Promise<ReadonlySet<string>> {
  const { held = [] } = (await navigator.locks?.query()) ?? {};
  return new Set(held.map(({ name = '' }) => name));
}

/** What was recorded of a thread and not yet taken or thrown away, the newest first. */
export async function recordingsOf(threadId: string): Promise<Kept[]> {
  const found = await db.recordings.where('threadId').equals(threadId).toArray();
  const writing = await beingWritten();
  const all = await Promise.all(
    found.map(async (recording) => {
      const { rows, count } = await rowsOf(recording.id);
      return {
        recording,
        rows,
        count,
        beingWritten: writing.has(lockOf(recording.id)),
      };
    }),
  );
  return all.sort((a, b) => b.recording.startedAt - a.recording.startedAt);
}

/** Pieces that are read at once. */
const PAGE = 400;

/** What has been read of each so far, and the piece behind that: pieces only ever come behind, and are read once. */
const known = new Map<string, { rows: ThinnedRows; next: number }>();

/** The rows of a recording in bounded room, however many there are. */
async function rowsOf(id: string): Promise<ThinnedRows> {
  const read = known.get(id) ?? { rows: new ThinnedRows(MOST_POINTS), next: 0 };
  known.set(id, read);
  for (;;) {
    const from = read.next;
    const parts = await db.recordingParts
      .where('[id+part]')
      .between([id, from], [id, from + PAGE])
      .toArray();
    // Who asked at the same time was faster.
    if (read.next !== from) continue;
    const last = parts.at(-1);
    if (!last) return read.rows;
    for (const { rows } of parts) for (const row of rows) read.rows.push(row);
    read.next = last.part + 1;
  }
}

/** Pieces whose recording is gone belong to a thread again: to the one that asks, since nothing else says whose they are. */
export async function findOrphans(threadId: string): Promise<number> {
  return db.transaction('rw', db.recordings, db.recordingParts, async () => {
    const ids = new Set(
      (await db.recordingParts.orderBy(':id').keys()).map((key) => (key as unknown as [string, number])[0]),
    );
    const known = new Set(await db.recordings.toCollection().primaryKeys());
    const lost = [...ids].filter((id) => !known.has(id));
    await db.recordings.bulkPut(lost.map((id) => ({ id, threadId, startedAt: Date.now() })));
    return lost.length;
  });
}

/** It has been taken, or is not wanted. @returns false where another tab is writing it: it stays */
export async function dropRecording(id: string): Promise<boolean> {
  if ((await beingWritten()).has(lockOf(id))) return false;
  await db.transaction('rw', db.recordings, db.recordingParts, async () => {
    await db.recordings.delete(id);
    await db.recordingParts.where('id').equals(id).delete();
  });
  known.delete(id);
  return true;
}

/** The same, as it changes. @param threadId undefined: none */
export function useRecordings(threadId: string | undefined): Kept[] | undefined {
  const [ended, setEnded] = useState(0);
  const found = useLiveQuery(() => (threadId === undefined ? [] : recordingsOf(threadId)), [threadId, ended]);
  const written = (found ?? []).find((k) => k.beingWritten)?.recording.id;
  useEffect(() => {
    if (written === undefined) return;
    // Storage says nothing when a tab goes; its lock does.
    const gone = new AbortController();
    navigator.locks
      .request(lockOf(written), { signal: gone.signal }, () => setEnded((n) => n + 1))
      .catch(() => undefined);
    return () => gone.abort();
  }, [written]);
  return found;
}

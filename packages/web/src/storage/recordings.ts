import { useLiveQuery } from 'dexie-react-hooks';
import { db, type RecordingPart, type RecordingRow } from './db.ts';

/** A recording as far as it has come. */
export interface Kept {
  recording: RecordingRow;
  rows: RecordingPart['rows'];
}

/** Begin to keep one. @returns its id */
export async function beginRecording(threadId: string, startedAt: number): Promise<string> {
  const id = crypto.randomUUID();
  await db.recordings.put({ id, threadId, startedAt });
  return id;
}

/** Keep its next piece. @param part its number, from 0 */
export async function keepRows(id: string, part: number, rows: RecordingPart['rows']): Promise<void> {
  if (rows.length > 0) await db.recordingParts.put({ id, part, rows });
}

/** What was recorded of a thread and not yet taken or thrown away, the newest first. */
export async function recordingsOf(threadId: string): Promise<Kept[]> {
  const found = await db.recordings.where('threadId').equals(threadId).toArray();
  const all = await Promise.all(
    found.map(async (recording) => {
      const parts = await db.recordingParts.where('id').equals(recording.id).sortBy('part');
      return { recording, rows: parts.flatMap((p) => p.rows) };
    }),
  );
  return all.sort((a, b) => b.recording.startedAt - a.recording.startedAt);
}

/** It has been taken, or is not wanted. */
export async function dropRecording(id: string): Promise<void> {
  await db.transaction('rw', db.recordings, db.recordingParts, async () => {
    await db.recordings.delete(id);
    await db.recordingParts.where('id').equals(id).delete();
  });
}

/** The same, as it changes. @param threadId undefined: none */
export function useRecordings(threadId: string | undefined): Kept[] | undefined {
  return useLiveQuery(() => (threadId === undefined ? [] : recordingsOf(threadId)), [threadId]);
}

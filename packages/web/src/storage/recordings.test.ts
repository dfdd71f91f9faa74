import 'fake-indexeddb/auto';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { db } from './db.ts';
import { beginRecording, dropRecording, recordingsOf } from './recordings.ts';

// A browser without locks.
beforeEach(() => void vi.stubGlobal('navigator', {}));
afterEach(async () => {
  vi.unstubAllGlobals();
  await db.recordings.clear();
  await db.recordingParts.clear();
});

const rows = (from: number, to: number): [number, number, number][] =>
  Array.from({ length: to - from }, (_, k) => [from + k, 4 - (from + k) / 1e5, 1]);

it('a recording grows by its pieces, each read once however often it is asked for, and is gone when dropped', async () => {
  const writing = await beginRecording('thread', 5);
  await writing.keep(rows(0, 50));
  await writing.keep(rows(50, 90));
  const [first] = await recordingsOf('thread');
  expect([first!.count, first!.rows.length]).toEqual([90, 90]);
  // A second read of what is known would miss it.
  await db.recordingParts.where('id').equals(writing.id).delete();
  await writing.keep(rows(90, 120));
  // Two at once do not count a piece twice.
  const [[again], [same]] = await Promise.all([recordingsOf('thread'), recordingsOf('thread')]);
  expect([again!.count, same!.count]).toEqual([120, 120]);
  expect(again!.rows.map(([seconds]) => seconds)).toEqual(rows(0, 120).map(([seconds]) => seconds));
  writing.end();
  expect(await dropRecording(writing.id)).toBe(true);
  expect(await recordingsOf('thread')).toEqual([]);
});

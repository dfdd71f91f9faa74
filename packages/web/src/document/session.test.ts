import 'fake-indexeddb/auto';
import { demoThreads } from '@mile-thread/core';
import { decodeThread } from '@mile-thread/core/model';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { db } from '../storage/db.ts';
import {
  addThreads,
  ConflictError,
  removeThread,
  seed,
  storageTrouble,
  writeThread,
} from '../storage/threads.ts';
import {
  addLoad,
  addStage,
  changeDraw,
  moveNode,
  possibleParents,
  removeNode,
  swapStage,
} from './commands.ts';
import { openSession } from './session.ts';

beforeEach(async () => {
  await Promise.all([db.threads.clear(), db.revisions.clear(), db.meta.clear()]);
});

async function open() {
  const [id] = await addThreads([demoThreads()[0]!]);
  const store = (await openSession(id!))!;
  return { id: id!, store, s: () => store.getState() };
}
const saved = (s: () => { save: { kind: string } }) => vi.waitFor(() => expect(s().save.kind).toBe('saved'));
const setParallel = (value: number) => [{ op: 'replace' as const, path: ['pack', 'parallel'], value }];

describe('a session', () => {
  it('writes each change at once and undoes it after reopening', async () => {
    const { id, s } = await open();
    expect(s().commit('more cells', setParallel(2))).toEqual([]);
    expect(s().commit('more still', setParallel(3))).toEqual([]);
    await saved(s);
    expect((await db.threads.get(id))!.doc.pack.parallel).toBe(3);
    const later = (await openSession(id))!;
    expect(later.getState().undo()).toBe('more still');
    expect(later.getState().doc.pack.parallel).toBe(2);
    expect(later.getState().undo()).toBe('more cells');
    expect(later.getState().undo()).toBeUndefined();
    expect(later.getState().redo()).toBe('more cells');
    await saved(later.getState);
    expect((await db.threads.get(id))!.doc.pack.parallel).toBe(2);
    later.getState().commit('another way', setParallel(9));
    await saved(later.getState);
    expect(later.getState().redo()).toBeUndefined();
    expect(await db.revisions.where('threadId').equals(id).count()).toBe(2);
  });

  it('refuses what the model does not allow and stays as it was', async () => {
    const { s } = await open();
    const before = s().doc;
    expect(s().commit('too many', setParallel(1e6))).toMatchObject([{ path: 'pack.parallel' }]);
    expect(s().doc).toBe(before);
  });

  it('two tabs: the later write is refused, nothing is overwritten, and the newest can be taken', async () => {
    const { id, s } = await open();
    const other = (await openSession(id))!;
    s().commit('first', setParallel(2));
    await saved(s);
    other.getState().commit('second', setParallel(5));
    await vi.waitFor(() => expect(other.getState().save).toEqual({ kind: 'conflict', deleted: false }));
    expect((await db.threads.get(id))!.doc.pack.parallel).toBe(2);
    await other.getState().reload();
    expect(other.getState().doc.pack.parallel).toBe(2);
    expect(other.getState().save.kind).toBe('saved');
  });

  it('a write on an old token throws a conflict, and on a deleted thread says so', async () => {
    const { id, s } = await open();
    const write = { id, doc: s().doc, head: 0, base: 'stale' };
    await expect(writeThread(write)).rejects.toThrow(ConflictError);
    const restore = await removeThread(id);
    await expect(writeThread(write)).rejects.toThrow('deleted');
    await restore();
    expect((await db.threads.get(id))!.name).toBe('Tide-pool microscope');
  });

  it('demo threads come once', async () => {
    await seed();
    await seed();
    expect(await db.threads.count()).toBe(2);
    await db.threads.clear();
    await seed();
    expect(await db.threads.count()).toBe(0);
  });

  it('full storage and private windows get words that say what to do', () => {
    expect(storageTrouble({ name: 'AbortError', inner: { name: 'QuotaExceededError' } })).toContain(
      'export the thread',
    );
    expect(storageTrouble({ name: 'MissingAPIError' })).toContain('private windows');
  });
});

describe('commands', () => {
  it('every command leaves a valid thread', async () => {
    const { s } = await open();
    const steps: [string, () => ReturnType<typeof removeNode>][] = [
      ['add', () => addStage(s().doc, 'linear', 'camera-rail').edits],
      ['load', () => addLoad(s().doc, 'stage-1').edits],
      ['move', () => moveNode(s().doc, 'stage-1', 'lamp-rail')],
      ['swap', () => swapStage(s().doc, 'stage-1', 'boost')],
      ['draw', () => changeDraw(s().doc, 3, 'resistance')],
      ['remove', () => removeNode(s().doc, 'stage-1')],
      ['remove rail', () => removeNode(s().doc, 'camera-rail')],
    ];
    for (const [label, edits] of steps) {
      expect(s().commit(label, edits()), label).toEqual([]);
      expect(decodeThread(s().doc)).toMatchObject({ ok: true });
    }
    expect(s().doc.loads.find((l) => l.id === 'load-1')!.from).toBe('lamp-rail');
    expect(s().doc.loads.find((l) => l.id === 'camera')!.from).toBe('pack');
  });

  it('a stage cannot hang on itself or on what hangs on it', () => {
    const doc = demoThreads()[0]!;
    expect(possibleParents(doc, 'camera-rail').map((p) => p.id)).toEqual(['pack', 'lamp-rail']);
    expect(possibleParents(doc, 'camera').map((p) => p.id)).toEqual([
      'pack',
      'lamp-rail',
      'camera-rail',
      'logic-rail',
    ]);
  });
});

import 'fake-indexeddb/auto';
import { demoThreads } from '@mile-thread/core';
import { decodeThread, type Load, type ThreadDocument } from '@mile-thread/core/model';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { db } from '../storage/db.ts';
import {
  addThreads,
  ConflictError,
  documentOf,
  duplicateThread,
  listThreads,
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
import { openSession, type SessionStore } from './session.ts';

beforeEach(async () => {
  await Promise.all([db.threads.clear(), db.revisions.clear(), db.meta.clear()]);
});

async function session(id: string): Promise<SessionStore> {
  const opened = await openSession(id);
  if (typeof opened !== 'function') throw new Error('it must open');
  return opened;
}

async function open() {
  const [id] = await addThreads([demoThreads()[0]!]);
  const store = await session(id!);
  return { id: id!, store, s: () => store.getState() };
}
const keptDoc = async (id: string) => (await db.threads.get(id))!.doc as ThreadDocument;
const saved = (s: () => { save: { kind: string } }) => vi.waitFor(() => expect(s().save.kind).toBe('saved'));
const setParallel = (value: number) => [{ op: 'replace' as const, path: ['pack', 'parallel'], value }];

describe('a session', () => {
  it('writes each change at once and undoes it after reopening', async () => {
    const { id, s } = await open();
    expect(s().commit('more cells', setParallel(2))).toEqual([]);
    expect(s().commit('more still', setParallel(3))).toEqual([]);
    await saved(s);
    expect((await keptDoc(id)).pack.parallel).toBe(3);
    const later = await session(id);
    expect(later.getState().undo()).toBe('more still');
    expect(later.getState().doc.pack.parallel).toBe(2);
    expect(later.getState().undo()).toBe('more cells');
    expect(later.getState().undo()).toBeUndefined();
    expect(later.getState().redo()).toBe('more cells');
    await saved(later.getState);
    expect((await keptDoc(id)).pack.parallel).toBe(2);
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

  it('two tabs that change one place: nothing is overwritten until the person chooses', async () => {
    const { id, s } = await open();
    const conflict = async (parallel: number) => {
      const other = await session(id);
      s().commit('first', setParallel(parallel));
      await saved(s);
      other.getState().commit('second', setParallel(5));
      await vi.waitFor(() => expect(other.getState().save).toEqual({ kind: 'conflict', deleted: false }));
      expect((await keptDoc(id)).pack.parallel).toBe(parallel);
      expect(other.getState().doc.pack.parallel).toBe(5);
      return other;
    };
    const giving = await conflict(2);
    await giving.getState().takeTheirs();
    expect(giving.getState().doc.pack.parallel).toBe(2);
    expect(giving.getState().save.kind).toBe('saved');
    s().noticeToken('another');
    const insisting = await conflict(3);
    expect(await insisting.getState().keepMine()).toEqual([]);
    expect((await keptDoc(id)).pack.parallel).toBe(5);
    expect(insisting.getState().undo()).toBe('second');
    await saved(insisting.getState);
    expect((await keptDoc(id)).pack.parallel).toBe(3);
  });

  it('two tabs that change different places: both changes are kept, and either is undone by itself', async () => {
    const { id, s } = await open();
    const other = await session(id);
    const notes = [{ op: 'replace' as const, path: ['notes'], value: 'typed here' }];
    // Both at once, and more while the first conflict is being settled.
    s().commit('more cells', setParallel(2));
    other.getState().commit('notes', notes);
    other.getState().commit('remove', removeNode(other.getState().doc, 'camera'));
    await saved(other.getState);
    await saved(s);
    const doc = await keptDoc(id);
    expect(doc.notes).toBe('typed here');
    expect(doc.pack.parallel).toBe(2);
    expect(doc.loads.some((l) => l.id === 'camera')).toBe(false);
    expect(other.getState().takenOver).toEqual({ count: 1, merged: true });
    s().noticeToken((await db.threads.get(id))!.token);
    await vi.waitFor(() => expect(s().doc.notes).toBe('typed here'));
    expect(s().undo()).toBe('remove');
    await saved(s);
    expect(decodeThread(s().doc)).toMatchObject({ ok: true });
    expect(s().doc.loads.map((l) => l.id)).toEqual(demoThreads()[0]!.loads.map((l) => l.id));
  });

  it('a change made while another tab’s version is being read goes on top of it', async () => {
    const { id, s } = await open();
    const other = await session(id);
    s().commit('more cells', setParallel(2));
    await saved(s);
    other.getState().noticeToken((await db.threads.get(id))!.token);
    other.getState().commit('notes', [{ op: 'replace', path: ['notes'], value: 'just now' }]);
    await vi.waitFor(async () => expect((await keptDoc(id)).notes).toBe('just now'));
    expect((await keptDoc(id)).pack.parallel).toBe(2);
  });

  it('rows that are damaged, foreign or of a newer version are told, and keep nothing else out', async () => {
    const { id } = await open();
    const row = (await db.threads.get(id))!;
    const put = (name: string, doc: unknown) => db.threads.put({ ...row, id: name, token: name, doc });
    await put('newer', { ...(row.doc as object), version: 99 });
    await put('damaged', { ...(row.doc as object), pack: 7 });
    await put('foreign', 'x');
    for (const name of ['newer', 'damaged', 'foreign']) {
      const opened = await openSession(name);
      expect(opened).toMatchObject({ row: { id: name }, issues: [expect.anything()] });
    }
    expect((await listThreads()).map((r) => documentOf(r).ok).filter(Boolean)).toHaveLength(1);
    await duplicateThread('damaged');
    expect(await db.threads.count()).toBe(4);
  });

  it('a write on an old token throws a conflict, and on a deleted thread says so', async () => {
    const { id, s } = await open();
    const write = { id, doc: s().doc, head: 0, revisions: [], undone: false, createdAt: 0, base: 'stale' };
    await expect(writeThread(write)).rejects.toThrow(ConflictError);
    const restore = await removeThread(id);
    await expect(writeThread(write)).rejects.toThrow('deleted');
    await restore();
    expect((await db.threads.get(id))!.name).toBe('Tide-pool microscope');
  });

  it('demo threads come once', async () => {
    await seed();
    await seed();
    expect(await db.threads.count()).toBe(demoThreads().length);
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
  it('another kind of draw takes about as much at the middle of the range', async () => {
    const { s } = await open();
    const [first] = s().doc.loads;
    const heater: Load = { ...first!, draw: 'resistance', resistance: 12 };
    for (const load of [...s().doc.loads, heater]) {
      const volts = (load.range.min + load.range.max) / 2;
      const amps = (l: Load) =>
        l.draw === 'current' ? l.current! : l.draw === 'power' ? l.power! / volts : volts / l.resistance!;
      for (const draw of ['power', 'current', 'resistance'] as const) {
        const [edit] = changeDraw(load, draw);
        const next = edit!.value as Load;
        expect(next.draw).toBe(draw);
        expect(amps(next) / amps(load)).toBeCloseTo(1, 2);
      }
    }
  });

  it('a new change after an undo leaves nothing to be done again, here and in storage', async () => {
    const { id, s } = await open();
    s().commit('one', setParallel(2));
    s().commit('two', setParallel(3));
    s().undo();
    s().commit('other', setParallel(7));
    expect(s().history.map((r) => r.label)).toEqual(['one', 'other']);
    expect(s().redo()).toBeUndefined();
    await saved(s);
    const rows = await db.revisions.where('threadId').equals(id).sortBy('number');
    expect(rows.map((r) => r.label)).toEqual(['one', 'other']);
  });

  it('every command leaves a valid thread', async () => {
    const { s } = await open();
    const steps: [string, () => ReturnType<typeof removeNode>][] = [
      ['add', () => addStage(s().doc, 'linear', 'camera-rail').edits],
      ['load', () => addLoad(s().doc, 'stage-1').edits],
      ['move', () => moveNode(s().doc, 'stage-1', 'lamp-rail')],
      ['swap', () => swapStage(s().doc, 'stage-1', 'boost')],
      ['draw', () => changeDraw(s().doc.loads[3]!, 'resistance')],
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

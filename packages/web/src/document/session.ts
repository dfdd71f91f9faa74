import { decodeThread, type Edit, type Issue, type ThreadDocument } from '@mile-thread/core/model';
import { applyPatches, enablePatches, produceWithPatches, type Patch } from 'immer';
import { create, type StoreApi, type UseBoundStore } from 'zustand';
import type { RevisionRow } from '../storage/db.ts';
import { ConflictError, readThread, storageTrouble, writeThread, type Write } from '../storage/threads.ts';

enablePatches();

export type SaveState =
  | { kind: 'saved'; at: number }
  | { kind: 'saving' }
  | { kind: 'conflict'; deleted: boolean }
  | { kind: 'trouble'; message: string };

/** Change the document; what comes back is what is wrong with the change, and then nothing has changed. */
export type Commit = (label: string, edits: readonly Edit[]) => Issue[];

export interface Session {
  id: string;
  doc: ThreadDocument;
  history: RevisionRow[];
  head: number;
  save: SaveState;
  /** set when another tab's newer version was taken over, for a notice */
  takenOver: number;
  commit: Commit;
  undo(): string | undefined;
  redo(): string | undefined;
  /** Take the version that is kept, dropping what this tab has not kept. */
  reload(): Promise<void>;
  /** Called when storage reports another token. */
  noticeToken(token: string): void;
}

export type SessionStore = UseBoundStore<StoreApi<Session>>;

/** Open a thread for editing. @returns undefined when there is no such thread */
export async function openSession(id: string): Promise<SessionStore | undefined> {
  const kept = await readThread(id);
  if (!kept) return undefined;
  let token = kept.row.token;
  const waiting: Write[] = [];
  let writing = false;

  return create<Session>()((set, get) => {
    /** Write one change after the other; a conflict stops the line, nothing is overwritten. */
    const flush = async () => {
      if (writing) return;
      writing = true;
      set({ save: { kind: 'saving' } });
      try {
        while (waiting.length > 0) {
          token = await writeThread({ ...waiting[0]!, base: token });
          waiting.shift();
        }
        set({ save: { kind: 'saved', at: Date.now() } });
      } catch (error) {
        if (error instanceof ConflictError) {
          set({ save: { kind: 'conflict', deleted: error.message === 'deleted' } });
        } else set({ save: { kind: 'trouble', message: storageTrouble(error) } });
      } finally {
        writing = false;
      }
    };
    const keep = (doc: ThreadDocument, head: number, history: RevisionRow[], revision?: RevisionRow) => {
      set({ doc, head, history });
      waiting.push({ id, doc, head, revision, base: token });
      if (get().save.kind !== 'conflict') void flush();
    };
    const step = (revision: RevisionRow | undefined, patches: Patch[] | undefined, head: number) => {
      if (!revision || !patches) return undefined;
      keep(applyPatches(get().doc, patches), head, get().history);
      return revision.label;
    };

    return {
      id,
      doc: kept.row.doc,
      history: kept.history,
      head: kept.row.head,
      save: { kind: 'saved', at: kept.row.changedAt },
      takenOver: 0,
      commit(label, edits) {
        const { doc, head, history } = get();
        const [next, patches, inverse] = produceWithPatches(doc, (draft) => {
          applyPatches(draft, edits as Patch[]);
        });
        const checked = decodeThread(next);
        if (!checked.ok) return checked.issues;
        if (patches.length === 0) return [];
        const number = head + 1;
        const revision = { threadId: id, number, label, patches, inverse, at: Date.now() };
        keep(next, number, [...history.filter((r) => r.number <= head), revision], revision);
        return [];
      },
      undo() {
        const { history, head } = get();
        const revision = history.find((r) => r.number === head);
        return step(revision, revision?.inverse, head - 1);
      },
      redo() {
        const { history, head } = get();
        const revision = history.find((r) => r.number === head + 1);
        return step(revision, revision?.patches, head + 1);
      },
      async reload() {
        const newest = await readThread(id);
        if (!newest) {
          set({ save: { kind: 'conflict', deleted: true } });
          return;
        }
        waiting.length = 0;
        token = newest.row.token;
        const { doc, head, changedAt } = newest.row;
        set({ doc, head, history: newest.history, save: { kind: 'saved', at: changedAt } });
      },
      noticeToken(other) {
        if (other === token || writing) return;
        if (waiting.length > 0) set({ save: { kind: 'conflict', deleted: false } });
        else
          void get()
            .reload()
            .then(() => set({ takenOver: get().takenOver + 1 }));
      },
    };
  });
}

import {
  changeThread,
  overlap,
  placesChanged,
  type Edit,
  type Issue,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { create, type StoreApi, type UseBoundStore } from 'zustand';
import type { RevisionRow } from '../storage/db.ts';
import {
  ConflictError,
  readThread,
  storageTrouble,
  writeThread,
  type KeptThread,
} from '../storage/threads.ts';

export type SaveState =
  | { kind: 'saved'; at: number }
  | { kind: 'saving' }
  /** another tab changed the same places, or took the thread away */
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
  /** counts what was taken over from another tab, for a notice; `merged` where changes of this one were put on top */
  takenOver: { count: number; merged: boolean };
  commit: Commit;
  undo(): string | undefined;
  redo(): string | undefined;
  /** Take the version that is kept, dropping what this tab has not kept. */
  takeTheirs(): Promise<void>;
  /** Put what this tab has not kept on top of the version that is kept. @returns what stands against it */
  keepMine(): Promise<Issue[]>;
  /** Try to write again after trouble. */
  retry(): void;
  /** Called when storage reports another token. */
  noticeToken(token: string): void;
}

export type SessionStore = UseBoundStore<StoreApi<Session>>;

/** A change on screen that is not kept yet. A step back or forth carries no revision of its own. */
interface Waiting {
  label: string;
  edits: readonly Edit[];
  head: number;
  revision?: RevisionRow;
}

/** Why a thread could not be opened. */
export interface Unreadable {
  row: KeptThread['row'];
  issues: Issue[];
}

/** Open a thread for editing. @returns undefined when there is no such thread, the row when it cannot be read */
export async function openSession(id: string): Promise<SessionStore | Unreadable | undefined> {
  const first = await readThread(id);
  if (!first) return undefined;
  if (!first.doc.ok) return { row: first.row, issues: first.doc.issues };
  /** what is in storage, as this tab knows it */
  let kept = { doc: first.doc.value, token: first.row.token };
  let waiting: Waiting[] = [];
  let writing = false;
  /** whether what is kept has revisions that have been undone and are now written over */
  let undone = false;
  const { createdAt } = first.row;
  /** token that storage reported last, of another tab's write */
  let noticed: string | undefined;
  /** tokens of this tab's own writes: storage reports them late, one after the other */
  const own = new Set<string>();

  return create<Session>()((set, get) => {
    /**
     * Write all that waits; where another tab was faster, put it on top of that where the two do not meet.
     * @param look whether another tab is known to have written
     */
    const flush = async (look = false) => {
      if (writing || (!look && waiting.length === 0)) return;
      writing = true;
      try {
        noticed = undefined;
        if (look && !(await follow())) return;
        while (waiting.length > 0) {
          const { doc, head } = get();
          const batch = waiting.length;
          const revisions = waiting.flatMap((w) => w.revision ?? []);
          try {
            const token = await writeThread({
              id,
              doc,
              head,
              revisions,
              undone,
              base: kept.token,
              createdAt,
            });
            undone = false;
            waiting = waiting.slice(batch);
            kept = { doc, token };
            own.add(token);
          } catch (error) {
            if (!(error instanceof ConflictError)) throw error;
            if (!(await follow())) return;
          }
        }
        set({ save: { kind: 'saved', at: Date.now() } });
      } catch (error) {
        set({ save: { kind: 'trouble', message: storageTrouble(error) } });
      } finally {
        writing = false;
      }
      // Told of another tab's write while this one was busy.
      if (noticed !== undefined && noticed !== kept.token && get().save.kind === 'saved') void flush(true);
    };

    /** Take up the newest version with what waits on top. @returns false where both changed one place: the person chooses */
    const follow = async (force = false): Promise<boolean> => {
      const newest = await readThread(id);
      if (!newest?.doc.ok) {
        set({ save: { kind: 'conflict', deleted: true } });
        return false;
      }
      if (newest.row.token === kept.token) return true;
      const theirs = placesChanged(kept.doc, newest.doc.value);
      const mine = waiting.flatMap((w) => w.edits.map((e) => e.path.map(String)));
      const meet = mine.some((m) => theirs.some((t) => overlap(m, t)));
      if ((meet && !force) || !adopt(newest, newest.doc.value)) {
        set({ save: { kind: 'conflict', deleted: false } });
        return false;
      }
      return true;
    };

    /** Start anew from a version, with what waits on top. @returns false, and nothing done, where that is no thread */
    const adopt = (newest: KeptThread, theirs: ThreadDocument): boolean => {
      let doc = theirs;
      let { head } = newest.row;
      let history = newest.history;
      const again: Waiting[] = [];
      for (const { label, edits } of waiting) {
        const change = changeThread(doc, edits);
        if (!change.ok) return false;
        doc = change.value.doc;
        const revision = revisionOf(++head, label, edits, change.value.undo);
        undone ||= history.some((r) => r.number >= head);
        history = [...history.filter((r) => r.number < head), revision];
        again.push({ label, edits, head, revision });
      }
      const { takenOver } = get();
      kept = { doc: theirs, token: newest.row.token };
      waiting = again;
      set({ doc, head, history, takenOver: { count: takenOver.count + 1, merged: again.length > 0 } });
      return true;
    };

    const revisionOf = (
      number: number,
      label: string,
      edits: readonly Edit[],
      undo: Edit[],
    ): RevisionRow => ({
      threadId: id,
      number,
      label,
      patches: [...edits],
      inverse: undo,
      at: Date.now(),
    });

    const put = (step: Waiting, doc: ThreadDocument, history: RevisionRow[]) => {
      waiting.push(step);
      const { kind } = get().save;
      const save = kind === 'conflict' || kind === 'trouble' ? get().save : { kind: 'saving' as const };
      set({ doc, history, head: step.head, save });
      // At once: what is drawn next takes longer than the request.
      if (kind !== 'conflict') void flush();
    };

    const step = (revision: RevisionRow | undefined, edits: readonly Edit[] | undefined, head: number) => {
      if (!revision || !edits) return undefined;
      const change = changeThread(get().doc, edits);
      if (!change.ok) return undefined;
      put({ label: revision.label, edits, head }, change.value.doc, get().history);
      return revision.label;
    };

    return {
      id,
      doc: kept.doc,
      history: first.history,
      head: first.row.head,
      save: { kind: 'saved', at: first.row.changedAt },
      takenOver: { count: 0, merged: false },
      commit(label, edits) {
        const { doc, head, history } = get();
        const change = changeThread(doc, edits);
        if (!change.ok) return change.issues;
        if (placesChanged(doc, change.value.doc).length === 0) return [];
        const revision = revisionOf(head + 1, label, edits, change.value.undo);
        const kept = history.filter((r) => r.number <= head);
        undone ||= kept.length < history.length;
        put({ label, edits, head: head + 1, revision }, change.value.doc, [...kept, revision]);
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
      async takeTheirs() {
        const newest = await readThread(id);
        if (!newest?.doc.ok) return set({ save: { kind: 'conflict', deleted: true } });
        waiting = [];
        adopt(newest, newest.doc.value);
        set({ save: { kind: 'saved', at: newest.row.changedAt } });
      },
      async keepMine() {
        if (!(await follow(true))) {
          const allowed = 'a change that fits the other version; keep yours as a copy';
          return [{ code: 'reference', path: '', given: 'changes it has no place for', allowed }];
        }
        set({ save: { kind: 'saving' } });
        await flush();
        return [];
      },
      retry: () => void flush(),
      noticeToken(other) {
        if (own.has(other) || other === kept.token) return;
        noticed = other;
        if (get().save.kind !== 'conflict') void flush(true);
      },
    };
  });
}

/** Whether something on screen is not kept. */
export function isUnkept(save: SaveState): boolean {
  return save.kind !== 'saved';
}

import { changeThread, type Issue } from '@mile-thread/core/model';
import type { ThreadRow } from '../../storage/db.ts';
import { openSession } from '../../document/session.ts';
import { documentOf } from '../../storage/threads.ts';

/** Rename a thread from the shelf, as a change that can be undone when it is opened. */
export function renameThread(row: ThreadRow, name: string, tell: (work: Promise<unknown>) => void): Issue[] {
  const edits = [{ op: 'replace' as const, path: ['name'], value: name }];
  const read = documentOf(row);
  if (!read.ok) return read.issues;
  const checked = changeThread(read.value, edits);
  if (!checked.ok) return checked.issues;
  tell(
    openSession(row.id).then((session) => {
      if (typeof session === 'function') session.getState().commit('Rename the thread', edits);
    }),
  );
  return [];
}

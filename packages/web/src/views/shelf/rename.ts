import { decodeThread, type Issue } from '@mile-thread/core/model';
import type { ThreadRow } from '../../storage/db.ts';
import { openSession } from '../../document/session.ts';

/** Rename a thread from the shelf, as a change that can be undone when it is opened. */
export function renameThread(row: ThreadRow, name: string, tell: (work: Promise<unknown>) => void): Issue[] {
  const checked = decodeThread({ ...row.doc, name });
  if (!checked.ok) return checked.issues;
  tell(
    openSession(row.id).then((session) =>
      session?.getState().commit('Rename the thread', [{ op: 'replace', path: ['name'], value: name }]),
    ),
  );
  return [];
}

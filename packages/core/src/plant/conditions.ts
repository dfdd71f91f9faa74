import { surroundingsOf, type ThreadDocument } from '../model/thread.ts';

/** Under what a thread is run. All of it is applied once, when its plant is compiled. */
export interface Conditions {
  /** [°C] around the stages */
  air: number;
  /** charge left of the rated, 1 for a new cell */
  capacity: number;
  /** resistance over that of a new cell, 1 for a new one */
  resistance: number;
  /** state of charge at the start, 0…1 */
  startSoc: number;
  /** id of the mode that is held throughout; absent: the thread's programme */
  mode?: string;
}

/** The conditions a thread states itself: usual air, new cells, its own start and programme. */
export function conditionsOf(doc: ThreadDocument, more: Partial<Conditions> = {}): Conditions {
  const { air } = surroundingsOf(doc);
  return { air, capacity: 1, resistance: 1, startSoc: doc.pack.startSoc, ...more };
}

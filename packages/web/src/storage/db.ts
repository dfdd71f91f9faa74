import type { StageRecord, ThreadDocument } from '@mile-thread/core/model';
import Dexie, { type EntityTable, type Table } from 'dexie';
import type { Patch } from 'immer';

/** A thread as kept. */
export interface ThreadRow {
  id: string;
  name: string;
  doc: ThreadDocument;
  /** number of the newest revision that is part of `doc`; revisions above it have been undone */
  head: number;
  /** changes with every write: a tab that holds another token is behind */
  token: string;
  createdAt: number;
  changedAt: number;
}

/** One change, with what takes it back. */
export interface RevisionRow {
  threadId: string;
  number: number;
  label: string;
  patches: Patch[];
  inverse: Patch[];
  at: number;
}

interface MetaRow {
  key: string;
  value: unknown;
}

/** A stage record of one's own. */
export interface RecordRow {
  id: string;
  name: string;
  record: StageRecord;
  at: number;
}

type Database = Dexie & {
  threads: EntityTable<ThreadRow, 'id'>;
  revisions: Table<RevisionRow, [string, number]>;
  meta: EntityTable<MetaRow, 'key'>;
  records: EntityTable<RecordRow, 'id'>;
};

export const db = new Dexie('mile-thread') as Database;
db.version(1).stores({ threads: 'id, changedAt', revisions: '[threadId+number], threadId', meta: 'key' });
db.version(2).stores({ records: 'id, name' });

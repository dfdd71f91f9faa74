import type { CellRecord, Edit, StageRecord } from '@mile-thread/core/model';
import Dexie, { type EntityTable, type Table } from 'dexie';

/** A thread as kept: of any version, whole or not, until `documentOf` has read it. */
export interface ThreadRow {
  id: string;
  name: string;
  doc: unknown;
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
  patches: Edit[];
  inverse: Edit[];
  at: number;
}

interface MetaRow {
  key: string;
  value: unknown;
}

/** A record of one's own: of a stage or a cell. */
export interface NamedRow<R> {
  id: string;
  name: string;
  record: R;
  at: number;
}

/** What a card on the shelf says, kept by what it follows from. */
export interface AnswerRow {
  key: string;
  value: unknown;
  at: number;
}

/** Something that is being recorded on the bench: its rows come in pieces, so that nothing recorded is lost. */
export interface RecordingRow {
  id: string;
  threadId: string;
  startedAt: number;
}

/** A piece of a recording: rows of [s], [V], [A]. */
export interface RecordingPart {
  id: string;
  part: number;
  rows: [seconds: number, volts: number, amps: number][];
}

type Database = Dexie & {
  threads: EntityTable<ThreadRow, 'id'>;
  revisions: Table<RevisionRow, [string, number]>;
  meta: EntityTable<MetaRow, 'key'>;
  records: EntityTable<NamedRow<StageRecord>, 'id'>;
  cells: EntityTable<NamedRow<CellRecord>, 'id'>;
  answers: EntityTable<AnswerRow, 'key'>;
  recordings: EntityTable<RecordingRow, 'id'>;
  recordingParts: Table<RecordingPart, [string, number]>;
};

export const db = new Dexie('mile-thread', {
  // What is said to be kept has reached the disk.
  chromeTransactionDurability: 'strict',
  // Another tab's write must be seen at once, not when it is told of.
  cache: 'disabled',
}) as Database;
db.version(1).stores({ threads: 'id, changedAt', revisions: '[threadId+number], threadId', meta: 'key' });
db.version(2).stores({ records: 'id, name' });
db.version(3).stores({ answers: 'key, at' });
db.version(4).stores({ cells: 'id, name' });
db.version(5).stores({ recordings: 'id, threadId', recordingParts: '[id+part], id' });

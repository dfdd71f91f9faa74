import { encodeRecords, recordRows } from '@mile-thread/core';
import { cellFileOf, type CellRecord, type ThreadDocument } from '@mile-thread/core/model';
import { App as AntApp } from 'antd';
import Papa from 'papaparse';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { openSession } from '../../document/session.ts';
import { ask } from '../../jobs/client.ts';
import type { LogFile } from '../../jobs/questions/cells.ts';
import { saveFile } from '../../kit/files.ts';
import { useRecords } from '../../kit/useRecords.tsx';
import type { ThreadRow } from '../../storage/db.ts';
import { cellRecords } from '../../storage/named.ts';
import { storageTrouble } from '../../storage/threads.ts';

/** Largest file that is opened. */
const MOST_BYTES = 20e6;
/** A table of records, not a log: its heading names their values. */
const OF_RECORDS = /(^|[,;\t"])cell\.capacityAh($|[,;\t"])/;

/** A cell about to be used in a thread. */
export interface Asked {
  cell: CellRecord;
  /** of the thread, and as it stands */
  name: string;
  doc: ThreadDocument;
  take(): void;
}

/** What is done with cells: logs and records taken in, kept, given out, removed, used in a thread. */
export function useCellWork() {
  const { message } = AntApp.useApp();
  const navigate = useNavigate();
  const [files, setFiles] = useState<LogFile[]>([]);
  const [asked, setAsked] = useState<Asked>();
  const tell = useMemo(() => (e: unknown) => void message.error(storageTrouble(e), 8), [message]);

  const { takeIn, remove } = useRecords(cellRecords, 'cell', tell);

  const takeRecords = async (name: string, text: string) => {
    const table = !/\.json$/i.test(name);
    const { records, refused } = await ask('cellFiles', [text, table]);
    await takeIn({ records: records.map((r) => ({ ...r.cell, name: r.name })), refused }, name);
  };

  /** Files of records, or logs of discharges: each is looked at for what it is. */
  const take = async (given: readonly File[]) => {
    const large = given.find((f) => f.size > MOST_BYTES);
    if (large) return void message.error(`${large.name} has more than 20 MB: log at longer intervals`, 8);
    const logs: LogFile[] = [];
    for (const file of given) {
      const text = await file.text();
      const heading = text.slice(0, text.indexOf('\n') + 1 || undefined);
      if (/\.json$/i.test(file.name) || OF_RECORDS.test(heading.trim())) await takeRecords(file.name, text);
      else logs.push({ name: file.name, text });
    }
    if (logs.length > 0) setFiles((now) => [...now, ...logs]);
  };

  const keep = (cell: CellRecord) =>
    cellRecords
      .keep([cell])
      .then(() => void message.success(`${cell.name} is kept, and first among the cells`));

  const use = async (cell: CellRecord, thread: ThreadRow) => {
    const session = await openSession(thread.id);
    if (typeof session !== 'function') return void message.error(`${thread.name} cannot be read`);
    const take = () => {
      const edits = [{ op: 'replace' as const, path: ['pack', 'cell'], value: cell }];
      const [issue] = session.getState().commit(`Take the cell ${cell.name}`, edits);
      if (issue) return void message.error(`Not possible there: ${issue.allowed}`);
      void navigate(`/thread/${thread.id}/path`);
    };
    setAsked({ cell, name: thread.name, doc: session.getState().doc, take });
  };

  return {
    asked,
    leave: () => setAsked(undefined),
    files,
    setFiles,
    tell,
    take: (given: readonly File[]) =>
      void take(given).catch((e: Error) => message.error(`It could not be read: ${e.message}`, 8)),
    keepLog: (cell: CellRecord) => void keep(cell).then(() => setFiles([]), tell),
    keep: (cell: CellRecord) => void keep(cell).catch(tell),
    remove: (id: string, name: string) => void remove(id, name, { placement: 'bottomRight' }).catch(tell),
    use: (cell: CellRecord, thread: ThreadRow) => void use(cell, thread).catch(tell),
  };
}

/** Hand cells to the person as a file. */
export function saveCells(cells: readonly CellRecord[], form: 'json' | 'csv'): void {
  const files = cells.map(cellFileOf);
  if (form === 'json') saveFile('cells.records.json', encodeRecords(files));
  else saveFile('cells.records.csv', Papa.unparse(recordRows(files)), 'text/csv');
}

import { encodeRecords, recordRows } from '@mile-thread/core';
import { cellFileOf, issueSentence, type CellRecord, type ThreadDocument } from '@mile-thread/core/model';
import { App as AntApp, Button } from 'antd';
import Papa from 'papaparse';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { openSession } from '../../document/session.ts';
import { ask } from '../../jobs/client.ts';
import type { LogFile } from '../../jobs/questions/cells.ts';
import { saveFile } from '../../kit/files.ts';
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
  const { message, modal, notification } = AntApp.useApp();
  const navigate = useNavigate();
  const [files, setFiles] = useState<LogFile[]>([]);
  const [asked, setAsked] = useState<Asked>();
  const tell = useMemo(() => (e: unknown) => void message.error(storageTrouble(e), 8), [message]);

  const takeRecords = async (name: string, text: string) => {
    const table = !/\.json$/i.test(name);
    const read = await ask('cellFiles', [table ? Papa.parse<string[]>(text.trim()).data : text]);
    if (read.records.length > 0) {
      await cellRecords.keep(read.records.map((r) => ({ ...r.cell, name: r.name })));
      void message.success(`${read.records.length} ${read.records.length === 1 ? 'cell' : 'cells'} kept`);
    }
    if (read.refused.length === 0) return;
    modal.error({
      title: read.records.length > 0 ? 'Some cells could not be read' : `${name} could not be read`,
      width: 560,
      content: (
        <ul>
          {read.refused.slice(0, 5).map((r) => (
            <li key={r.name}>
              {r.name}: {issueSentence(r.issues[0]!)}
            </li>
          ))}
        </ul>
      ),
    });
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

  const remove = async (id: string, name: string) => {
    const restore = await cellRecords.remove(id);
    const undo = () => {
      restore().catch(tell);
      notification.destroy(id);
    };
    const actions = (
      <Button size="small" type="primary" onClick={undo}>
        Undo
      </Button>
    );
    notification.info({ key: id, title: `${name} removed`, actions, placement: 'bottomRight' });
  };

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
    remove: (id: string, name: string) => void remove(id, name).catch(tell),
    use: (cell: CellRecord, thread: ThreadRow) => void use(cell, thread).catch(tell),
  };
}

/** Hand cells to the person as a file. */
export function saveCells(cells: readonly CellRecord[], form: 'json' | 'csv'): void {
  const files = cells.map(cellFileOf);
  if (form === 'json') saveFile('cells.records.json', encodeRecords(files));
  else saveFile('cells.records.csv', Papa.unparse(recordRows(files)), 'text/csv');
}

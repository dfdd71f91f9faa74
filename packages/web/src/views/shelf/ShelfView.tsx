import { encodeThread, type ThreadDocument } from '@mile-thread/core/model';
import { App as AntApp, Button, Empty } from 'antd';
import { useLiveQuery } from 'dexie-react-hooks';
import { lazy, Suspense, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import clsx from 'clsx';
import { ask } from '../../jobs/client.ts';
import { FileButton } from '../../kit/FileButton.tsx';
import { fileName, saveFile } from '../../kit/files.ts';
import type { ThreadRow } from '../../storage/db.ts';
import { useImport } from '../../kit/useImport.tsx';
import {
  addThreads,
  documentOf,
  duplicateThread,
  listThreads,
  removeThread,
  storageTrouble,
} from '../../storage/threads.ts';
import { ThreadCard } from './ThreadCard.tsx';
import { renameThread } from './rename.ts';
import { OutsidePlaces } from '../../kit/OutsidePlaces.tsx';
import { LiveStop } from '../../kit/LiveStop.tsx';
import barCss from '../../kit/bar.module.css';
import css from './shelf.module.css';

// Its form comes when a thread is started.
const NewThread = lazy(() => import('./NewThread.tsx').then((m) => ({ default: m.NewThread })));

/** The shelf: every thread with its path, its answer and its worst finding. */
export function ShelfView() {
  const threads = useLiveQuery(listThreads, []);
  const [creating, setCreating] = useState(false);
  const { message, notification } = AntApp.useApp();
  const navigate = useNavigate();
  useEffect(() => {
    document.title = 'Shelf · Mile Thread';
  }, []);

  /** Storage trouble is told, never swallowed. */
  const tell = (work: Promise<unknown>) =>
    void work.catch((e: unknown) => message.error(storageTrouble(e), 8));

  const create = async (doc: ThreadDocument) => {
    const [id] = await addThreads([doc]);
    setCreating(false);
    void navigate(`/thread/${id}/path`);
  };
  const remove = async (id: string, name: string) => {
    const restore = await removeThread(id);
    const key = `removed-${id}`;
    const undo = (
      <Button
        size="small"
        type="primary"
        onClick={() => {
          tell(restore());
          notification.destroy(key);
        }}
      >
        Undo
      </Button>
    );
    notification.info({
      key,
      title: `${name} deleted`,
      actions: undo,
      duration: 12,
      placement: 'bottomRight',
    });
  };
  const take = useImport();
  /** As it is kept, where it cannot be read: nothing of it is lost. */
  const exportOne = (row: ThreadRow) => {
    const read = documentOf(row);
    saveFile(fileName(row.name), read.ok ? encodeThread(read.value) : JSON.stringify(row.doc, null, 2));
  };
  const exportAll = async () => {
    const { text, left } = await ask('shelfFile', [(threads ?? []).map((t) => t.doc)]);
    saveFile('shelf.mile.json', text);
    if (left > 0) void message.warning(`${left} that cannot be read left out: export each by its card`, 8);
  };

  if (!threads) return null;
  return (
    <div className={barCss.frame}>
      <header className={barCss.top}>
        <span className={barCss.brand}>Mile Thread</span>
        <OutsidePlaces />
        <LiveStop />
        <span className={barCss.tagline}>from lithium cell to load, and where every watt-hour goes</span>
        <span className={barCss.space} />
        <FileButton ghost size="small" accept=".json" multiple onFiles={take}>
          Import
        </FileButton>
        <Button ghost size="small" disabled={threads.length === 0} onClick={() => tell(exportAll())}>
          Export all
        </Button>
        <Button size="small" className={barCss.newButton} type="primary" onClick={() => setCreating(true)}>
          New thread
        </Button>
      </header>
      <main className={css.shelf}>
        <h1>Shelf</h1>
        <p className="quiet">Threads live in this browser. Drop a thread file anywhere to put it here.</p>
        {threads.length === 0 ? (
          <Empty description="The shelf is empty">
            <Button type="primary" onClick={() => setCreating(true)}>
              Start a thread
            </Button>
          </Empty>
        ) : (
          <ul className={css.cards}>
            {threads.map((row) => (
              <ThreadCard
                key={row.id}
                row={row}
                onDuplicate={() => tell(duplicateThread(row.id))}
                onDelete={() => tell(remove(row.id, row.name))}
                onExport={() => exportOne(row)}
                onRename={(name) => renameThread(row, name, tell)}
              />
            ))}
            <li className={clsx(css.card, css.blank)}>
              <button type="button" onClick={() => setCreating(true)}>
                + Start a thread
                <span>volts, amps, hours and a cell are enough</span>
              </button>
            </li>
          </ul>
        )}
      </main>
      {creating && (
        <Suspense fallback={null}>
          <NewThread open onCancel={() => setCreating(false)} onCreate={(doc) => tell(create(doc))} />
        </Suspense>
      )}
    </div>
  );
}

import { encodeThread, type ThreadDocument } from '@mile-thread/core';
import { App as AntApp, Button, Empty, Upload } from 'antd';
import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { encodeShelf, fileName, readThreadFile, saveFile } from '../../app/files.ts';
import { db } from '../../storage/db.ts';
import { addThreads, duplicateThread, removeThread, storageTrouble } from '../../storage/threads.ts';
import { NewThread } from './NewThread.tsx';
import { ThreadCard } from './ThreadCard.tsx';
import { renameThread } from './rename.ts';

/** The shelf: every thread with its path, its answer and its worst finding. */
export function ShelfView() {
  const threads = useLiveQuery(() => db.threads.orderBy('changedAt').reverse().toArray(), []);
  const [creating, setCreating] = useState(false);
  const { message, modal, notification } = AntApp.useApp();
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
  const take = async (files: File[]) => {
    const read = await Promise.all(files.map(readThreadFile));
    const good = read.flatMap((r) => (r.ok ? r.threads : []));
    if (good.length > 0) {
      await addThreads(good);
      void message.success(`${good.length === 1 ? good[0]!.name : `${good.length} threads`} on the shelf`);
    }
    const bad = read.filter((r) => !r.ok);
    if (bad.length === 0) return;
    modal.error({
      title: bad.length === 1 ? `${bad[0]!.name} could not be read` : `${bad.length} files could not be read`,
      width: 560,
      content: (
        <div className="file-trouble">
          {bad.map((b) => (
            <div key={b.name}>
              {bad.length > 1 && <b>{b.name}</b>}
              <ul>{!b.ok && b.sentences.map((s) => <li key={s}>{s}</li>)}</ul>
            </div>
          ))}
          <p>Nothing on the shelf has changed.</p>
        </div>
      ),
    });
  };
  useDrop((files) => tell(take(files)));

  if (!threads) return null;
  return (
    <div className="frame">
      <header className="top">
        <span className="brand">Mile Thread</span>
        <span className="tagline">from lithium cell to load, and where every watt-hour goes</span>
        <span className="space" />
        <Upload
          accept=".json"
          multiple
          showUploadList={false}
          beforeUpload={(file, list) => {
            if (file === list[list.length - 1]) tell(take(list));
            return false;
          }}
        >
          <Button ghost size="small">
            Import
          </Button>
        </Upload>
        <Button
          ghost
          size="small"
          disabled={threads.length === 0}
          onClick={() => saveFile('shelf.mile.json', encodeShelf(threads.map((t) => t.doc)))}
        >
          Export all
        </Button>
        <Button size="small" type="primary" className="new-button" onClick={() => setCreating(true)}>
          New thread
        </Button>
      </header>
      <main className="shelf">
        <h1>Shelf</h1>
        <p className="quiet">Threads live in this browser. Drop a thread file anywhere to put it here.</p>
        {threads.length === 0 ? (
          <Empty description="The shelf is empty">
            <Button type="primary" onClick={() => setCreating(true)}>
              Start a thread
            </Button>
          </Empty>
        ) : (
          <ul className="cards">
            {threads.map((row) => (
              <ThreadCard
                key={row.id}
                row={row}
                onDuplicate={() => tell(duplicateThread(row.id))}
                onDelete={() => tell(remove(row.id, row.name))}
                onExport={() => saveFile(fileName(row.name), encodeThread(row.doc))}
                onRename={(name) => renameThread(row, name, tell)}
              />
            ))}
            <li className="card blank">
              <button type="button" onClick={() => setCreating(true)}>
                + Start a thread
                <span>volts, amps, hours and a cell are enough</span>
              </button>
            </li>
          </ul>
        )}
      </main>
      <NewThread open={creating} onCancel={() => setCreating(false)} onCreate={(doc) => tell(create(doc))} />
    </div>
  );
}

/** Files dropped anywhere on the page. */
function useDrop(onFiles: (files: File[]) => void) {
  useEffect(() => {
    const over = (event: DragEvent) => event.preventDefault();
    const drop = (event: DragEvent) => {
      event.preventDefault();
      const files = [...(event.dataTransfer?.files ?? [])];
      if (files.length > 0) onFiles(files);
    };
    window.addEventListener('dragover', over);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', over);
      window.removeEventListener('drop', drop);
    };
  });
}

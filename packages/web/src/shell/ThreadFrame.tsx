import { encodeThread, type ThreadDocument, isSizable } from '@mile-thread/core/model';
import { App as AntApp, Alert, Button, Modal, Result, Spin } from 'antd';
import { liveQuery } from 'dexie';
import { useEffect, useState } from 'react';
import { Link, NavLink, Outlet, useNavigate, useParams } from 'react-router';
import { stageLetter } from '../document/commands.ts';
import { openSession, type SessionStore } from '../document/session.ts';
import { SessionContext } from '../document/useSession.ts';
import { useSelection } from '../document/view.ts';
import { db } from '../storage/db.ts';
import { addThreads, storageTrouble } from '../storage/threads.ts';
import { EditableText } from '../kit/EditableText.tsx';
import { fileName, saveFile } from '../kit/files.ts';
import { FindAnything } from './FindAnything.tsx';
import { KeyHelp } from './KeyHelp.tsx';
import { useImport } from '../kit/useImport.tsx';
import { keyIsTaken } from '../kit/useNeedleKeys.ts';

/** Opens the thread of the address and shows its head and tabs around the view. */
export function ThreadFrame() {
  const { id } = useParams();
  return <OpenThread key={id} id={id!} />;
}

function OpenThread({ id }: { id: string }) {
  const [store, setStore] = useState<SessionStore | 'missing' | { trouble: string } | undefined>();
  useEffect(() => {
    let gone = false;
    openSession(id)
      .then((s) => !gone && setStore(() => s ?? 'missing'))
      .catch((e: unknown) => !gone && setStore({ trouble: storageTrouble(e) }));
    return () => {
      gone = true;
    };
  }, [id]);

  if (store === undefined) return <Spin className="waiting" size="large" />;
  if (store === 'missing') {
    return (
      <Result
        status="info"
        title="This thread is not on the shelf"
        subTitle="It may have been deleted, or belongs to another browser."
        extra={<Link to="/">Back to the shelf</Link>}
      />
    );
  }
  if (typeof store === 'object') {
    return (
      <Result
        status="warning"
        title="The thread could not be opened"
        subTitle={store.trouble}
        extra={<Link to="/">Back to the shelf</Link>}
      />
    );
  }
  return (
    <SessionContext value={store as SessionStore}>
      <Frame store={store as SessionStore} />
    </SessionContext>
  );
}

function Frame({ store }: { store: SessionStore }) {
  const { doc, save, head, history, takenOver, id } = store();
  const { message } = AntApp.useApp();
  const navigate = useNavigate();
  const [help, setHelp] = useState(false);
  const [finding, setFinding] = useState(false);
  useImport();
  const canUndo = history.some((r) => r.number === head);
  const canRedo = history.some((r) => r.number === head + 1);

  useEffect(() => () => useSelection.getState().select(undefined), [id]);
  useEffect(() => {
    document.title = `${doc.name} · Mile Thread`;
  }, [doc.name]);
  useEffect(() => {
    const watch = liveQuery(() => db.threads.get(id)).subscribe({
      next: (row) => row && store.getState().noticeToken(row.token),
      error: () => {}, // the next write says what is wrong with storage
    });
    return () => watch.unsubscribe();
  }, [id, store]);
  useEffect(() => {
    if (takenOver > 0) void message.info('Changed in another tab: this is the newest version.');
  }, [takenOver, message]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = (event.target as HTMLElement).closest('input, textarea');
      const z = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z';
      if (z && !typing) {
        event.preventDefault();
        const label = event.shiftKey ? store.getState().redo() : store.getState().undo();
        if (label) void message.info(`${event.shiftKey ? 'Done again' : 'Undone'}: ${label}`);
      }
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        event.preventDefault();
        setFinding(true);
      }
      if (event.key === '?' && !typing) setHelp(true);
      if (/^[1-9]$/.test(event.key) && !keyIsTaken(event)) {
        const place = placesOf(store.getState().doc)[Number(event.key) - 1];
        if (place) void navigate(place.to, { relative: 'route' });
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [store, message, navigate]);

  const undoLabel = history.find((r) => r.number === head)?.label;
  const redoLabel = history.find((r) => r.number === head + 1)?.label;
  return (
    <div className="frame">
      <header className="top">
        <Link to="/" className="brand">
          Mile Thread
        </Link>
        <span className="slash" aria-hidden="true">
          /
        </span>
        <h1>
          <EditableText
            label="Name of the thread"
            value={doc.name}
            className="thread-name"
            onCommit={(value) =>
              store.getState().commit('Rename the thread', [{ op: 'replace', path: ['name'], value }])
            }
          />
        </h1>
        <span className="saved" role="status">
          {save.kind === 'saved' && `saved ${clock(save.at)} · revision ${head}`}
          {save.kind === 'saving' && 'saving…'}
          {save.kind === 'trouble' && 'not saved'}
          {save.kind === 'conflict' && 'changed elsewhere'}
        </span>
        <span className="space" />
        <Button
          ghost
          size="small"
          disabled={!canUndo}
          title={undoLabel && `Undo: ${undoLabel} (Ctrl+Z)`}
          onClick={() => store.getState().undo()}
        >
          Undo
        </Button>
        <Button
          ghost
          size="small"
          disabled={!canRedo}
          title={redoLabel && `Redo: ${redoLabel} (Ctrl+Shift+Z)`}
          onClick={() => store.getState().redo()}
        >
          Redo
        </Button>
        <Button ghost size="small" onClick={() => saveFile(fileName(doc.name), encodeThread(doc))}>
          Export
        </Button>
        <Button ghost size="small" className="find-button" onClick={() => setFinding(true)}>
          Find anything <kbd>Ctrl K</kbd>
        </Button>
        <Button ghost size="small" aria-label="Keyboard" title="Keyboard (?)" onClick={() => setHelp(true)}>
          ?
        </Button>
      </header>
      {save.kind === 'trouble' && <Alert banner type="error" title={save.message} />}
      <Conflict store={store} />
      <Places doc={doc} />
      <main className="frame-main">
        <Outlet />
      </main>
      {finding && <FindAnything store={store} onClose={() => setFinding(false)} />}
      <KeyHelp open={help} onClose={() => setHelp(false)} />
    </div>
  );
}

/** The views of a thread: its path, and each of its stages. Keys 1 to 9 go there. */
function placesOf(doc: ThreadDocument): { to: string; name: string; letter?: string }[] {
  const stages = doc.stages.filter(isSizable);
  return [
    { to: 'path', name: 'Path' },
    ...stages.map((s) => ({ to: `stage/${s.id}`, name: s.name, letter: stageLetter(doc, s.id) })),
  ];
}

function Places({ doc }: { doc: ThreadDocument }) {
  return (
    <nav className="places" aria-label="Views of this thread">
      {placesOf(doc).map(({ to, name, letter }) => (
        <NavLink key={to} to={to}>
          {letter && <b>{letter}</b>} {name}
        </NavLink>
      ))}
    </nav>
  );
}

/** Another tab was faster: say so, and let the person choose; nothing is overwritten. */
function Conflict({ store }: { store: SessionStore }) {
  const { save, doc, reload } = store();
  const navigate = useNavigate();
  if (save.kind !== 'conflict') return null;
  const keepCopy = async () => {
    const [copy] = await addThreads([{ ...doc, name: `${doc.name}, from this tab`.slice(0, 120) }]);
    void navigate(`/thread/${copy}/path`);
  };
  return (
    <Modal
      open
      closable={false}
      title={
        save.deleted ? 'This thread was deleted in another tab' : 'This thread was changed in another tab'
      }
      footer={[
        <Button key="copy" onClick={() => void keepCopy()}>
          Keep mine as a copy
        </Button>,
        save.deleted ? (
          <Button key="shelf" type="primary" onClick={() => void navigate('/')}>
            Go to the shelf
          </Button>
        ) : (
          <Button key="theirs" type="primary" onClick={() => void reload()}>
            Take the other version
          </Button>
        ),
      ]}
    >
      Your last change here is not kept yet, so that nothing of the other tab is overwritten.
    </Modal>
  );
}

function clock(at: number): string {
  return new Date(at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });
}

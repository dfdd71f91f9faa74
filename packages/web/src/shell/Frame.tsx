import { App as AntApp, Alert, Button } from 'antd';
import { liveQuery } from 'dexie';
import { lazy, Suspense, useCallback, useEffect, useState } from 'react';
import { Outlet } from 'react-router';
import type { SessionStore } from '../document/session.ts';
import { TellContext } from '../document/useCommit.ts';
import { useImport } from '../kit/useImport.tsx';
import { db } from '../storage/db.ts';
import { LeaveGuard } from './LeaveGuard.tsx';
import { Head } from './Head.tsx';
import { Places } from './Places.tsx';
import { useFrameKeys } from './useFrameKeys.ts';
import barCss from '../kit/bar.module.css';
import css from './frame.module.css';

// What opens on demand is loaded on demand.
const Conflict = lazy(() => import('./Conflict.tsx').then((m) => ({ default: m.Conflict })));
const FindAnything = lazy(() => import('./FindAnything.tsx').then((m) => ({ default: m.FindAnything })));
const KeyHelp = lazy(() => import('./KeyHelp.tsx').then((m) => ({ default: m.KeyHelp })));

/** Head and row of views around every view of an open thread. */
export function Frame({ store }: { store: SessionStore }) {
  const { doc, save, takenOver, id } = store();
  const { message } = AntApp.useApp();
  const [help, setHelp] = useState(false);
  const [finding, setFinding] = useState(false);
  const find = useCallback(() => setFinding(true), []);
  const ask = useCallback(() => setHelp(true), []);
  const tell = useCallback((sentence: string) => void message.error(sentence, 6), [message]);
  useImport();
  useFrameKeys(store, message, { find, help: ask });
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
    if (takenOver.count === 0) return;
    void message.info(
      takenOver.merged
        ? 'Changed in another tab too: both changes are in this version.'
        : 'Changed in another tab: this is the newest version.',
    );
  }, [takenOver, message]);
  return (
    <TellContext value={tell}>
      <div className={barCss.frame}>
        <Head store={store} onFind={find} onHelp={ask} />
        {save.kind === 'trouble' && (
          <Alert
            banner
            type="error"
            title={save.message}
            action={
              <Button size="small" onClick={() => store.getState().retry()}>
                Try again
              </Button>
            }
          />
        )}
        <LeaveGuard store={store} />
        <Places store={store} />
        <main className={css.frameMain}>
          <Suspense fallback={null}>
            <Outlet />
          </Suspense>
        </main>
        <Suspense fallback={null}>
          {save.kind === 'conflict' && <Conflict store={store} />}
          {finding && <FindAnything store={store} onClose={() => setFinding(false)} />}
          {help && <KeyHelp open onClose={() => setHelp(false)} />}
        </Suspense>
      </div>
    </TellContext>
  );
}

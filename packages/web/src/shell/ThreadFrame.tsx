import { issueSentence } from '@mile-thread/core/model';
import { useQueryClient } from '@tanstack/react-query';
import { Button } from 'antd';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { openSession, type SessionStore, type Unreadable } from '../document/session.ts';
import { SessionContext } from '../document/useSession.ts';
import { beginThread } from '../document/view.ts';
import { fewSentences, fileName, saveFile } from '../kit/files.ts';
import { questionOf } from '../jobs/client.ts';
import { Notice } from '../kit/Notice.tsx';
import { storageTrouble } from '../storage/threads.ts';
import { Frame } from './Frame.tsx';
import { Skeleton } from './Skeleton.tsx';

/** Opens the thread of the address and shows its head and views. */
export function ThreadFrame() {
  const { id } = useParams();
  return <OpenThread key={id} id={id!} />;
}

type Opened =
  | { kind: 'opening' }
  | { kind: 'open'; store: SessionStore }
  | { kind: 'missing' }
  | { kind: 'unreadable'; what: Unreadable }
  | { kind: 'trouble'; message: string };

function OpenThread({ id }: { id: string }) {
  const queries = useQueryClient();
  const [opened, setOpened] = useState<Opened>({ kind: 'opening' });
  useEffect(() => {
    let gone = false;
    openSession(id).then(
      (found) => {
        if (gone) return;
        if (!found) setOpened({ kind: 'missing' });
        else if (typeof found !== 'function') setOpened({ kind: 'unreadable', what: found });
        else {
          beginThread(id);
          // Asked before anything of it is drawn.
          void queries.prefetchQuery(questionOf('compute', [found.getState().doc]));
          setOpened({ kind: 'open', store: found });
        }
      },
      (error: unknown) => !gone && setOpened({ kind: 'trouble', message: storageTrouble(error) }),
    );
    return () => {
      gone = true;
    };
  }, [id, queries]);
  const back = <Link to="/">Back to the shelf</Link>;
  switch (opened.kind) {
    case 'opening':
      return <Skeleton />;
    case 'open':
      return (
        <SessionContext value={opened.store}>
          <Frame store={opened.store} />
        </SessionContext>
      );
    case 'missing':
      return (
        <Notice
          title="This thread is not on the shelf"
          text="It may have been deleted, or belongs to another browser."
          actions={back}
        />
      );
    case 'unreadable':
      return <Broken {...opened.what} />;
    case 'trouble':
      return <Notice title="The thread could not be opened" text={opened.message} actions={back} />;
  }
}

/** A thread that is kept and cannot be read: what is wrong, and the way to save what is there. */
function Broken({ row, issues }: Unreadable) {
  return (
    <Notice
      title={`${row.name} cannot be read`}
      text={issues.length === 1 ? issueSentence(issues[0]!) : undefined}
      actions={
        <>
          <Button
            type="primary"
            onClick={() => saveFile(fileName(row.name), JSON.stringify(row.doc, null, 2))}
          >
            Export it as it is
          </Button>{' '}
          <Link to="/">Back to the shelf</Link>
        </>
      }
    >
      {issues.length > 1 && (
        <ul>
          {fewSentences(issues).map((s) => (
            <li key={s}>{s}</li>
          ))}
        </ul>
      )}
    </Notice>
  );
}

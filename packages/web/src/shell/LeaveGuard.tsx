import { lazy, Suspense } from 'react';
import { useBlocker } from 'react-router';
import { isUnkept, type SessionStore } from '../document/session.ts';
import { useUnload } from './useUnload.ts';

const LeaveQuestion = lazy(() => import('./LeaveQuestion.tsx').then((m) => ({ default: m.LeaveQuestion })));

/** What is on screen and not kept is not left without a question. */
export function LeaveGuard({ store }: { store: SessionStore }) {
  const { save } = store();
  const stuck = save.kind === 'trouble';
  // A change that is being written needs no question: it goes on whatever view is open.
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      stuck && threadIn(currentLocation.pathname) !== threadIn(nextLocation.pathname),
  );
  useUnload(isUnkept(save));
  if (blocker.state !== 'blocked') return null;
  return (
    <Suspense fallback={null}>
      <LeaveQuestion
        message={save.kind === 'trouble' ? save.message : ''}
        onLeave={() => blocker.proceed()}
        onStay={() => {
          blocker.reset();
          store.getState().retry();
        }}
      />
    </Suspense>
  );
}

function threadIn(pathname: string): string {
  return pathname.split('/').slice(0, 3).join('/');
}

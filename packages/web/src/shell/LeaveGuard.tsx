import { lazy, Suspense } from 'react';
import { useBlocker } from 'react-router';
import { isUnkept, type SessionStore } from '../document/session.ts';
import { isLive, useLive } from '../document/live.ts';
import { useUnload } from '../kit/useUnload.ts';

const LeaveQuestion = lazy(() => import('./LeaveQuestion.tsx').then((m) => ({ default: m.LeaveQuestion })));

/** What is on screen and not kept, or on at the bench, is not left without a question. */
export function LeaveGuard({ store }: { store: SessionStore }) {
  const { save } = store();
  const live = useLive();
  const stuck = save.kind === 'trouble';
  // A change that is being written needs no question: it goes on whatever view is open.
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      (stuck || isLive(useLive.getState())) &&
      threadIn(currentLocation.pathname) !== threadIn(nextLocation.pathname),
  );
  useUnload(isUnkept(save));
  if (blocker.state !== 'blocked') return null;
  const stay = () => blocker.reset();
  return (
    <Suspense fallback={null}>
      {stuck ? (
        <LeaveQuestion
          title="Your last change is not kept"
          message={save.message}
          leave={[{ words: 'Leave without it', act: () => blocker.proceed() }]}
          stay="Stay and try again"
          onStay={() => {
            stay();
            store.getState().retry();
          }}
        />
      ) : (
        <LeaveQuestion
          title={live.words ?? live.unreached ?? 'Nothing is on any more'}
          message="Nobody is beside it once this thread is left. The stop stays in the bar of every page."
          leave={[
            ...(live.words === undefined
              ? []
              : [
                  {
                    words: 'Stop it and leave',
                    act: () => {
                      live.stop();
                      blocker.proceed();
                    },
                  },
                ]),
            { words: live.words === undefined ? 'Leave' : 'Leave it on', act: () => blocker.proceed() },
          ]}
          stay="Stay"
          onStay={stay}
        />
      )}
    </Suspense>
  );
}

function threadIn(pathname: string): string {
  return pathname.split('/').slice(0, 3).join('/');
}

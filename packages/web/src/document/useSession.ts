import { createContext, useContext } from 'react';
import type { SessionStore } from './session.ts';

/** The session of the thread that is open, set by the frame around its views. */
export const SessionContext = createContext<SessionStore | undefined>(undefined);

/** The session of the thread that is open. */
export function useSession(): SessionStore {
  const session = useContext(SessionContext);
  if (!session) throw new Error('useSession: no thread is open here');
  return session;
}

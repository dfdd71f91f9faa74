import { issueSentence } from '@mile-thread/core/model';
import { createContext, useContext, useMemo } from 'react';
import type { Commit } from './session.ts';
import { useSession } from './useSession.ts';

/** Tells a sentence to the person; the shell says how. */
export const TellContext = createContext<(sentence: string) => void>(() => {});

/**
 * Changes of the open thread. What is refused is told, but for a single value: whoever typed it has the reason beside it.
 */
export function useCommit(): Commit {
  const store = useSession();
  const tell = useContext(TellContext);
  return useMemo<Commit>(
    () => (label, edits) => {
      const issues = store.getState().commit(label, edits);
      const typed = edits.length === 1 && typeof edits[0]!.value !== 'object' && edits[0]!.op !== 'remove';
      if (issues.length > 0 && !typed) tell(`${label} is not possible. ${issueSentence(issues[0]!)}`);
      return issues;
    },
    [store, tell],
  );
}

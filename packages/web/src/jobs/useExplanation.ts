import type { Explanation } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import { readingsKey } from '@mile-thread/core/solve';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { ask, questionOf } from './client.ts';

/** What explains the readings, as it comes about. */
export interface Explaining {
  /** null where no reading says anything; undefined while it is not known */
  found: Explanation | null | undefined;
  /** whether that is of other readings, or of the thread before the last change */
  stale: boolean;
  /** share done; undefined while nothing is being worked out */
  progress: number | undefined;
  stopped: boolean;
  error: string | undefined;
  stop(): void;
  start(): void;
}

/** What explains the readings of a thread: begun by itself when there are any, with how far it is and a way to stop it. */
export function useExplanation(doc: ThreadDocument): Explaining {
  const measured = useMemo(() => readingsKey(doc), [doc]);
  const some = [...(doc.readings ?? []), ...(doc.curves ?? [])].some((r) => r.taken === undefined);
  const question = questionOf('explanation', [doc, measured]);
  const name = JSON.stringify(question.queryKey);
  const [progress, setProgress] = useState<number>();
  const [stoppedAt, setStoppedAt] = useState<string>();
  const stopper = useRef<AbortController | undefined>(undefined);
  const stopped = stoppedAt === name;
  const query = useQuery({
    ...question,
    enabled: some && !stopped,
    queryFn: async ({ signal }) => {
      const own = new AbortController();
      stopper.current = own;
      signal.addEventListener('abort', () => own.abort());
      try {
        return await ask('explanation', [doc, measured], { signal: own.signal, onProgress: setProgress });
      } finally {
        setProgress(undefined);
      }
    },
    placeholderData: (before) => before,
  });
  useEffect(() => () => stopper.current?.abort(), []);
  return {
    found: some ? query.data : null,
    stale: query.isPlaceholderData || stopped,
    progress: query.isFetching ? (progress ?? 0) : undefined,
    stopped,
    error: stopped ? undefined : query.error?.message,
    stop: () => {
      setStoppedAt(name);
      stopper.current?.abort();
    },
    start: () => setStoppedAt(undefined),
  };
}

import type { Outcome, ThreadDocument } from '@mile-thread/core/model';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { ask, keyOf } from '../../jobs/client.ts';
import { PRIORITY } from '../../jobs/job.ts';
import type { Card } from '../../jobs/questions/card.ts';
import { keepAnswer, keptAnswer } from '../../storage/answers.ts';
import type { ThreadRow } from '../../storage/db.ts';
import { documentOf } from '../../storage/threads.ts';

/** Raised when what a card says changes its meaning: answers kept before are worked out anew. */
const CARDS = 2;

interface Seen {
  /** put on the card */
  ref: RefObject<HTMLLIElement | null>;
  /** undefined until the card came into sight */
  read: Outcome<ThreadDocument> | undefined;
  card: Card | undefined;
  failed: boolean;
}

/** What a card shows: read and computed when it comes into sight, kept by what it follows from. */
export function useCard(row: ThreadRow): Seen {
  const ref = useRef<HTMLLIElement>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const watch = new IntersectionObserver(
      (entries) => {
        if (entries.some((e) => e.isIntersecting)) setSeen(true);
      },
      { rootMargin: '200px' },
    );
    watch.observe(ref.current!);
    return () => watch.disconnect();
  }, []);
  const read = seen ? documentOf(row) : undefined;
  const doc = read?.ok ? read.value : undefined;
  const { data, isError } = useQuery({
    queryKey: doc ? keyOf('card', [doc]) : ['card'],
    queryFn: async ({ signal, queryKey }) => {
      const key = JSON.stringify([CARDS, ...queryKey]);
      const kept = (await keptAnswer(key)) as Card | undefined;
      if (kept) return kept;
      const card = await ask('card', [doc!], { signal, priority: PRIORITY.soon });
      keepAnswer(key, card);
      return card;
    },
    enabled: doc !== undefined,
    networkMode: 'always',
    staleTime: Infinity,
    retry: false,
  });
  return { ref, read, card: data, failed: isError };
}

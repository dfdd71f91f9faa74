import type { ThreadDocument } from '@mile-thread/core/model';
import { useRange } from '../../jobs/useRange.ts';
import { likely } from '../../kit/words.ts';

/** How long it lasts as a range, as it comes about; a file of its own, since few threads ask for it. */
export function LikelyRange({ doc }: { doc: ThreadDocument }) {
  const { range } = useRange(doc, true);
  return range ? <>, {likely(range)}</> : null;
}

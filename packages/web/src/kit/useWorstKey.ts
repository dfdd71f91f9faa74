import type { ThreadDocument } from '@mile-thread/core/model';
import { useEffect } from 'react';
import { useNeedle } from '../document/view.ts';
import { useAnswer } from '../jobs/client.ts';
import { keyIsTaken } from './useNeedleKeys.ts';

/** w moves the needle to the worst instants, one after the other: of the cells first, then of each load. */
export function useWorstKey(doc: ThreadDocument) {
  const { data } = useAnswer('worst', [doc]);
  useEffect(() => {
    let at = -1;
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'w' || keyIsTaken(event) || !data || data.length === 0) return;
      at = (at + 1) % data.length;
      useNeedle.getState().moveTo(data[at]!.look);
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [data]);
}

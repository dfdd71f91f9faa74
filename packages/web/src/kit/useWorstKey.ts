import type { ThreadDocument } from '@mile-thread/core/model';
import { useEffect } from 'react';
import { useNeedle } from '../document/view.ts';
import { ask } from '../jobs/client.ts';
import { keyIsTaken } from './useNeedleKeys.ts';

/** w moves the needle to the worst instants, one after the other: of the cells first, then of each load. */
export function useWorstKey(doc: ThreadDocument) {
  useEffect(() => {
    let at = -1;
    let gone = false;
    const next = async () => {
      const worst = await ask('worst', [doc]);
      if (gone || worst.length === 0) return;
      at = (at + 1) % worst.length;
      useNeedle.getState().moveTo(worst[at]!.look);
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'w' || keyIsTaken(event)) return;
      event.preventDefault();
      // Where the run cannot be had the view says so.
      void next().catch(() => undefined);
    };
    window.addEventListener('keydown', onKey);
    return () => {
      gone = true;
      window.removeEventListener('keydown', onKey);
    };
  }, [doc]);
}

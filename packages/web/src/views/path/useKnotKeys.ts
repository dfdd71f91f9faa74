import type { ThreadDocument } from '@mile-thread/core/model';
import { useEffect } from 'react';
import { keyIsTaken } from '../../kit/useNeedleKeys.ts';

/** [ and ] go through the knots, Escape lets go; not while something is typed. */
export function useKnotKeys(
  doc: ThreadDocument,
  selected: string | undefined,
  select: (id: string | undefined) => void,
) {
  useEffect(() => {
    const order = ['pack', 'protection', ...doc.stages.map((s) => s.id), ...doc.loads.map((l) => l.id)];
    const onKey = (event: KeyboardEvent) => {
      if (keyIsTaken(event)) return;
      if (event.key === 'Escape') select(undefined);
      else if (event.key === '[' || event.key === ']') {
        const at = selected ? order.indexOf(selected) : event.key === ']' ? -1 : 0;
        select(order[(at + (event.key === ']' ? 1 : -1) + order.length) % order.length]);
      } else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [doc, selected, select]);
}

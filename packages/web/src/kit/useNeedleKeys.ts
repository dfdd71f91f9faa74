import { useEffect } from 'react';
import { KEY_STEP, useNeedle, type Needle } from '../document/view.ts';

/** Where arrow keys belong to something else. */
const OWN_KEYS =
  'input, textarea, select, [role=slider], [role=combobox], [role=menu], [role=dialog], [role=tab], [role=radio]';

/** Whether a key press belongs to what has the focus. */
export function keyIsTaken(event: KeyboardEvent): boolean {
  if (event.ctrlKey || event.metaKey || event.altKey) return true;
  return (event.target as HTMLElement).closest(OWN_KEYS) !== null;
}

/** Arrow keys move the needle, wherever the focus is; not while something is typed. */
export function useNeedleKeys(needle: Needle = useNeedle) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (keyIsTaken(event)) return;
      const { time, end, moveTo } = needle.getState();
      const step = KEY_STEP * end * (event.shiftKey ? 10 : 1);
      if (event.key === 'ArrowLeft') moveTo(time - step);
      else if (event.key === 'ArrowRight') moveTo(time + step);
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [needle]);
}

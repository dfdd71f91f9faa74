import { useLive } from '../document/live.ts';
import css from './frame.module.css';

/** What is on outside the machine, and the stop that takes it off: in the bar whatever the view. */
export function LiveStop() {
  const { words, stop } = useLive();
  if (words === undefined) return null;
  return (
    <button type="button" className={css.liveStop} onClick={stop} title={words} aria-label={`Stop: ${words}`}>
      ■ Stop <span>{words}</span>
    </button>
  );
}

import { isLive, useLive } from '../document/live.ts';
import { useUnload } from './useUnload.ts';
import css from './liveStop.module.css';

/** What is on outside the machine, and the stop that takes it off: in the bar of every page. The page is not left without a word. */
export function LiveStop() {
  const live = useLive();
  const { words, unreached, stop, seen } = live;
  useUnload(isLive(live));
  return (
    <>
      {words !== undefined && (
        <button type="button" className={css.stop} onClick={stop} title={words} aria-label={`Stop: ${words}`}>
          ■ Stop <span>{words}</span>
        </button>
      )}
      {unreached !== undefined && (
        <span className={css.unreached} role="alert">
          <b>⚠ {unreached}</b>
          <button type="button" onClick={seen}>
            It is off now
          </button>
        </span>
      )}
    </>
  );
}

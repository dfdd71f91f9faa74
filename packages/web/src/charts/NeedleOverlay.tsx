import { useCallback, useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import clsx from 'clsx';
import { MARGIN } from './RunPlot.tsx';
import css from './charts.module.css';

interface Props {
  /** [s] */
  time: number;
  /** [s] right end of the plot */
  end: number;
  /** share of the plot an arrow key moves */
  keyStep: number;
  /** what the needle reads, two short lines */
  reading: [string, string];
  onMove(time: number): void;
}

/** The needle above a plot: drag anywhere on the plot, or arrow keys. The plot below is never redrawn by it. */
export function NeedleOverlay({ time, end, keyStep, reading, onMove }: Props) {
  const area = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(entry!.contentRect.width));
    watch.observe(area.current!);
    return () => watch.disconnect();
  }, []);

  // A mouse reports more often than the screen is drawn: one move a frame is enough.
  const frame = useRef(0);
  const toTime = useCallback(
    (event: PointerEvent) => {
      const { clientX } = event;
      cancelAnimationFrame(frame.current);
      frame.current = requestAnimationFrame(() => {
        const box = area.current!.getBoundingClientRect();
        const plot = box.width - MARGIN.l - MARGIN.r;
        onMove(((clientX - box.left - MARGIN.l) / plot) * end);
      });
    },
    [end, onMove],
  );
  useEffect(() => () => cancelAnimationFrame(frame.current), []);
  const onKey = (event: KeyboardEvent) => {
    const step = keyStep * end * (event.shiftKey ? 10 : 1);
    const to = {
      ArrowLeft: time - step,
      ArrowDown: time - step,
      ArrowRight: time + step,
      ArrowUp: time + step,
      PageDown: time - 10 * step,
      PageUp: time + 10 * step,
      Home: 0,
      End: end,
    }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onMove(to);
  };

  const plot = Math.max(0, width - MARGIN.l - MARGIN.r);
  const x = MARGIN.l + (end > 0 ? time / end : 0) * plot;
  const left = x > width - 190;
  return (
    <div
      ref={area}
      className={css.needleArea}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        toTime(e);
      }}
      onPointerMove={(e) => {
        if (e.currentTarget.hasPointerCapture(e.pointerId)) toTime(e);
      }}
    >
      <div
        className={css.needle}
        role="slider"
        tabIndex={0}
        aria-label="Needle: instant of the run"
        aria-valuemin={0}
        aria-valuemax={Math.round(end)}
        aria-valuenow={Math.round(time)}
        aria-valuetext={`${reading[0]}, ${reading[1]}`}
        style={{ transform: `translateX(${x}px)` }}
        onKeyDown={onKey}
      >
        <svg className={css.needleShape} width="16" height="100%" aria-hidden="true">
          <line x1="8" x2="8" y1="16" y2="100%" />
          <ellipse cx="8" cy="9" rx="4" ry="8" />
        </svg>
        <span className={css.needlePoint} aria-hidden="true" />
        <div className={clsx(css.needleReading, left && css.left)} aria-hidden="true">
          <b>{reading[0]}</b>
          <span>{reading[1]}</span>
        </div>
      </div>
    </div>
  );
}

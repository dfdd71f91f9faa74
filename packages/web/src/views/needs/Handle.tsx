import clsx from 'clsx';
import { useRef, type CSSProperties, type KeyboardEvent, type PointerEvent } from 'react';
import css from './needs.module.css';

interface Props {
  /** “Work, how long” */
  label: string;
  value: number;
  /** what a screen reader says of it */
  text: string;
  /** along which the pointer changes it */
  axis: 'x' | 'y';
  style: CSSProperties;
  /** the value so many pixels further, to the right or up */
  moved(pixels: number): number;
  /** while it is dragged; undefined when it is let go */
  onPreview(value: number | undefined): void;
  onCommit(value: number): void;
}

/** Share by which an arrow key changes a value, with Shift and without. */
const FINE = 1.05;
const COARSE = 1.5;

/** An edge that can be dragged, or moved with the arrow keys. */
export function Handle({ label, value, text, axis, style, moved, onPreview, onCommit }: Props) {
  const from = useRef<number | undefined>(undefined);
  const at = (event: PointerEvent) => (axis === 'x' ? event.clientX : -event.clientY);
  const round = (v: number) => Number(v.toPrecision(2));
  const down = (event: PointerEvent<HTMLDivElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    from.current = at(event);
  };
  const move = (event: PointerEvent) => {
    if (from.current !== undefined) onPreview(round(moved(at(event) - from.current)));
  };
  const up = (event: PointerEvent) => {
    if (from.current === undefined) return;
    const next = round(moved(at(event) - from.current));
    const dragged = Math.abs(at(event) - from.current) > 2;
    from.current = undefined;
    onPreview(undefined);
    if (dragged && next !== value) onCommit(next);
  };
  const cancel = () => {
    from.current = undefined;
    onPreview(undefined);
  };
  const key = (event: KeyboardEvent) => {
    const more = event.key === (axis === 'x' ? 'ArrowRight' : 'ArrowUp');
    const less = event.key === (axis === 'x' ? 'ArrowLeft' : 'ArrowDown');
    if (!more && !less) return;
    event.preventDefault();
    event.stopPropagation();
    const factor = event.shiftKey ? COARSE : FINE;
    onCommit(Number((more ? value * factor : value / factor).toPrecision(3)));
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-orientation={axis === 'x' ? 'horizontal' : 'vertical'}
      aria-valuenow={value}
      aria-valuetext={text}
      className={clsx(css.handle, css[axis])}
      style={style}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={cancel}
      onKeyDown={key}
    />
  );
}

import clsx from 'clsx';
import type { Load } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import type { ReactNode } from 'react';
import css from './drawing.module.css';

interface CardProps {
  load: Load;
  now: { volts: number; amps: number; state: 'in' | 'low' | 'high' };
  x: number;
  y: number;
  width: number;
  height: number;
  selected: string | undefined;
  onSelect(id: string): void;
  children: ReactNode;
}

/** A load on the drawing: its name, what it gets, whether that is in its range. */
export function LoadCard({ load, now, x, y, width, height, selected, onSelect, children }: CardProps) {
  const out = now.state !== 'in';
  const words = now.state === 'low' ? 'too low' : 'too high';
  return (
    <div
      className={clsx(
        css.load,
        height < 40 && css.oneLine,
        out && css.trouble,
        selected === load.id && css.selected,
      )}
      style={{ left: x, top: y - height / 2, width, height }}
      data-load={load.id}
    >
      <button
        type="button"
        className={css.loadName}
        title={`${load.name}, ${load.grade}`}
        data-grade={load.grade}
        aria-pressed={selected === load.id}
        onClick={() => onSelect(load.id)}
      >
        {load.name}
      </button>
      <span className={css.loadValues}>
        {out ? (
          <>
            <i aria-hidden="true">✕</i>{' '}
            {height < 40 ? `${formatQuantity(now.volts, 'V')}, ${words}` : `${words} for ${range(load)}`}
          </>
        ) : (
          <>
            {formatQuantity(now.volts, 'V')} · {children}
          </>
        )}
      </span>
    </div>
  );
}

/** The range in few characters: `4.9–5.3 V`. */
function range({ range: { min, max } }: Load): string {
  return `${Number(min.toPrecision(3))}–${Number(max.toPrecision(3))} V`;
}

import clsx from 'clsx';
import type { ReactNode } from 'react';
import css from './drawing.module.css';

interface LabelProps {
  x: number;
  y: number;
  width: number;
  className: string | undefined;
  /** text ends at x + width */
  end?: boolean;
  children: ReactNode;
}

/** Words on the drawing, at a place. */
export function Label({ x, y, width, className, end, children }: LabelProps) {
  return (
    <div className={clsx(css.label, className, end && css.end)} style={{ left: x, top: y, width }}>
      {children}
    </div>
  );
}

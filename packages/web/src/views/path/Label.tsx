import type { ReactNode } from 'react';

interface LabelProps {
  x: number;
  y: number;
  width: number;
  className: string;
  /** text ends at x + width */
  end?: boolean;
  children: ReactNode;
}

/** Words on the drawing, at a place. */
export function Label({ x, y, width, className, end, children }: LabelProps) {
  return (
    <div className={`label ${className} ${end ? 'end' : ''}`} style={{ left: x, top: y, width }}>
      {children}
    </div>
  );
}

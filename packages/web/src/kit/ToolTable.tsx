import clsx from 'clsx';
import type { ReactNode } from 'react';
import css from './tables.module.css';

interface Props {
  label: string;
  /** headings; an empty one is the column of buttons */
  heads: readonly string[];
  className?: string;
  children: ReactNode;
}

/** A tool's table: its rows offer something, or compare. */
export function ToolTable({ label, heads, className = '', children }: Props) {
  return (
    <table className={clsx(css.toolTable, className)} aria-label={label}>
      <thead>
        <tr>
          {heads.map((head, k) => (
            <th key={k} scope="col">
              {head === '' ? <span className="hidden">use</span> : head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  );
}

import type { ReactNode } from 'react';
import css from './needs.module.css';

/** Whether a want is met, and by how much. */
export interface Verdict {
  ok: boolean;
  words: string;
}

/** Met, or short by so much. */
export function met(ok: boolean, by: string): Verdict {
  return { ok, words: ok ? `✓ ${by} to spare` : `✕ short by ${by}` };
}

/** A want: its name, its value, what came of it. */
export function Want({
  name,
  verdict,
  action,
  children,
}: {
  name: string;
  verdict: Verdict | undefined;
  /** what would mend it */
  action?: { label: string; apply(): void } | undefined;
  children: ReactNode;
}) {
  return (
    <div className={css.want}>
      <span>
        {name} <b>{children}</b>
      </span>
      {verdict && <em className={verdict.ok ? css.met : css.short}>{verdict.words}</em>}
      {action && (
        <button type="button" className="link strong" onClick={action.apply}>
          {action.label}
        </button>
      )}
    </div>
  );
}

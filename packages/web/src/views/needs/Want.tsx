import type { ReactNode } from 'react';

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
  children,
}: {
  name: string;
  verdict: Verdict | undefined;
  children: ReactNode;
}) {
  return (
    <div className="want">
      <span>
        {name} <b>{children}</b>
      </span>
      {verdict && <em className={verdict.ok ? 'met' : 'short'}>{verdict.words}</em>}
    </div>
  );
}

import { useCallback, useEffect, useRef, useState } from 'react';
import type { Commit } from '../../document/session.ts';
import { bothTexts } from './bothTexts.ts';

/** [ms] without a key after which what is typed is kept. */
const PAUSE = 350;
const MOST = 4000;

interface Draft {
  text: string;
  /** what stood there when typing began */
  from: string;
}

/** Free words on the thread; kept at every pause, and when the field or the page is left. */
export function Notes({ notes = '', commit }: { notes: string | undefined; commit: Commit }) {
  const [draft, setDraft] = useState<Draft | undefined>();
  const latest = useRef({ draft, notes, commit });
  useEffect(() => {
    latest.current = { draft, notes, commit };
  });
  const keep = useCallback(() => {
    const now = latest.current;
    if (!now.draft) return;
    const value = bothTexts(now.draft, now.notes).slice(0, MOST);
    latest.current.draft = undefined;
    setDraft(undefined);
    if (value !== now.notes) now.commit('Change the notes', [{ op: 'replace', path: ['notes'], value }]);
  }, []);
  useEffect(() => {
    if (!draft) return;
    const pause = setTimeout(keep, PAUSE);
    return () => clearTimeout(pause);
  }, [draft, keep]);
  useEffect(() => {
    window.addEventListener('pagehide', keep);
    return () => {
      window.removeEventListener('pagehide', keep);
      keep();
    };
  }, [keep]);
  return (
    <textarea
      rows={1}
      maxLength={MOST}
      value={draft?.text ?? notes}
      placeholder="What this thread is for, what was decided and why"
      aria-label="Notes"
      onChange={(e) => setDraft((d) => ({ text: e.target.value, from: d?.from ?? notes }))}
      onBlur={keep}
    />
  );
}

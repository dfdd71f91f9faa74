import { Input } from 'antd';
import type { Commit } from '../../document/session.ts';

/** Free words on the thread; kept when the field is left. */
export function Notes({ notes, commit }: { notes: string | undefined; commit: Commit }) {
  const keep = (text: string) => {
    if (text === (notes ?? '')) return;
    commit('Change the notes', [
      { op: notes === undefined ? 'add' : 'replace', path: ['notes'], value: text },
    ]);
  };
  return (
    <Input.TextArea
      variant="borderless"
      autoSize={{ minRows: 1, maxRows: 8 }}
      maxLength={4000}
      defaultValue={notes}
      placeholder="What this thread is for, what was decided and why"
      aria-label="Notes"
      onBlur={(e) => keep(e.target.value)}
    />
  );
}

import type { MessageInstance } from 'antd/es/message/interface';
import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import type { SessionStore } from '../document/session.ts';
import { keyIsTaken } from '../kit/useNeedleKeys.ts';
import { STEPS } from './places.ts';

interface Opens {
  find(): void;
  help(): void;
}

/** Keys that hold in every view of a thread. */
export function useFrameKeys(store: SessionStore, message: MessageInstance, { find, help }: Opens): void {
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = (event.target as HTMLElement).closest('input, textarea');
      const held = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      if (held && key === 'z' && !typing) {
        event.preventDefault();
        const label = event.shiftKey ? store.getState().redo() : store.getState().undo();
        if (label) void message.info(`${event.shiftKey ? 'Done again' : 'Undone'}: ${label}`);
      }
      if (held && key === 'k') {
        event.preventDefault();
        find();
      }
      if (event.key === '?' && !typing) help();
      // Digits are nothing to a slider: from the needle they lead on too.
      const onSlider = (event.target as HTMLElement).closest('[role=slider]') !== null;
      if (held || event.altKey || (keyIsTaken(event) && !onSlider)) return;
      const to = STEPS.find((s) => s.key === event.key)?.to(store.getState().doc);
      if (to !== undefined) void navigate(to, { relative: 'route' });
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [store, message, navigate, find, help]);
}

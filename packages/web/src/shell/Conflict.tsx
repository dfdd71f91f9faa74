import { Alert, Button, Modal, type ButtonProps } from 'antd';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { SessionStore } from '../document/session.ts';
import { addThreads, storageTrouble } from '../storage/threads.ts';

/** Another tab changed the same places: say so, and let the person choose; nothing is overwritten. */
export function Conflict({ store }: { store: SessionStore }) {
  const { save, doc, takeTheirs, keepMine } = store();
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState<string | undefined>();
  if (save.kind !== 'conflict') return null;
  const attempt = (work: Promise<unknown>) =>
    void work.catch((error: unknown) => setTrouble(storageTrouble(error)));
  const keepCopy = async () => {
    const [copy] = await addThreads([{ ...doc, name: `${doc.name}, from this tab`.slice(0, 120) }]);
    void navigate(`/thread/${copy}/path`);
  };
  const putMine = async () => {
    const [issue] = await keepMine();
    if (issue) setTrouble(`Given ${issue.given}; allowed: ${issue.allowed}.`);
  };
  const choice = (key: string, words: string, act: () => void, type?: ButtonProps['type']) => (
    <Button key={key} type={type ?? 'default'} onClick={act}>
      {words}
    </Button>
  );
  const choices = [choice('copy', 'Keep mine as a copy', () => attempt(keepCopy()))];
  if (save.deleted) choices.push(choice('shelf', 'Go to the shelf', () => void navigate('/'), 'primary'));
  else {
    choices.push(
      choice('mine', 'Put mine over it', () => attempt(putMine())),
      choice('theirs', 'Take the other version', () => attempt(takeTheirs()), 'primary'),
    );
  }
  return (
    <Modal
      open
      closable={false}
      title={save.deleted ? 'This thread was deleted in another tab' : 'The same was changed in another tab'}
      footer={choices}
    >
      Your last change here is not kept yet, so that nothing of the other tab is overwritten.
      {trouble && <Alert type="error" title={trouble} />}
    </Modal>
  );
}

import clsx from 'clsx';
import type { Issue } from '@mile-thread/core/model';
import { useRef, useState, type KeyboardEvent } from 'react';
import css from './values.module.css';

interface Props {
  label: string;
  value: string;
  className?: string;
  onCommit(value: string): Issue[];
}

/** A name that can be typed over where it stands. */
export function EditableText({ label, value, className, onCommit }: Props) {
  const [text, setText] = useState<string | undefined>();
  const [trouble, setTrouble] = useState<string | undefined>();
  const closing = useRef(false);
  const close = () => {
    closing.current = true;
    setText(undefined);
    setTrouble(undefined);
  };
  const commit = () => {
    if (text === undefined || closing.current) return;
    if (text.trim() === value) return close();
    const issues = onCommit(text.trim());
    if (issues.length > 0) return setTrouble(`Allowed: ${issues[0]!.allowed}.`);
    close();
  };
  const onKey = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === 'Enter') commit();
    if (event.key === 'Escape') close();
  };
  if (text === undefined) {
    const open = () => {
      closing.current = false;
      setText(value);
    };
    return (
      <button
        type="button"
        className={clsx(css.editable, className)}
        aria-label={`${label}: ${value}. Edit`}
        onClick={open}
      >
        {value}
      </button>
    );
  }
  return (
    <span className={clsx(css.editing, className)}>
      <input
        autoFocus
        aria-label={label}
        aria-invalid={trouble !== undefined}
        value={text}
        size={Math.max(12, text.length)}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={onKey}
        onBlur={commit}
      />
      {trouble && (
        <span role="alert" className={css.editingTrouble}>
          {trouble}
        </span>
      )}
    </span>
  );
}

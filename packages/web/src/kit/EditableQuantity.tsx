import clsx from 'clsx';
import type { Issue } from '@mile-thread/core/model';
import { editableQuantity, formatQuantity, parseQuantity } from '@mile-thread/core/units';
import { useId, useRef, useState, type KeyboardEvent } from 'react';
import css from './values.module.css';

interface Props {
  /** what it is, for screen readers and as the tooltip: “Lamp rail, output” */
  label: string;
  /** in `unit`; undefined where the optional field is not set */
  value: number | undefined;
  unit: string;
  /** text shown instead of the value itself, for example what the needle reads */
  shown?: string;
  className?: string;
  /** undefined clears an optional field */
  optional?: boolean;
  /** @returns what is wrong with the value; empty when it was taken */
  onCommit(value: number | undefined): Issue[];
  /** other units that may be typed behind the number, and then mean another thing */
  other?: { units: readonly string[]; hint: string; onCommit(value: number, unit: string): Issue[] };
}

/**
 * A number that can be typed over where it stands. Click or Enter opens it, Enter or leaving it commits,
 * Escape restores. What is typed is read as engineers write it (4u7, 550m, 3,3); a refusal stays beside it.
 */
export function EditableQuantity(props: Props) {
  const { label, value, unit, shown, className, optional, onCommit, other } = props;
  const [text, setText] = useState<string | undefined>();
  const [trouble, setTrouble] = useState<string | undefined>();
  const button = useRef<HTMLButtonElement>(null);
  const closing = useRef(false);
  const hint = useId();

  const open = () => {
    closing.current = false;
    setTrouble(undefined);
    setText(value === undefined ? '' : editableQuantity(value, unit));
  };
  const close = (refocus: boolean) => {
    closing.current = true;
    setText(undefined);
    setTrouble(undefined);
    if (refocus) requestAnimationFrame(() => button.current?.focus());
  };
  const commit = (refocus: boolean) => {
    if (text === undefined || closing.current) return;
    if (optional && text.trim() === '') {
      if (value !== undefined) onCommit(undefined);
      return close(refocus);
    }
    if (value !== undefined && text === editableQuantity(value, unit)) return close(refocus);
    const typed = [unit, ...(other?.units ?? [])].find((u) => parseQuantity(text, u).ok) ?? unit;
    const parsed = parseQuantity(text, typed);
    if (!parsed.ok) return setTrouble(parsed.reason);
    const issues = typed === unit ? onCommit(parsed.value) : other!.onCommit(parsed.value, typed);
    if (issues.length > 0) return setTrouble(`Allowed: ${issues.map((i) => i.allowed).join('; ')}.`);
    close(refocus);
  };
  const onKey = (event: KeyboardEvent) => {
    event.stopPropagation();
    // In a task of its own: until what a key changed is painted, the browser holds back what a worker answers.
    if (event.key === 'Enter') setTimeout(() => commit(true));
    if (event.key === 'Escape') close(true);
  };

  if (text === undefined) {
    const reading =
      shown ??
      (value === undefined
        ? 'not set'
        : formatQuantity(value, unit, 4)
            .replace(/(\.\d*?)0+(?=\D|$)/, '$1')
            .replace(/\.(?=\D|$)/, ''));
    return (
      <button
        ref={button}
        type="button"
        className={clsx(css.editable, className)}
        aria-label={`${label}: ${reading}. Edit`}
        title={`${label}: click to type over${other ? `; ${other.hint}` : ''}`}
        onClick={open}
      >
        {reading}
      </button>
    );
  }
  return (
    <span className={clsx(css.editing, className)}>
      <input
        autoFocus
        aria-label={unit ? `${label}, in ${unit}` : label}
        aria-invalid={trouble !== undefined}
        aria-describedby={trouble ? hint : undefined}
        value={text}
        size={Math.max(5, text.length)}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={onKey}
        onBlur={() => commit(false)}
      />
      <span className={css.editingUnit}>{unit}</span>
      {trouble && (
        <span id={hint} role="alert" className={css.editingTrouble}>
          {trouble}
        </span>
      )}
    </span>
  );
}

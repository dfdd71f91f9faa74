import type { PlanStep } from '@mile-thread/core/bench';
import { parseQuantity } from '@mile-thread/core/units';
import { useState, type KeyboardEvent } from 'react';
import { otherUnit, told } from './model.ts';
import css from './bench.module.css';

interface Props {
  step: PlanStep;
  /** @returns whether it was taken */
  onTake(value: number): boolean;
  /** to the next blank */
  onNext(): void;
}

/** The blank beside a prediction: Enter takes what was typed and goes on to the next. */
export function Blank({ step, onTake, onNext }: Props) {
  const [text, setText] = useState('');
  const [trouble, setTrouble] = useState('');
  const [doubt, setDoubt] = useState<{ typed: number; other: number } | undefined>();
  const take = (value: number) => {
    if (!onTake(value)) return;
    setText('');
    setTrouble('');
    setDoubt(undefined);
    onNext();
  };
  if (step.unit === '') {
    return (
      <button type="button" className={css.seen} data-blank={step.id} onClick={() => take(1)}>
        seen
      </button>
    );
  }
  const onKey = (e: KeyboardEvent) => {
    if (e.key !== 'Enter') return;
    e.preventDefault();
    if (text.trim() === '') return onNext();
    const parsed = parseQuantity(text, step.unit);
    if (!parsed.ok) return setTrouble(parsed.reason);
    const other = otherUnit(step, parsed.value);
    if (other !== undefined) {
      setTrouble('');
      return setDoubt({ typed: parsed.value, other });
    }
    take(parsed.value);
  };
  return (
    <span className={css.blank}>
      <input
        type="text"
        inputMode="decimal"
        data-blank={step.id}
        aria-label={`${step.title}, in ${step.unit}`}
        aria-invalid={trouble !== '' || undefined}
        placeholder={`type, in ${step.unit}`}
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setTrouble('');
          setDoubt(undefined);
        }}
        onKeyDown={onKey}
      />
      {trouble !== '' && (
        <em role="alert" className={css.trouble}>
          {trouble}
        </em>
      )}
      {doubt && (
        <em role="alert" className={css.trouble}>
          A thousand times off what is predicted.{' '}
          <button type="button" className="link strong" onClick={() => take(doubt.other)}>
            {told(doubt.other, step.unit)}
          </button>{' '}
          or{' '}
          <button type="button" className="link" onClick={() => take(doubt.typed)}>
            really {told(doubt.typed, step.unit)}
          </button>
        </em>
      )}
    </span>
  );
}

import type { ThreadDocument } from '@mile-thread/core/model';
import { Blank } from './Blank.tsx';
import { PART_WORD, told, verdictOf, type Row } from './model.ts';
import { Probes } from './Probes.tsx';
import css from './bench.module.css';

interface Props {
  doc: ThreadDocument;
  row: Row;
  number: number;
  first: boolean;
  here: boolean;
  onPick(): void;
  onTake(value: number): boolean;
  onNext(): void;
  /** by the instruments that are connected; absent where they cannot */
  onRead: (() => void) | undefined;
}

/** A step of the plan: where the probes go, what to expect, the blank, and how what was read stands to it. */
export function PlanRow({ doc, row, number, first, here, onPick, onTake, onNext, onRead }: Props) {
  const { step, found } = row;
  const { predicted: p, unit } = step;
  return (
    <li data-here={here || undefined} data-verdict={found.verdict} onFocus={onPick} onClick={onPick}>
      {first && <h5>{PART_WORD[step.part]}</h5>}
      <Probes {...{ doc, step }} />
      <div>
        <b>
          {number} · {step.title}
        </b>
        {step.caution && <i title={step.caution}>▲</i>}
        {p && (
          <span className={css.range}>
            <b>{told(p.value, unit)}</b> {told(p.p10, unit)} to {told(p.p90, unit)}
          </span>
        )}
        <span className={css.entry}>
          {found.value !== undefined && <strong>{told(found.value, unit)}</strong>}
          <Blank {...{ step, onTake, onNext }} />
          {onRead && (
            <button type="button" className="link" onClick={onRead} aria-label={`Read ${step.title} now`}>
              read
            </button>
          )}
          <em>{verdictOf(row)}</em>
        </span>
      </div>
    </li>
  );
}

import type { Grade } from '@mile-thread/core/model';
import clsx from 'clsx';
import type { ReactNode } from 'react';
import css from './answers.module.css';

/** Whether a wish is met. */
export type Tone = 'met' | 'short';

/** The tone of an answer; none while it is not known or nothing is wished. */
export function toneOf(met: boolean | undefined): Tone | undefined {
  return met === undefined ? undefined : met ? 'met' : 'short';
}

/** One answer: a small heading, the figure, and a word on it. */
export interface AnswerCell {
  /** stable, for tests and links */
  id: string;
  label: ReactNode;
  value: ReactNode;
  note?: ReactNode;
  /** whether it meets what is wished; said in words too */
  tone?: Tone | undefined;
  /** what it says is a grade: measured is told by its colour too */
  grade?: Grade | undefined;
  /** rests on figures that are claimed or assumed */
  soft?: boolean;
  title?: string;
}

interface Props {
  /** “Answers on this stage” */
  label: string;
  cells: readonly AnswerCell[];
  /** whether they are those of the document before the last change */
  stale: boolean;
}

/** The strip above every view: what it has to say, first. */
export function Answers({ label, cells, stale }: Props) {
  return (
    <section
      data-answers
      className={clsx(css.answers, stale && css.stale)}
      aria-label={label}
      aria-live="polite"
    >
      {cells.map(({ id, label: small, value, note, tone, soft, grade, title }) => (
        <div
          key={id}
          data-answer={id}
          className={clsx(tone && css[tone], soft && css.softFigure)}
          title={title}
        >
          <small>{small}</small>
          <b data-grade={grade}>{value}</b>
          {note !== undefined && <em>{note}</em>}
        </div>
      ))}
    </section>
  );
}

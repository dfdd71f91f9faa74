import { useDraggable, useDroppable } from '@dnd-kit/core';
import type { Graded } from '@mile-thread/core/bench';
import type { Edit, ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import clsx from 'clsx';
import type { ReactNode } from 'react';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import css from './grading.module.css';

/** A place where cells lie: a group of the pack, the drawer, aside. */
export function Tray({
  id,
  title,
  room,
  children,
}: {
  id: string;
  title: string;
  room: number;
  children: ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({ id });
  return (
    <div
      ref={setNodeRef}
      className={clsx(css.place, isOver && css.over)}
      style={{ minWidth: 30 * room + 14 }}
      aria-label={title}
      role="group"
    >
      <small>{title}</small>
      <div>{children}</div>
    </div>
  );
}

interface CellProps {
  graded: Graded;
  doc: ThreadDocument;
  here: boolean;
  onPick(id: string): void;
}

/** [px] Where what a cell holds is drawn, and how tall a full one is. */
const TOP = 5;
const TALL = 56;

/** A cell as high as what it holds, with its number. */
export function Cell({ graded: { cell, grade, why }, doc, here, onPick }: CellProps) {
  const { setNodeRef, listeners, attributes, transform } = useDraggable({ id: cell.id });
  const share = Math.min(1, (cell.capacityAh ?? 0) / doc.pack.cell.capacityAh);
  const { role, ...rest } = attributes;
  void role;
  return (
    <button
      type="button"
      ref={setNodeRef}
      {...listeners}
      {...rest}
      className={css.cell}
      data-grade-of={grade}
      data-here={here || undefined}
      title={why ?? `grade ${grade}`}
      aria-label={`Cell ${cell.id}, ${grade === 'refused' ? `refused: ${why}` : grade === 'open' ? why : `grade ${grade}`}`}
      onClick={() => onPick(cell.id)}
      style={
        transform
          ? { transform: `translate(${transform.x}px,${transform.y}px) rotate(6deg)`, zIndex: 5 }
          : undefined
      }
    >
      <i style={{ height: TALL * share, top: TOP + TALL * (1 - share) }} />
      <b>{cell.id}</b>
      <span>{cell.capacityAh?.toFixed(2) ?? '–'}</span>
      <em>{cell.ohms === undefined ? '–' : (1000 * cell.ohms).toFixed(0)}</em>
    </button>
  );
}

const FIELDS = [
  ['restVolts', 'rest', 'V'],
  ['capacityAh', 'capacity', 'Ah'],
  ['ohms', 'resistance', 'Ω'],
  ['lostVolts', 'lost at rest', 'V'],
] as const;

/** What was measured of one cell, typed where it stands. */
export function Figures({
  graded: { cell, grade, why },
  commit,
  onGone,
}: {
  graded: Graded;
  commit: Commit;
  onGone(): void;
}) {
  return (
    <p className={css.figures} role="group" aria-label={`Cell ${cell.id}`}>
      <b>Cell {cell.id}</b>
      {FIELDS.map(([field, word, unit]) => (
        <span key={field}>
          {word}{' '}
          <EditableQuantity
            label={`Cell ${cell.id}, ${word}`}
            value={cell[field]}
            unit={unit}
            optional
            shown={cell[field] === undefined ? 'type' : formatQuantity(cell[field], unit, 4)}
            onCommit={(v) => {
              const path: Edit['path'] = ['graded', cell.id, field];
              const edit: Edit = v === undefined ? { op: 'remove', path } : { op: 'replace', path, value: v };
              return commit(`Cell ${cell.id}, ${word}`, [edit]);
            }}
          />
        </span>
      ))}
      <em data-refused={grade === 'refused' || undefined}>
        {grade === 'refused' ? `✕ ${why}` : grade === 'open' ? why : `grade ${grade}`}
      </em>
      <button
        type="button"
        className="link"
        onClick={() => {
          onGone();
          commit(`Take cell ${cell.id} away`, [{ op: 'remove', path: ['graded', cell.id] }]);
        }}
      >
        take it away
      </button>
    </p>
  );
}

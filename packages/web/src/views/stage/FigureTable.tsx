import type { Envelope, PartId, Snapshot } from '@mile-thread/core';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { useState } from 'react';
import clsx from 'clsx';
import { useNeedle } from '../../document/view.ts';
import { figuresShown } from './model.ts';
import css from './stage.module.css';

interface Props {
  envelope: Envelope;
  instant: Snapshot | undefined;
  /** [s] */
  end: number;
  selected: PartId | undefined;
  onSelect(part: PartId): void;
}

/** What every part carries: at the needle, at its worst over the run, and how much of its rating is left. */
export function FigureTable({ envelope, instant, end, selected, onSelect }: Props) {
  const [all, setAll] = useState(false);
  const moveTo = useNeedle((s) => s.moveTo);
  const { figures } = envelope;
  const shown = figuresShown(figures, all);
  if (figures.length === 0) return null;
  return (
    <table className={css.figures} aria-label="Parts over the run">
      <thead>
        <tr>
          <th scope="col">part</th>
          <th scope="col">at the needle</th>
          <th scope="col">worst over the run</th>
          <th scope="col">where</th>
          <th scope="col">rating</th>
          <th scope="col">room left</th>
        </tr>
      </thead>
      <tbody>
        {shown.map((k) => {
          const f = figures[k]!;
          const now = instant?.values[f.index];
          return (
            <tr key={f.id} className={clsx(f.part === selected && css.selected)}>
              <th scope="row">
                <button type="button" className={css.plain} onClick={() => onSelect(f.part)}>
                  {f.label}
                </button>
              </th>
              <td>{now === undefined || Number.isNaN(now) ? '–' : formatQuantity(now, f.unit)}</td>
              <td>{formatQuantity(f.worst, f.unit)}</td>
              <td>
                <button
                  type="button"
                  className={clsx(css.plain, css.where)}
                  title="Move the needle there"
                  onClick={() => moveTo(f.worstTime)}
                >
                  {where(f.worstTime, end)}
                </button>
              </td>
              <td>
                {f.rating === undefined ? '–' : `${formatQuantity(f.rating, f.unit)} ${f.ratingWord ?? ''}`}
              </td>
              <td>
                <Room room={f.room} />
              </td>
            </tr>
          );
        })}
      </tbody>
      {figures.length > shown.length || all ? (
        <tfoot>
          <tr>
            <td colSpan={6}>
              <button type="button" className="link" onClick={() => setAll(!all)}>
                {all ? 'Only the tightest' : `All ${figures.length} figures`}
              </button>
            </td>
          </tr>
        </tfoot>
      ) : null}
    </table>
  );
}

function where(time: number, end: number): string {
  if (time <= 0.02 * end) return 'full pack';
  if (time >= 0.98 * end) return 'empty end';
  return formatDuration(time / SECONDS_PER_HOUR);
}

function Room({ room }: { room: number | undefined }) {
  if (room === undefined) return <span className={clsx(css.room, css.none)}>–</span>;
  if (Math.abs(room) < 0.005) return <span className={css.roomNone}>none</span>;
  const tone = room < 0 ? 'over' : room < 0.1 ? 'tight' : room < 0.2 ? 'little' : '';
  const over = room < -9.99 ? 'far over' : `${Math.round(-100 * room)} % over`;
  const words = room < 0 ? over : `${Math.round(100 * room)} %`;
  const longest = room < 0 ? 38 : 60;
  return (
    <span className={clsx(css.room, css[tone])}>
      <i style={{ width: `${Math.max(2, longest * Math.min(1, Math.abs(room)))}px` }} />
      {words}
    </span>
  );
}

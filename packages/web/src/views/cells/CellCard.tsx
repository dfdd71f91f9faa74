import type { CellCurve } from '@mile-thread/core';
import { formatQuantity } from '@mile-thread/core/units';
import clsx from 'clsx';
import { picture, PICTURE, wattHoursPerKilogram, type Entry } from './model.ts';
import css from './cells.module.css';

interface Props {
  entry: Entry;
  curve: CellCurve | undefined;
  /** [Ah] at the right edge of every picture */
  most: number;
  mark: { letter: string; colour: string } | undefined;
  onToggle(): void;
}

/** A cell as the picture of its discharge. */
export function CellCard({ entry: { cell, own }, curve, most, mark, onToggle }: Props) {
  const perKilogram = wattHoursPerKilogram(cell);
  return (
    <li>
      <button
        type="button"
        className={clsx(css.card, mark && css.chosen)}
        style={mark && { borderColor: mark.colour }}
        aria-pressed={mark !== undefined}
        aria-label={`${cell.name}, ${cell.grade}${own ? ', your own' : ''}`}
        title={`${cell.name}. ${cell.source ?? ''}`}
        onClick={onToggle}
      >
        <span className={css.cardName}>
          <span>{cell.name}</span>
          {mark && <i style={{ borderColor: mark.colour, color: mark.colour }}>{mark.letter}</i>}
        </span>
        <svg viewBox={`0 0 ${PICTURE.width} ${PICTURE.height}`} preserveAspectRatio="none" aria-hidden="true">
          {[2, 3, 4].map((v) => {
            const y = PICTURE.height * (1 - (v - PICTURE.low) / (PICTURE.high - PICTURE.low));
            return <line key={v} x1={0} x2={PICTURE.width} y1={y} y2={y} />;
          })}
          {curve && <path d={picture(curve, most)} vectorEffect="non-scaling-stroke" />}
        </svg>
        <span className={css.cardFoot}>
          <b>
            {perKilogram === undefined
              ? formatQuantity(cell.capacityAh, 'Ah', 3)
              : `${Math.round(perKilogram)} Wh/kg`}
          </b>
          <em data-grade={cell.grade}>{own ? `own, ${cell.grade}` : cell.grade}</em>
        </span>
      </button>
    </li>
  );
}

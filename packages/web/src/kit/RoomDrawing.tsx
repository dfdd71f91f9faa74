import clsx from 'clsx';
import type { Arrangement, Cut, PackBody, Sides } from '@mile-thread/core/body';
import type { CellRecord } from '@mile-thread/core/model';
import css from './room.module.css';

/** [px] Widest and highest it is drawn. */
const WIDE = 250;
const HIGH = 110;
/** Cells drawn one by one; more are too small to tell apart. */
const MOST = 400;

interface Place {
  x: number;
  y: number;
}

/** Where the cells of one layer stand, from a corner, along the lines and across them. [m] */
function places({ first, second, lines, pattern }: Arrangement, across: number, gap: number): Place[] {
  const pitch = across + gap;
  const apart = pattern === 'staggered' ? (pitch * Math.sqrt(3)) / 2 : pitch;
  return Array.from({ length: lines }, (_, l) => {
    const moved = pattern === 'staggered' && l % 2 === 1;
    return Array.from({ length: moved ? second : first }, (_, k) => ({
      x: k * pitch + (moved ? pitch / 2 : 0) + across / 2,
      y: l * apart + across / 2,
    }));
  }).flat();
}

/** A board in its slice, in the plane that is looked at. [m] */
interface Slab {
  board: number;
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Boards as they lie beside the cells, and those that lie before or behind them. */
function slabs(cuts: readonly Cut[], inner: Sides, along: number, other: number, gap: number) {
  const left = [...inner];
  const beside: Slab[] = [];
  const behind: number[] = [];
  for (const { board, side, depth, sides } of cuts) {
    const at = left[side]! - depth;
    left[side] = at - gap;
    if (side === along) beside.push({ board, x: at, y: 0, width: depth, height: sides[other]! });
    else if (side === other) beside.push({ board, x: 0, y: at, width: sides[along]!, height: depth });
    else behind.push(board);
  }
  return { beside, behind };
}

/** The cells in their room, looked at along their axes, boards beside them. */
export function RoomDrawing({
  fit,
  cell,
  count,
  gap,
  boards = [],
}: {
  fit: NonNullable<PackBody['fit']>;
  cell: CellRecord;
  count: number;
  gap: number;
  /** names of the boards */
  boards?: readonly string[];
}) {
  const { arrangement: a, room, inner, cuts } = fit;
  const other = [0, 1, 2].find((s) => s !== a.axis && s !== a.along)!;
  const [width, height] = [room[a.along]!, room[other]!];
  const scale = Math.min(WIDE / width, HIGH / height);
  const margin = (room[a.along]! - inner[a.along]!) / 2;
  const { body } = cell;
  if (!body) return null;
  const here = Math.min(MOST, Math.ceil(count / Math.max(1, a.layers)));
  const px = (m: number) => m * scale;
  const { beside, behind } = slabs(cuts, inner, a.along, other, gap);
  const over = behind.length > 0 ? `, ${behind.map((b) => boards[b]).join(', ')} over them` : '';
  const label = `${Math.min(count, a.count)} of ${count} cells in ${a.pattern} rows, ${a.layers} ${a.layers === 1 ? 'layer' : 'layers'}${over}`;
  return (
    <figure className={css.drawing}>
      <svg width={px(width) + 2} height={px(height) + 2} role="img" aria-label={label}>
        <rect
          x={1}
          y={1}
          width={px(width)}
          height={px(height)}
          className={fit.fits ? css.room : clsx(css.room, css.small)}
        />
        <g transform={`translate(${1 + px(margin)} ${1 + px(margin)})`}>
          {beside.map((s) => (
            <rect
              key={s.board}
              x={px(s.x)}
              y={px(s.y)}
              width={px(s.width)}
              height={px(s.height)}
              className={css.board}
            >
              <title>{boards[s.board]}</title>
            </rect>
          ))}
          {body.kind === 'cylinder'
            ? places(a, body.diameter, gap)
                .slice(0, here)
                .map(({ x, y }) => (
                  <g key={`${x} ${y}`}>
                    <circle cx={px(x)} cy={px(y)} r={px(body.diameter / 2)} className={css.can} />
                    <circle cx={px(x)} cy={px(y)} r={px(body.diameter / 7)} className={css.cap} />
                  </g>
                ))
            : Array.from({ length: Math.min(here, a.first * a.lines) }, (_, k) => {
                const [w, h] = [a.sides![a.along]!, a.sides![other]!];
                return (
                  <rect
                    key={k}
                    x={px((k % a.first) * (w + gap))}
                    y={px(Math.floor(k / a.first) * (h + gap))}
                    width={px(w)}
                    height={px(h)}
                    className={css.can}
                  />
                );
              })}
        </g>
      </svg>
      <figcaption>{label}</figcaption>
    </figure>
  );
}

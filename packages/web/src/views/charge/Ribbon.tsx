import type { placeCells } from '../../drawing/cells.ts';
import { HEIGHT, KNOT, STOUT, Y, type places } from './boardPlaces.ts';
import type { ChargeInstant } from './model.ts';
import css from './board.module.css';

interface Props {
  now: ChargeInstant;
  most: number;
  at: ReturnType<typeof places>;
  cells: ReturnType<typeof placeCells>;
  loadAt: 'battery' | 'path' | 'off';
}

/** The ribbon, its frays and the cells. Decoration for the eye: the labels say the same in words. */
export function Ribbon({ now, most, at, cells, loadAt }: Props) {
  const { watts, load, soc } = now;
  const px = (w: number) => (w > 1e-6 ? Math.max(2, (STOUT * w) / most) : 0);
  const besides = loadAt === 'path' ? load : 0;
  const pieces: [x1: number, w1: number, x2: number, w2: number][] = [
    [at.source, px(watts.source), at.cable, px(watts.source)],
    [at.cable, px(watts.input + besides), at.knot + KNOT, px(watts.input)],
    [at.knot - KNOT, px(watts.output), at.cut, px(watts.output - (loadAt === 'battery' ? load : 0))],
    [at.cut, px(Math.max(0, watts.cells)), cells.x + cells.width + 6, px(Math.max(0, watts.kept))],
  ];
  const frays: [x: number, watts: number, below: number][] = [
    [at.cable - 14, watts.source - now.nodeVolts * now.sourceAmps, px(watts.source)],
    [at.knot - KNOT - 12, watts.input - watts.output, px(watts.output)],
    [at.cut - 14, Math.max(0, watts.pack - watts.cells), px(watts.cells)],
    [cells.x + cells.width + 16, Math.max(0, watts.cells - watts.kept), px(watts.kept)],
  ];
  const tap = loadAt === 'off' ? 0 : at.tap[loadAt];
  return (
    <svg className={css.picture} width="100%" height={HEIGHT} aria-hidden="true">
      {pieces.map(([x1, w1, x2, w2]) =>
        w1 > 0 ? (
          <path
            key={x1}
            className={css.ribbon}
            d={`M${x1},${Y - w1 / 2}L${x2},${Y - w2 / 2}L${x2},${Y + w2 / 2}L${x1},${Y + w1 / 2}Z`}
          />
        ) : null,
      )}
      {watts.output > 0 &&
        [at.source - 60, at.knot + 70, at.knot - 80, at.cut - 50].map((x) => (
          <path key={x} className={css.arrow} d={`M${x},${Y - 6}l-6,6l6,6`} />
        ))}
      {frays.map(([x, w, wide]) =>
        w > 1e-3 ? (
          <g key={x} className={css.frays}>
            {Array.from({ length: Math.min(6, 1 + Math.round((STOUT * w) / most / 1.5)) }, (_, k) => (
              <path key={k} d={`M${x + 3 * k},${Y + wide / 2 - 1}q-2,9 ${-4 - k},${19 - k}`} />
            ))}
          </g>
        ) : null,
      )}
      {[at.cut, at.cable].map((x) => (
        <line key={x} className={css.cutLine} x1={x} x2={x} y1={Y - 46} y2={Y + 46} />
      ))}
      {loadAt !== 'off' && load > 1e-6 && (
        <path
          className={css.tap}
          strokeWidth={Math.max(2, Math.min(18, px(load)))}
          d={`M${tap},${Y + 10}C${tap},${Y + 60} ${tap + 6},${HEIGHT - 22} ${tap - 30},${HEIGHT - 22}`}
        />
      )}
      {cells.cans.map((can, k) => {
        const fill = Math.min(1, Math.max(0, soc)) * can.height;
        return (
          <g key={k} className={css.cells}>
            <rect
              className={css.cap}
              x={can.x + 0.3 * can.width}
              y={can.y - 4}
              width={0.4 * can.width}
              height={4}
            />
            <rect className={css.can} {...can} rx={Math.min(4, can.width / 4)} />
            <rect
              className={css.fill}
              x={can.x + 1.5}
              y={can.y + can.height - fill}
              width={can.width - 3}
              height={Math.max(0, fill - 1.5)}
              rx={2}
            />
          </g>
        );
      })}
      {cells.times && (
        <text className={css.times} x={cells.x + cells.cans[0]!.width + 8} y={cells.y + 5}>
          {cells.times}
        </text>
      )}
    </svg>
  );
}

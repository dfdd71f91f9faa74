import type { Layout } from './layout.ts';
import type { Drawn } from './ribbon.ts';
import css from './picture.module.css';

interface Props {
  layout: Layout;
  drawn: Drawn;
  /** state of charge 0…1, the fill of the cells */
  soc: number;
  charger: boolean;
}

/** Ribbon, frays, cells and charger stub. Decoration for the eye: the table of nodes says the same in words. */
export function PathSvg({ layout, drawn, soc, charger }: Props) {
  const { cells, trunk } = layout;
  const top = cells.y - cells.height / 2;
  return (
    <svg width={layout.width} height={layout.height} className={css.picture} aria-hidden="true">
      {charger && (
        <path
          className={css.chargerStub}
          d={`M14,${top + cells.height + 52}C44,${top + cells.height + 52} ${cells.x + 30},${top + cells.height + 40} ${cells.x + 30},${top + cells.height + 8}`}
        />
      )}
      <g className={css.ribbon}>
        {drawn.ribbons.map((r) => (
          <path key={r.id} d={r.path} />
        ))}
      </g>
      <g className={css.frays}>
        {drawn.frays.map((f) =>
          f.strands.map((d, k) => <path key={`${f.id}-${k}`} d={d} opacity={0.95 - 0.06 * k} />),
        )}
      </g>
      <line className={css.cut} x1={trunk.cut} x2={trunk.cut} y1={trunk.y - 40} y2={trunk.y + 40} />
      <g className={css.cells}>
        {cells.cans.map((can, k) => {
          const fill = Math.max(0, Math.min(1, soc)) * can.height;
          return (
            <g key={k}>
              <rect
                className={css.cap}
                x={can.x + 0.3 * can.width}
                y={can.y - 4}
                width={0.4 * can.width}
                height={4}
              />
              <rect className={css.can} {...can} rx={Math.min(4, can.width / 4)} />
              <rect
                className={css.charge}
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
      </g>
    </svg>
  );
}

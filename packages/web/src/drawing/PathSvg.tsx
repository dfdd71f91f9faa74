import type { Layout } from './layout.ts';
import type { Drawn } from './ribbon.ts';

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
  const fill = Math.max(0, Math.min(1, soc)) * cells.height;
  return (
    <svg width={layout.width} height={layout.height} className="path-svg" aria-hidden="true">
      {charger && (
        <path
          className="charger-stub"
          d={`M14,${top + cells.height + 52}C44,${top + cells.height + 52} ${cells.x + 30},${top + cells.height + 40} ${cells.x + 30},${top + cells.height + 8}`}
        />
      )}
      <g className="ribbon">
        {drawn.ribbons.map((r) => (
          <path key={r.id} d={r.path} />
        ))}
      </g>
      <g className="frays">
        {drawn.frays.map((f) =>
          f.strands.map((d, k) => <path key={`${f.id}-${k}`} d={d} opacity={0.95 - 0.06 * k} />),
        )}
      </g>
      <line className="cut" x1={trunk.cut} x2={trunk.cut} y1={trunk.y - 40} y2={trunk.y + 40} />
      <g className="cells">
        {Array.from({ length: cells.shown }, (_, k) => {
          const x = cells.x + k * 24;
          return (
            <g key={k}>
              <rect className="cap" x={x + 6} y={top - 5} width={cells.width - 12} height={5} />
              <rect className="can" x={x} y={top} width={cells.width} height={cells.height} rx={4} />
              <rect
                className="charge"
                x={x + 1.5}
                y={top + cells.height - fill}
                width={cells.width - 3}
                height={Math.max(0, fill - 1.5)}
                rx={2.5}
              />
            </g>
          );
        })}
      </g>
    </svg>
  );
}

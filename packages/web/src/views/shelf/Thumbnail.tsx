import type { ThreadDocument } from '@mile-thread/core/model';
import { useMemo } from 'react';
import { layoutPath } from '../../drawing/layout.ts';
import { drawRibbons, pixelsPerWatt } from '../../drawing/ribbon.ts';
import type { Card } from '../../jobs/questions/card.ts';
import css from './shelf.module.css';
import pictureCss from '../../drawing/picture.module.css';

/** As much of a name as a plate holds. */
function short(name: string): string {
  return name.length > 14 ? `${name.slice(0, 13).trimEnd()}…` : name;
}

/** A small picture of a path at a third of its run: the same geometry as the real one, with the loads' names only. */
export function Thumbnail({ doc, card }: { doc: ThreadDocument; card: Card | undefined }) {
  const picture = useMemo(() => {
    const layout = layoutPath(doc, 900, 330);
    if (!card) return { layout, ribbons: [] };
    const scale = pixelsPerWatt(layout, card.trunk, card.branch) * 1.25;
    return { layout, ribbons: drawRibbons(layout, card.flows, scale).ribbons };
  }, [doc, card]);
  const { layout, ribbons } = picture;
  const { cells } = layout;
  const plateHalf = Math.min(21, layout.pitch / 2 - 3);
  return (
    <svg viewBox={`0 0 ${layout.width} ${layout.height}`} className={css.thumbnail} aria-hidden="true">
      <g className={pictureCss.ribbon}>
        {ribbons.map((r) => (
          <path key={r.id} d={r.path} />
        ))}
      </g>
      {cells.cans.map((can, k) => (
        <rect key={k} className={css.can} {...can} rx={Math.min(5, can.width / 4)} />
      ))}
      {cells.times && (
        <text className={pictureCss.times} x={cells.x + cells.cans[0]!.width + 6} y={cells.y + 7}>
          {cells.times}
        </text>
      )}
      {[...layout.nodes.values()].map((n) =>
        n.kind === 'stage' ? (
          <circle key={n.id} className={css.dot} cx={n.x} cy={n.y} r={24} />
        ) : (
          <g key={n.id}>
            <rect
              className={css.plate}
              x={n.x}
              y={n.y - plateHalf}
              width={layout.card.width}
              height={2 * plateHalf}
              rx={7}
            />
            <text x={n.x + 10} y={n.y + 7}>
              {short(doc.loads.find((l) => l.id === n.id)!.name)}
            </text>
          </g>
        ),
      )}
    </svg>
  );
}

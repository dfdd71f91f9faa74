import { placeCells, type Cells } from './cells.ts';
import { PACK, type ThreadDocument } from '@mile-thread/core/model';

/** Where things stand on the drawing, before anything flows. Pixels. */
export interface NodePlace {
  id: string;
  kind: 'stage' | 'load';
  x: number;
  y: number;
}

export type Density = 'normal' | 'compact' | 'dense';

export interface Layout {
  width: number;
  height: number;
  /** distance of neighbouring rows */
  pitch: number;
  /** how close the rows are: `compact` shortens labels, `dense` puts names beside knots and cards on one line */
  density: Density;
  /** radius of a knot */
  radius: number;
  cells: Cells;
  /** where the trunk leaves the cells, is cut by protection and leads, and fans out */
  trunk: { from: number; cut: number; to: number; y: number };
  /** left edge and size of the load cards */
  card: { x: number; width: number; height: number };
  nodes: Map<string, NodePlace>;
  /** what hangs on each rail, top to bottom; key `pack` or a stage's id */
  rails: Map<string, string[]>;
}

/** Sizes by density: first column and distance of columns, radius of knots, load cards. */
const SIZES = {
  normal: { first: 400, step: 168, radius: 26, card: { width: 172, height: 46 } },
  compact: { first: 400, step: 150, radius: 20, card: { width: 172, height: 46 } },
  dense: { first: 362, step: 168, radius: 14, card: { width: 212, height: 26 } },
};
/** Rows closer than this are compact, and dense. */
const COMPACT_BELOW = 84;
const DENSE_BELOW = 62;
const LEAST_PITCH = 30;

/**
 * Place every stage and load of a tree: a column for each depth, a row for each leaf, loads at the right.
 * Rows of a subtree are neighbours and a stage stands in the middle of its rows, so that no ribbon crosses
 * another.
 * @param width px wanted; grows when the tree is too deep for it
 * @param height px wanted; grows when the tree has too many rows
 */
export function layoutPath(doc: ThreadDocument, width: number, height: number): Layout {
  const rails = new Map<string, string[]>([
    [PACK, []],
    ...doc.stages.map((s): [string, string[]] => [s.id, []]),
  ]);
  for (const x of [...doc.stages, ...doc.loads]) rails.get(x.from)?.push(x.id);

  const isStage = new Set(doc.stages.map((s) => s.id));
  const depth = new Map<string, number>();
  const row = new Map<string, number>();
  let rows = 0;
  const walk = (id: string, level: number): number => {
    depth.set(id, level);
    const below = (rails.get(id) ?? []).map((child) => walk(child, level + 1));
    const place = below.length > 0 ? (below[0]! + below[below.length - 1]!) / 2 : rows++;
    row.set(id, place);
    return place;
  };
  const trunkRow = walk(PACK, 0);
  const deepest = Math.max(1, ...doc.stages.map((s) => depth.get(s.id)!));

  const top = 30;
  const bottom = 24;
  const count = Math.max(rows, 1);
  const pitch = Math.max(LEAST_PITCH, Math.min(132, (height - top - bottom) / count));
  const used = pitch * count;
  const tall = Math.max(height, used + top + bottom);
  const offset = top + (tall - top - bottom - used) / 2 + pitch / 2;
  const density: Density = pitch < DENSE_BELOW ? 'dense' : pitch < COMPACT_BELOW ? 'compact' : 'normal';
  const { first, step: leastStep, radius, card } = SIZES[density];
  const wide = Math.max(width, first + deepest * leastStep + card.width + 34);
  const cardX = wide - card.width - 22;
  // The last column leaves room for a rail's volts before its loads.
  const lastColumn = cardX - 118;
  const step = deepest > 1 ? Math.min(190, (lastColumn - first) / (deepest - 1)) : 0;
  const y = (r: number) => offset + r * pitch;

  const nodes = new Map<string, NodePlace>();
  for (const id of row.keys()) {
    if (id === PACK) continue;
    const stage = isStage.has(id);
    const x = stage ? first + (depth.get(id)! - 1) * step : cardX;
    nodes.set(id, { id, kind: stage ? 'stage' : 'load', x, y: y(row.get(id)!) });
  }
  const trunkY = Math.min(Math.max(y(trunkRow), 92), tall - 96);
  const cells = placeCells(doc.pack.series, doc.pack.parallel, 28, trunkY);
  return {
    width: wide,
    height: tall,
    pitch,
    density,
    radius,
    cells,
    trunk: { from: cells.x + cells.width + 9, cut: 222, to: 292, y: trunkY },
    card: { x: cardX, ...card },
    nodes,
    rails,
  };
}

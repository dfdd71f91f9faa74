import { PACK } from '@mile-thread/core/model';
import type { Layout } from './layout.ts';

/** [W] what flows at the needle. */
export interface Flows {
  /** [W] from the cells' inside, at their terminals, and behind protection and leads */
  pack: { inside: number; terminals: number; path: number };
  /** [W] into and out of each stage */
  stages: Map<string, { into: number; out: number }>;
  /** [W] into each load */
  loads: Map<string, number>;
}

/** A filled piece of ribbon. */
export interface Ribbon {
  /** where it comes from and where it goes, for keys */
  id: string;
  path: string;
}

/** A loss that frays off. */
export interface Fray {
  id: string;
  watts: number;
  x: number;
  y: number;
  strands: string[];
}

export interface Drawn {
  ribbons: Ribbon[];
  frays: Fray[];
  /** px half the width of the ribbon that leaves a knot; key as the rails */
  half: Map<string, number>;
}

/** [W] Losses below this are not drawn: numerical dust, or nothing anyone could feel. */
const LEAST_LOSS = 1e-9;

/** Thinnest ribbon that can still be seen. */
const THINNEST = 1.8;

/**
 * Pixels per watt, so that the trunk at the run's largest power is stout and no branch outgrows its row.
 * @param trunkWatts largest power the pack gives in the run
 * @param branchWatts largest power in any one row
 */
export function pixelsPerWatt(layout: Layout, trunkWatts: number, branchWatts: number): number {
  const trunk = trunkWatts > 0 ? 60 / trunkWatts : 1;
  const branch = branchWatts > 0 ? (0.5 * layout.pitch) / branchWatts : Infinity;
  return Math.min(trunk, branch);
}

/** Shape of every ribbon and fray for what flows. Pure geometry: numbers in, path strings out. */
export function drawRibbons(layout: Layout, flows: Flows, scale: number): Drawn {
  const width = (watts: number) => (watts > 0 ? Math.max(THINNEST, watts * scale) : 0);
  const ribbons: Ribbon[] = [];
  const frays: Fray[] = [];
  const half = new Map<string, number>();
  const { trunk, nodes, rails, radius, card } = layout;

  const { inside, terminals, path } = flows.pack;
  const [w0, w1, w2] = [width(inside), width(terminals), width(path)];
  if (w0 > 0) {
    ribbons.push({ id: 'cells', path: band(trunk.from, trunk.y, w0, trunk.from + 46, trunk.y, w1) });
    ribbons.push({ id: 'before', path: band(trunk.from + 46, trunk.y, w1, trunk.cut, trunk.y, w1) });
    ribbons.push({ id: 'after', path: band(trunk.cut, trunk.y, w1, trunk.cut + 24, trunk.y, w2) });
    ribbons.push({ id: 'trunk', path: band(trunk.cut + 24, trunk.y, w2, trunk.to, trunk.y, w2) });
    frays.push(fray('cells', inside - terminals, trunk.from + 12, trunk.y + w0 / 2, scale));
    frays.push(fray('protection', terminals - path, trunk.cut + 8, trunk.y + w1 / 2, scale));
  }
  half.set(PACK, w2 / 2);

  for (const [from, children] of rails) {
    const node = nodes.get(from);
    const startX = node ? node.x : trunk.to;
    const startY = node ? node.y : trunk.y;
    const out = node ? (flows.stages.get(from)?.out ?? 0) : path;
    half.set(from, width(out) / 2);
    const parts = children.map((id) => width(intoNode(flows, id)));
    let edge = startY - parts.reduce((a, b) => a + b, 0) / 2;
    // All branches of a rail part at the same place, just behind what leaves the knot together.
    const part = partingX(layout, from);
    if (node && out > 0)
      ribbons.push({ id: `${from}-out`, path: band(startX, startY, width(out), part, startY, width(out)) });
    children.forEach((id, k) => {
      const w = parts[k]!;
      if (w === 0) return;
      const to = nodes.get(id)!;
      const y0 = edge + w / 2;
      edge += w;
      const endX = to.kind === 'stage' ? to.x : card.x;
      const bend = Math.min(
        endX - (to.kind === 'stage' ? radius : 10),
        part + Math.max(70, Math.abs(to.y - y0) * 0.9),
      );
      ribbons.push({ id: `${from}-${id}`, path: band(part, y0, w, bend, to.y, w) });
      if (bend < endX)
        ribbons.push({ id: `${from}-${id}-straight`, path: band(bend, to.y, w, endX, to.y, w) });
    });
    if (node) {
      const flow = flows.stages.get(from);
      const lost = flow ? flow.into - flow.out : 0;
      const below = Math.max(width(out) / 2, radius * 0.72);
      if (lost > 0) frays.push(fray(from, lost, node.x + radius * 0.66, node.y + below, scale));
    }
  }
  return { ribbons, frays: frays.filter((f) => f.watts > LEAST_LOSS), half };
}

/** How far behind a knot its branches part: room for the rail's volts. */
const PARTING = { normal: 62, compact: 38, dense: 40 };

/** Where the branches of a rail part, and where more can be hung on it. */
export function partingX(layout: Layout, from: string): number {
  const node = layout.nodes.get(from);
  return node ? node.x + layout.radius + PARTING[layout.density] : layout.trunk.to;
}

function intoNode(flows: Flows, id: string): number {
  return flows.stages.get(id)?.into ?? flows.loads.get(id) ?? 0;
}

/** A band from one point to another with its own width at each, bent like an S. */
function band(x1: number, y1: number, w1: number, x2: number, y2: number, w2: number): string {
  const m = n((x1 + x2) / 2);
  const [a, b, c, d] = [n(y1 - w1 / 2), n(y2 - w2 / 2), n(y2 + w2 / 2), n(y1 + w1 / 2)];
  // A hair of overlap hides the seam between neighbouring bands.
  const [l, r] = [n(x1 - 0.6), n(x2 + 0.6)];
  return `M${l},${a}C${m},${a} ${m},${b} ${r},${b}L${r},${c}C${m},${c} ${m},${d} ${l},${d}Z`;
}

/** Loss peeling off downwards in strands; more watts, more and longer strands. */
function fray(id: string, watts: number, x: number, y: number, scale: number): Fray {
  const count = Math.max(1, Math.min(7, Math.round((watts * scale) / 1.5)));
  const length = Math.max(13, Math.min(30, 13 + watts * scale * 2));
  const strands = Array.from({ length: count }, (_, k) => {
    const start = n(x + k * 3);
    const drop = length - k * 1.5;
    return `M${start},${n(y - 1.5)}q1.5,${n(drop * 0.5)} ${n(4 + k * 1.4)},${n(drop)}`;
  });
  return { id, watts, x, y: y + length, strands };
}

/** Coordinates to a tenth of a pixel. */
function n(v: number): number {
  return Math.round(v * 10) / 10;
}

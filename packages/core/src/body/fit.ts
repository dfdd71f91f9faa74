/** Sides of a room, x, y, z. [m] */
export type Sides = readonly [number, number, number];

/** What takes room: a cylinder with its axis along one side, or a pouch. [m] */
export type Shape =
  | { kind: 'cylinder'; diameter: number; height: number }
  | { kind: 'pouch'; length: number; width: number; thickness: number };

/** Extra millimetres of holders, strips and wrap. [m] */
export interface Gaps {
  /** between neighbours side by side */
  gap: number;
  /** between layers end to end */
  axial: number;
}

export const PATTERNS = ['square', 'staggered'] as const;
export type Pattern = (typeof PATTERNS)[number];

/** One way to fill a room with cells of one kind, all the same way up. */
export interface Arrangement {
  pattern: Pattern;
  /** side the axis, or the thickness, lies along: 0, 1, 2 */
  axis: number;
  /** side the lines of a staggered arrangement run along */
  along: number;
  layers: number;
  /** lines in a layer, cells in the first and in every second line */
  lines: number;
  first: number;
  second: number;
  /** of a pouch: its sides along x, y, z [m] */
  sides?: Sides;
  count: number;
}

/** Relative room in divisions that come out whole: an exact fit counts. */
const EXACT = 1e-9;

/** How many of a size stand in a row with a gap between them. */
function inRow(length: number, size: number, gap: number): number {
  const many = (length + gap) / (size + gap);
  return Math.max(0, Math.floor(many * (1 + EXACT) + EXACT));
}

/** The other two sides. */
const others = (axis: number) => [0, 1, 2].filter((s) => s !== axis) as [number, number];

/**
 * Every arrangement of cylinders in a room: square rows, and staggered ones with their lines either way, each way up.
 * Lines of a staggered layer lie half a pitch times √3 apart, every second one moved by half a pitch. Geometry.
 */
function cylinders(room: Sides, diameter: number, height: number, { gap, axial }: Gaps): Arrangement[] {
  const pitch = diameter + gap;
  return [0, 1, 2].flatMap((axis) => {
    const layers = inRow(room[axis]!, height, axial);
    const [a, b] = others(axis);
    const square = (): Arrangement => {
      const first = inRow(room[a]!, diameter, gap);
      const lines = inRow(room[b]!, diameter, gap);
      const count = layers * lines * first;
      return { pattern: 'square', axis, along: a, layers, lines, first, second: first, count };
    };
    const staggered = (along: number, across: number): Arrangement => {
      const first = inRow(room[along]!, diameter, gap);
      const apart = (pitch * Math.sqrt(3)) / 2;
      const lines = room[across]! < diameter * (1 - EXACT) ? 0 : 1 + inStep(room[across]! - diameter, apart);
      const moved = (first - 1) * pitch + pitch / 2 + diameter <= room[along]! * (1 + EXACT);
      const second = first === 0 ? 0 : moved ? first : first - 1;
      const layer = Math.ceil(lines / 2) * first + Math.floor(lines / 2) * second;
      return { pattern: 'staggered', axis, along, layers, lines, first, second, count: layers * layer };
    };
    return [square(), staggered(a, b), staggered(b, a)];
  });
}

function inStep(length: number, step: number): number {
  return Math.max(0, Math.floor((length / step) * (1 + EXACT) + EXACT));
}

/** Every arrangement of pouches, lying, standing or on edge. */
function pouches(room: Sides, size: Sides, { gap, axial }: Gaps): Arrangement[] {
  const ways: [number, number, number][] = [
    [0, 1, 2],
    [0, 2, 1],
    [1, 0, 2],
    [1, 2, 0],
    [2, 0, 1],
    [2, 1, 0],
  ];
  return ways.map((way) => {
    const sides = way.map((w) => size[w]!) as unknown as Sides;
    const axis = way.indexOf(2);
    const [a, b] = others(axis);
    const layers = inRow(room[axis]!, sides[axis]!, gap);
    const first = inRow(room[a]!, sides[a]!, axial);
    const lines = inRow(room[b]!, sides[b]!, axial);
    const count = layers * lines * first;
    return { pattern: 'square', axis, along: a, layers, lines, first, second: first, sides, count };
  });
}

/** Every arrangement of cells in a room, all the same way up. */
export function arrangements(room: Sides, shape: Shape, gaps: Gaps): Arrangement[] {
  if (shape.kind === 'cylinder') return cylinders(room, shape.diameter, shape.height, gaps);
  return pouches(room, [shape.length, shape.width, shape.thickness], gaps);
}

/** The one that holds most; of equals square rows. */
export function bestArrangement(room: Sides, shape: Shape, gaps: Gaps): Arrangement {
  return arrangements(room, shape, gaps).reduce((best, a) => (a.count > best.count ? a : best));
}

/** A slice of a room that a board takes: from the far end of a side, all across. */
export interface Cut {
  /** place of the board in its list */
  board: number;
  /** 0, 1, 2, and [m] of it */
  side: number;
  depth: number;
  /** [m] the board as it lies */
  sides: Sides;
}

/** Cells and boards in one room. */
export interface Filled {
  arrangement: Arrangement;
  /** in the order they are cut off; boards that found no place are not among them */
  cuts: Cut[];
  /** [m] what is left for the cells */
  left: Sides;
}

/** Every way a box may lie. */
function ways([x, y, z]: Sides): Sides[] {
  return [
    [x, y, z],
    [x, z, y],
    [y, x, z],
    [y, z, x],
    [z, x, y],
    [z, y, x],
  ];
}

/**
 * The filling that holds most cells with every board beside them, each on a slice of its own cut off the room. What is left
 * beside a board on its slice is not used: cautious. Boards that fit nowhere are left out, and the room then counts as full.
 */
export function bestFilling(room: Sides, shape: Shape, gaps: Gaps, boards: readonly Sides[]): Filled {
  const [first, ...rest] = boards;
  if (!first) return { arrangement: bestArrangement(room, shape, gaps), cuts: [], left: room };
  const board = boards.length;
  let best: Filled | undefined;
  const lying = ways(first).filter((sides) => sides.every((s, k) => s <= room[k]! * (1 + EXACT)));
  for (const side of [0, 1, 2]) {
    // Across a side the thinnest slice leaves most.
    const sides = lying.reduce<Sides | undefined>((b, s) => (!b || s[side]! < b[side]! ? s : b), undefined);
    if (!sides) break;
    const depth = sides[side]!;
    const left = room.map((s, k) => (k === side ? Math.max(0, s - depth - gaps.gap) : s)) as unknown as Sides;
    const filled = bestFilling(left, shape, gaps, rest);
    const placed = { ...filled, cuts: [{ board, side, depth, sides }, ...filled.cuts] };
    if (!best || better(placed, best)) best = placed;
  }
  return best ?? { ...bestFilling(room, shape, gaps, rest), arrangement: NOTHING };
}

const better = (a: Filled, b: Filled) =>
  a.cuts.length > b.cuts.length ||
  (a.cuts.length === b.cuts.length && a.arrangement.count > b.arrangement.count);

const NOTHING: Arrangement = {
  ...{ pattern: 'square', axis: 2, along: 0, layers: 0, lines: 0, first: 0, second: 0, count: 0 },
};

/** Whether so many cells fit, and by how much. */
export interface Fit {
  fits: boolean;
  /** the arrangement that holds them, or the one that holds most */
  arrangement: Arrangement;
  /** boards beside them */
  cuts: Cut[];
  /** side that decides, 0, 1, 2, and [m] it could be shorter, or must be longer, alone */
  side: number;
  by: number;
}

/** [m] to which the spare or missing length is told. */
const TOLD = 1e-4;

/** Whether `count` cells fit a room, with boards beside them. */
export function fitOf(
  room: Sides,
  shape: Shape,
  gaps: Gaps,
  count: number,
  boards: readonly Sides[] = [],
): Fit {
  const holds = (side: number, length: number) => {
    const sides = room.map((s, k) => (k === side ? length : s)) as unknown as Sides;
    return bestFilling(sides, shape, gaps, boards).arrangement.count >= count;
  };
  const filled = bestFilling(room, shape, gaps, boards);
  const { arrangement } = filled;
  const cuts = filled.cuts.map((c) => ({ ...c, board: boards.length - c.board }));
  const fits = arrangement.count >= count;
  const change = [0, 1, 2].map((side) => {
    const own = room[side]!;
    if (fits) return own - least((length) => holds(side, length), 0, own);
    // So many in one row would do, if the other sides hold one at all.
    const most = own + count * largest(shape) * 2 + boards.reduce((sum, b) => sum + Math.max(...b), 0);
    return holds(side, most) ? least((length) => holds(side, length), own, most) - own : Infinity;
  });
  const side = change.reduce((best, v, k) => ((fits ? v > change[best]! : v < change[best]!) ? k : best), 0);
  return { fits, arrangement, cuts, side, by: change[side]! };
}

function largest(shape: Shape): number {
  return shape.kind === 'cylinder'
    ? Math.max(shape.diameter, shape.height)
    : Math.max(shape.length, shape.width, shape.thickness);
}

/** Least length from which it holds. @param low does not hold, or is not asked; @param high does */
function least(holds: (length: number) => boolean, low: number, high: number): number {
  while (high - low > TOLD / 2) {
    const middle = (low + high) / 2;
    if (holds(middle)) high = middle;
    else low = middle;
  }
  return high;
}

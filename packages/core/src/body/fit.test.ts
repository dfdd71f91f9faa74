import { describe, expect, it } from 'vitest';
import { arrangements, bestArrangement, bestFilling, fitOf, type Shape, type Sides } from './fit.ts';

const mm = (...sides: number[]) => sides.map((s) => s / 1000) as unknown as Sides;
const cell: Shape = { kind: 'cylinder', diameter: 0.018, height: 0.065 };
const none = { gap: 0, axial: 0 };

/** Cells standing in a floor, placed one after the other: whether each stays within it and off the others. */
function placed(length: number, width: number, lines: number, first: number, second: number, gap: number) {
  const pitch = 18 + gap;
  const centres = Array.from({ length: lines }, (_, l) =>
    Array.from({ length: l % 2 ? second : first }, (_, k) => [
      9 + k * pitch + (l % 2 ? pitch / 2 : 0),
      9 + (l * pitch * Math.sqrt(3)) / 2,
    ]),
  ).flat() as [number, number][];
  const within = centres.every(([x, y]) => x <= length - 9 + 1e-6 && y <= width - 9 + 1e-6);
  const apart = centres.every(([x, y], i) =>
    centres.every(([u, v], j) => j <= i || Math.hypot(x - u, y - v) >= pitch - 1e-6),
  );
  return within && apart;
}

describe('lines of cells that lie in each other’s gaps', () => {
  it('of an odd number have one line more of the full kind', () => {
    // 75 mm hold four in a line and three in those between; 18 + 2·15.59 = 49.2 mm hold three lines.
    const found = arrangements(mm(75, 50, 65), cell, none).find(
      (a) => a.pattern === 'staggered' && a.axis === 2 && a.along === 0,
    )!;
    expect([found.lines, found.first, found.second, found.count]).toEqual([3, 4, 3, 11]);
    const wide = arrangements(mm(81, 50, 65), cell, none).find(
      (a) => a.pattern === 'staggered' && a.axis === 2 && a.along === 0,
    )!;
    // Nine millimetres more, and every line holds four.
    expect([wide.first, wide.second, wide.count]).toEqual([4, 4, 12]);
  });

  it.each([
    [75, 50, 0],
    [81, 50, 0],
    [100, 80, 1.5],
    [64, 118, 0.5],
  ])(
    'in %f by %f mm with gaps of %f mm lie within the room and off each other, and one line more would not',
    (l, w, gap) => {
      for (const a of arrangements(mm(l, w, 65), cell, { gap: gap / 1000, axial: 0 })) {
        if (a.axis !== 2 || a.pattern !== 'staggered') continue;
        const [length, width] = a.along === 0 ? [l, w] : [w, l];
        expect(placed(length, width, a.lines, a.first, a.second, gap)).toBe(true);
        expect(placed(length, width, a.lines + 1, a.first, a.second, gap)).toBe(false);
        expect(placed(length, width, 1, a.first + 1, 0, gap)).toBe(false);
      }
    },
  );
});

describe('a room with gaps', () => {
  it('has one gap less than cells: four of 18 mm with 2 mm between take 78 mm', () => {
    const count = (length: number) =>
      bestArrangement(mm(length, 18, 65), cell, { gap: 0.002, axial: 0 }).count;
    expect([count(77.9), count(78), count(97.9), count(98)]).toEqual([3, 4, 4, 5]);
    // End to end by the axial gap: three layers of 65 mm with 3 mm between take 201 mm.
    const layers = (height: number) =>
      bestArrangement(mm(18, 18, height), cell, { gap: 0.002, axial: 0.003 }).count;
    expect([layers(200.9), layers(201)]).toEqual([2, 3]);
  });

  it('of pouches: thickness by the gap, length and width by the other', () => {
    const pouch: Shape = { kind: 'pouch', length: 0.06, width: 0.04, thickness: 0.008 };
    const gaps = { gap: 0.001, axial: 0.005 };
    // Three lying flat: 3·8 + 2·1 = 26 mm high. Two side by side along 60 mm: 125 mm.
    expect(bestArrangement(mm(60, 40, 26), pouch, gaps).count).toBe(3);
    expect(bestArrangement(mm(60, 40, 25.9), pouch, gaps).count).toBe(2);
    expect(bestArrangement(mm(125, 40, 8), pouch, gaps).count).toBe(2);
    expect(bestArrangement(mm(124, 40, 8), pouch, gaps).count).toBe(1);
  });
});

describe('whether so many fit', () => {
  it('says by how much one side is too short, or could be shorter', () => {
    const short = fitOf(mm(70, 18, 65), cell, none, 4);
    expect([short.fits, short.side]).toEqual([false, 0]);
    expect(short.by).toBeCloseTo(0.002, 3);
    const spare = fitOf(mm(75, 18, 65), cell, none, 4);
    expect(spare.fits).toBe(true);
    expect(spare.by).toBeCloseTo(0.003, 3);
  });

  it('a board takes a slice of the room and its gap; one that fits nowhere leaves room for none', () => {
    const board = mm(65, 18, 4);
    const filled = bestFilling(mm(80, 18, 65), cell, { gap: 0.001, axial: 0 }, [board]);
    // Of 80 mm a slice of 4 mm and 1 mm of gap: 75 mm, which hold three with gaps of 1 mm and nearly four.
    expect(filled.cuts).toHaveLength(1);
    expect(filled.cuts[0]!.depth).toBeCloseTo(0.004, 9);
    expect(filled.left[0]).toBeCloseTo(0.075, 9);
    expect(filled.arrangement.count).toBe(4);
    const none2 = bestFilling(mm(80, 18, 65), cell, none, [mm(100, 100, 10)]);
    expect([none2.cuts.length, none2.arrangement.count]).toEqual([0, 0]);
  });
});

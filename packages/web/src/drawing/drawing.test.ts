import { placeCells } from './cells.ts';
import { demoThreads } from '@mile-thread/core';
import { PACK, STAGE_KINDS, type Load, type ThreadDocument } from '@mile-thread/core/model';
import { simulate } from '@mile-thread/core/solve';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { layoutPath } from './layout.ts';
import { drawRibbons, pixelsPerWatt, type Flows } from './ribbon.ts';
import { largestFlows, sampleRun } from './sample.ts';

/** A thread of any shape: up to 8 stages and 12 loads, hung anywhere. */
const anyTree = fc
  .record({
    stages: fc.array(fc.nat(), { maxLength: 8 }),
    loads: fc.array(fc.nat(), { minLength: 1, maxLength: 12 }),
  })
  .map(({ stages, loads }): ThreadDocument => {
    const base = demoThreads()[0]!;
    const places = [PACK];
    const made = stages.map((at, k) => {
      const stage = STAGE_KINDS.buck.create(`s${k}`, places[at % places.length]!, 5);
      places.push(stage.id);
      return stage;
    });
    const hung = loads.map((at, k): Load => ({
      ...base.loads[0]!,
      id: `l${k}`,
      from: places[at % places.length]!,
    }));
    return { ...base, stages: made, loads: hung };
  });

describe('layout', () => {
  it('any tree up to 8 stages and 12 loads: nothing overlaps, nothing leaves the drawing', () => {
    fc.assert(
      fc.property(anyTree, (doc) => {
        const layout = layoutPath(doc, 964, 400);
        const half = layout.card.height / 2;
        const boxes = [...layout.nodes.values()].map((n) =>
          n.kind === 'load'
            ? { x0: n.x, x1: n.x + layout.card.width, y0: n.y - half, y1: n.y + half }
            : {
                x0: n.x - layout.radius,
                x1: n.x + layout.radius,
                // Names stand above the knots, but beside them where rows are dense.
                y0: n.y - layout.radius - (layout.density === 'dense' ? 0 : 20),
                y1: n.y + layout.radius,
              },
        );
        expect(boxes.length).toBe(doc.stages.length + doc.loads.length);
        boxes.forEach((a, i) => {
          expect(a.x0).toBeGreaterThan(layout.trunk.to);
          expect(a.x1).toBeLessThanOrEqual(layout.width);
          expect(a.y0).toBeGreaterThanOrEqual(0);
          expect(a.y1).toBeLessThanOrEqual(layout.height);
          for (const b of boxes.slice(i + 1)) {
            const apart = a.x1 <= b.x0 || b.x1 <= a.x0 || a.y1 <= b.y0 || b.y1 <= a.y0;
            expect(apart).toBe(true);
          }
        });
        for (const stage of doc.stages) {
          const parent = layout.nodes.get(stage.from);
          if (parent) expect(layout.nodes.get(stage.id)!.x).toBeGreaterThan(parent.x + 2 * layout.radius);
        }
      }),
      { numRuns: 300, seed: 11 },
    );
  });
});

describe('ribbons', () => {
  /** Height of a band where it starts, read off its path. */
  const startWidth = (path: string) => {
    const first = /^M[\d.-]+,([\d.-]+)/.exec(path)!;
    const last = /([\d.-]+),([\d.-]+)Z$/.exec(path)!;
    return Number(last[2]) - Number(first[1]);
  };

  it('are as wide as the power in them', () => {
    const doc = demoThreads()[0]!;
    const run = simulate(doc);
    const layout = layoutPath(doc, 964, 400);
    const largest = largestFlows(doc, run);
    const scale = pixelsPerWatt(layout, largest.trunk, largest.branch);
    const { flows } = sampleRun(doc, run, 2 * 3600);
    const drawn = drawRibbons(layout, flows, scale);
    const lamp = drawn.ribbons.find((r) => r.id === 'pack-lamp-rail')!;
    expect(startWidth(lamp.path)).toBeCloseTo(flows.stages.get('lamp-rail')!.into * scale, 0);
    const trunk = drawn.ribbons.find((r) => r.id === 'trunk')!;
    expect(startWidth(trunk.path)).toBeCloseTo(flows.pack.path * scale, 0);
    expect(largest.trunk * scale).toBeLessThanOrEqual(60.001);
    const lost = drawn.frays.reduce((sum, f) => sum + f.watts, 0);
    const used = [...flows.loads.values()].reduce((a, b) => a + b, 0);
    // Everything that leaves the cells arrives or frays off; half a per cent for reading between two rows.
    expect((used + lost) / flows.pack.inside).toBeCloseTo(1, 2);
  });

  it('nothing flowing draws nothing, and never NaN', () => {
    const doc = demoThreads()[0]!;
    const layout = layoutPath(doc, 964, 400);
    const none: Flows = { pack: { inside: 0, terminals: 0, path: 0 }, stages: new Map(), loads: new Map() };
    expect(drawRibbons(layout, none, pixelsPerWatt(layout, 0, 0)).ribbons).toEqual([]);
    const run = simulate(doc);
    for (const time of [0, 1e4, run.deadEnd.time, 1e9]) {
      const drawn = drawRibbons(layout, sampleRun(doc, run, time).flows, 6);
      expect(JSON.stringify(drawn)).not.toMatch(/NaN|null/);
    }
  });
});

it('draws every cell of a small pack, apart from each other, and the count of a large one', () => {
  for (const [series, parallel] of [
    [1, 1],
    [3, 1],
    [4, 2],
    [1, 8],
    [8, 1],
  ] as const) {
    const { cans, width, times } = placeCells(series, parallel, 28, 100);
    expect(cans).toHaveLength(series * parallel);
    expect(times).toBeUndefined();
    expect(width).toBeLessThan(150);
    for (const [k, a] of cans.entries()) {
      for (const b of cans.slice(k + 1)) {
        expect(a.x + a.width < b.x || a.y + a.height < b.y).toBe(true);
      }
    }
  }
  expect(placeCells(6, 2, 28, 100)).toMatchObject({ times: '× 12', cans: [{ x: 28 }] });
});

it('a loss frays off where it arises: at the knot it belongs to, on the ribbon’s lower edge', () => {
  const doc = demoThreads()[0]!;
  const run = simulate(doc);
  const layout = layoutPath(doc, 1200, 500);
  const { flows } = sampleRun(doc, run, run.usefulEnd.time / 2);
  const { frays } = drawRibbons(layout, flows, 4);
  for (const stage of doc.stages) {
    const node = layout.nodes.get(stage.id)!;
    const fray = frays.find((f) => f.id === stage.id)!;
    expect(Math.hypot(fray.x - node.x, fray.y - node.y)).toBeLessThan(3 * layout.radius);
    expect(fray.y).toBeGreaterThan(node.y);
    const { into, out } = flows.stages.get(stage.id)!;
    expect(fray.watts).toBeCloseTo(into - out, 9);
  }
  expect(frays.find((f) => f.id === 'cells')!.x).toBeLessThan(layout.trunk.cut);
  expect(frays.find((f) => f.id === 'protection')!.x).toBeGreaterThan(layout.trunk.cut);
});

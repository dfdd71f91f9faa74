import { describe, expect, it } from 'vitest';
import { cases, input, meets } from '../../test/cases.ts';
import { AIR_ASK, AIR_FREE, airClass, CELL_LIMIT, labelOf } from './carriage.ts';
import { arrangements, bestArrangement, fitOf, type Sides } from './fit.ts';

const WORDS = {
  free: 'no limit below 100 Wh',
  ask: 'ask the airline',
  refused: 'not in passenger baggage, above 160 Wh',
};
const all = cases('H10_packfit');

describe('cells in a room, against circles placed one by one elsewhere', () => {
  for (const c of all.filter(({ id }) => id.includes('FIT'))) {
    it(`${c.id}: ${c.description}`, () => {
      const box = (c.inputs.box as unknown as { value: number[] }).value;
      const room = box.map((s) => s / 1000) as unknown as Sides;
      const mm = (name: string) => input(c, name) / 1000;
      const shape = { kind: 'cylinder' as const, diameter: mm('cell_diameter'), height: mm('cell_height') };
      const gaps = { gap: mm('gap'), axial: mm('axial_gap') };
      const ways = arrangements(room, shape, gaps);
      const at = (axis: number, pattern: string) =>
        ways.filter((w) => w.axis === axis && w.pattern === pattern);
      const best = bestArrangement(room, shape, gaps).count;
      const series = input(c, 'series');
      const P = Math.floor(best / series);
      const { wh } = labelOf(series, P, input(c, 'cell_capacity'), input(c, 'cell_nominal'), 1, 1);
      const reach = [
        ...new Set(ways.filter((w) => w.count === best).map((w) => `${'xyz'[w.axis]} ${w.pattern}`)),
      ];
      const byAir = (limit: number) => Math.floor((limit / wh) * P * (1 + 1e-9));
      const volume = (Math.PI / 4) * shape.diameter ** 2 * shape.height * best;
      meets(
        c,
        {
          layers: [0, 1, 2].map((k) => at(k, 'square')[0]!.layers),
          square: [0, 1, 2].map((k) => at(k, 'square')[0]!.count),
          staggered: [0, 1, 2].map((k) => Math.max(...at(k, 'staggered').map((w) => w.count))),
          best,
          P,
          cells_used: P * series,
          mass: P * series * input(c, 'cell_mass') * (1 + input(c, 'overhead')),
          energy: wh,
          air: WORDS[airClass(wh)],
          largest_P_by_air_100_160: [byAir(AIR_FREE), byAir(AIR_ASK)],
          volume_used: volume / (room[0] * room[1] * room[2]),
        },
        ['staggered_per_layer_both', 'best_orientation'],
      );
      const perLayer = (c.expected.staggered_per_layer_both as unknown as { value: number[][] }).value;
      [0, 1, 2].forEach((k) =>
        at(k, 'staggered').forEach((w, n) => {
          const layer = Math.ceil(w.lines / 2) * w.first + Math.floor(w.lines / 2) * w.second;
          expect(layer, `${k} ${n}`).toBe(perLayer[k]![n]);
        }),
      );
      const named = (c.expected.best_orientation as unknown as { value: string[][] }).value;
      for (const [axis, pattern] of named) expect(reach).toContain(`${axis} ${pattern}`);
    });
  }
});

it('a box that just fits has nothing to spare; a millimetre less along any side that decides, and it is that short', () => {
  const shape = { kind: 'cylinder' as const, diameter: 0.0185, height: 0.0652 };
  const gaps = { gap: 0.0005, axial: 0.001 };
  const room: Sides = [4 * 0.0185 + 3 * 0.0005, 2 * 0.0185 + 0.0005, 0.0652];
  const exact = fitOf(room, shape, gaps, 8);
  expect(exact).toMatchObject({ fits: true });
  expect(exact.by).toBeLessThan(2e-4);
  for (const side of [0, 1, 2]) {
    const small = room.map((s, k) => (k === side ? s - 0.003 : s)) as unknown as Sides;
    const { fits, by } = fitOf(small, shape, gaps, 8);
    expect(fits).toBe(false);
    // That side 3 mm longer would do; another may do with less.
    expect(by).toBeLessThan(0.0031);
  }
  const low = fitOf([room[0], room[1], 0.0622], shape, gaps, 8);
  expect(low.side).toBe(2);
  expect(Math.abs(low.by - 0.003)).toBeLessThan(1e-4);
});

it('pouches lie, stand or lean: as many as their volumes allow in a room made for them', () => {
  const shape = { kind: 'pouch' as const, length: 0.06, width: 0.04, thickness: 0.006 };
  const gaps = { gap: 0.001, axial: 0.002 };
  // Five stacked with four gaps, whichever way the room lies.
  const sides = [0.06, 0.04, 5 * 0.006 + 4 * 0.001];
  for (const [a, b, c] of [
    [0, 1, 2],
    [2, 0, 1],
    [1, 2, 0],
  ] as const) {
    const room: Sides = [sides[a]!, sides[b]!, sides[c]!];
    expect(bestArrangement(room, shape, gaps).count).toBe(5);
    expect(fitOf(room, shape, gaps, 6)).toMatchObject({ fits: false });
  }
});

it('boards lie beside the cells on slices of their own: the thinnest that costs fewest cells; drawn where they are', () => {
  const shape = { kind: 'cylinder' as const, diameter: 0.02, height: 0.06 };
  const gaps = { gap: 0, axial: 0 };
  // Four in a row and 12 mm besides: a board of 10 mm lies across the end, one of 15 mm costs a cell.
  const room: Sides = [0.092, 0.02, 0.06];
  const thin = fitOf(room, shape, gaps, 4, [[0.01, 0.02, 0.06]]);
  expect(thin).toMatchObject({ fits: true });
  expect(thin.cuts).toEqual([{ board: 0, side: 0, depth: 0.01, sides: [0.01, 0.02, 0.06] }]);
  const thick = fitOf(room, shape, gaps, 4, [[0.015, 0.02, 0.06]]);
  expect(thick).toMatchObject({ fits: false, side: 0 });
  expect(Math.abs(thick.by - 0.003)).toBeLessThan(1e-4);
  expect(thick.arrangement.count).toBe(3);
  // Two of 6 mm: one after the other, whatever way they were measured.
  const two = fitOf(room, shape, gaps, 4, [
    [0.06, 0.006, 0.02],
    [0.02, 0.06, 0.006],
  ]);
  expect(two.fits).toBe(true);
  expect(two.cuts.map((c) => [c.board, c.side, c.depth])).toEqual([
    [0, 0, 0.006],
    [1, 0, 0.006],
  ]);
  // One that fits no way: the room is too small, by what it is too long.
  const long = fitOf(room, shape, gaps, 4, [[0.1, 0.01, 0.005]]);
  expect(long).toMatchObject({ fits: false });
});

describe('carriage and label, by arithmetic elsewhere', () => {
  for (const c of all.filter(({ id }) => id.includes('AIR'))) {
    it(`${c.id}: ${c.description}`, () => {
      const [S, P, ah, volts] = ['S', 'P', 'cell_capacity', 'cell_nominal'].map((n) => input(c, n)) as [
        ...number[],
      ] as [number, number, number, number];
      const { wh, ah: own, cellsAh, outputAh } = labelOf(S, P, ah, volts, input(c, 'efficiency_to_5V'), 5);
      meets(
        c,
        {
          energy: wh,
          cell_energy: ah * volts,
          cell_above_20Wh: ah * volts > CELL_LIMIT,
          battery_above_100Wh: wh > AIR_FREE,
          pack_mAh_at_pack_voltage: 1000 * own,
          cell_level_mAh: 1000 * cellsAh,
          deliverable_mAh_at_5V: 1000 * outputAh,
          class: WORDS[airClass(wh)],
        },
        // What a claim would mean is arithmetic on the claim alone.
        ['energy_of_the_claim', 'claim_at_5V', 'claim_plausible', 'spares_allowed'],
      );
    });
  }
});

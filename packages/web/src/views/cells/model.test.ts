import { CELL_LIBRARY } from '@mile-thread/core/model';
import { expect, it } from 'vitest';
import { halfOhms } from '@mile-thread/core';
import { listed, picture, PICTURE, wattHoursPerKilogram } from './model.ts';

const energy = CELL_LIBRARY['18650-energy']!;

it('cells are ordered by what is asked, own ones first, and found by name, chemistry or grade', () => {
  const own = [
    { id: '1', name: 'Zinc', record: { ...energy, name: 'Bench cell', grade: 'measured' as const }, at: 0 },
  ];
  const all = listed(own, '', 'capacity');
  expect(all[0]).toMatchObject({ id: 'own:1', own: '1' });
  const capacities = all.slice(1).map((e) => e.cell.capacityAh);
  expect(capacities).toEqual([...capacities].sort((a, b) => b - a));
  expect(listed(own, 'measured', 'rate').map((e) => e.id)).toEqual(['own:1']);
  expect(listed([], 'LTO', 'rate').every((e) => e.cell.chemistry === 'LTO')).toBe(true);
});

it('energy by mass and resistance half full, by hand', () => {
  const cell = {
    ...energy,
    capacityAh: 2,
    mass: 0.05,
    ocv: { soc: [0, 0.5, 1], volts: [3, 3.6, 4] },
    r0: { soc: [0, 1], ohms: [0.06, 0.04] },
    branches: [{ soc: [0, 1], ohms: [0.01, 0.03], farads: [1, 1] }],
  };
  // 0.5·(3 + 3.6)/2 + 0.5·(3.6 + 4)/2 = 3.55 V over 2 Ah in 50 g
  expect(wattHoursPerKilogram(cell)).toBeCloseTo(142, 9);
  expect(halfOhms(cell)).toBeCloseTo(0.07, 12);
  const { mass, ...light } = cell;
  void mass;
  expect(wattHoursPerKilogram(light)).toBeUndefined();
});

it('a picture goes from left to right and stays inside', () => {
  const curve = { taken: [0, 1, 2], volts: [4.2, 3.6, 0.9], rest: [], ah: 2, wh: 7, heat: 0, hours: 1 };
  const points = [...picture({ ...curve, ends: 'cutoff' }, 4).matchAll(/([\d.]+),([\d.]+)/g)].map((m) =>
    m.slice(1).map(Number),
  );
  expect(points.map(([x]) => x)).toEqual([0, PICTURE.width / 4, PICTURE.width / 2]);
  expect(points.at(-1)![1]).toBe(PICTURE.height);
  expect(points[0]![1]!).toBeLessThan(points[1]![1]!);
});

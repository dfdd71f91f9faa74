import { expect, it } from 'vitest';
import { CELL_LIBRARY } from '../../test/core.ts';
import { typicalTemperature, typicalWarmth } from './temperature.ts';

const cell = CELL_LIBRARY['18650-energy']!;
const pack = (series: number, parallel: number) => ({
  cell: { ...cell, mass: 0.05 },
  series,
  parallel,
  startSoc: 1,
  leads: [],
});

it('eight cells hold eight times the heat of one and shed it by four times its surface', () => {
  // 950 J/(kg·K) of 50 g; 12 K/W of one, by the volume to two thirds: common practice, no source.
  expect(typicalWarmth(pack(1, 1))).toMatchObject({ heatCapacity: 47.5, resistance: 12 });
  for (const [series, parallel] of [
    [8, 1],
    [4, 2],
    [2, 4],
  ] as const)
    expect(typicalWarmth(pack(series, parallel))).toMatchObject({ heatCapacity: 380, resistance: 3 });
  // Where a record does not say what a cell weighs it is the usual 45 g.
  const { mass, ...light } = { ...cell, mass: 1 };
  void mass;
  expect(typicalWarmth({ ...pack(1, 1), cell: light }).heatCapacity).toBeCloseTo(42.8, 6);
});

it('in a room every factor is 1, and colder nothing holds more nor resists less', () => {
  for (const chemistry of ['NMC', 'NCA', 'LCO', 'LFP', 'LTO', 'other'] as const) {
    const { capacity, activation } = typicalTemperature(chemistry);
    expect(capacity!.factors[capacity!.celsius.indexOf(25)]).toBe(1);
    capacity!.factors.forEach((f, k, all) => expect(k === 0 || f >= all[k - 1]!).toBe(true));
    expect(activation).toBeGreaterThan(10e3);
  }
  expect(typicalTemperature('LTO').minCharge).toBe(-20);
  expect(typicalTemperature('NMC').minCharge).toBe(0);
});

import { expect, it } from 'vitest';
import { plainCell } from '../../test/build.ts';
import { reach } from './reach.ts';

/** 2.8 V at its end, 4.2 V full, 5 Ah that may give 10 A: the ranges below are sums anyone can do. */
const cell = { ...plainCell(5, 2.79, 4.2, 0.02), endVolts: 2.8, dischargeRate: 2 };
const way = (series: number, volts: number, min: number, max: number, watts = 10) =>
  reach(cell, series, 1, { volts, min, max, watts }).way;

it('a rail is reached by what the whole range of the pack’s volts asks for', () => {
  // 24 V, 22–25 V: 4S is 11.2–16.8 V, 6S 16.8–25.2 V, 9S 25.2–37.8 V.
  expect([4, 6, 10].map((s) => way(s, 24, 22, 25))).toEqual(['boost', 'buckBoost', 'buck']);
  // 5S ends at 21.0 V full: below the 24 V, so a boost.
  expect(way(5, 24, 22, 25)).toBe('boost');
  // 3.3 V, 3.0–3.6 V: one cell lies on both sides; two never come below 5.6 V.
  expect([1, 2].map((s) => way(s, 3.3, 3, 3.6, 1))).toEqual(['buckBoost', 'buck']);
  // 8.4–12.6 V of three cells lie in 8–13 V: nothing is needed.
  expect(way(3, 9, 8, 13)).toBe('direct');
  // A rail that stands more than it is held at lets a full pack through: 12.6 V into 12 V, up to 13 V.
  expect(way(3, 12, 11, 13)).toBe('boost');
});

it('and not where a cell would have to give more than it may, or a boost would have to lift too far', () => {
  // 68 W through 88 % from 5.6 V are 13.8 A; the cell may give 10 A.
  const asked = reach(cell, 2, 1, { volts: 24, min: 22, max: 25, watts: 68 });
  expect(asked).toMatchObject({ way: 'not', why: 'amps', mostAmps: 10 });
  expect(asked.cellAmps).toBeCloseTo(13.8, 1);
  expect(reach(cell, 2, 2, { volts: 24, min: 22, max: 25, watts: 68 }).way).toBe('boost');
  // 24 V from 2.8 V: more than eightfold.
  expect(reach(cell, 1, 1, { volts: 24, min: 22, max: 25, watts: 1 })).toMatchObject({
    way: 'not',
    why: 'ratio',
  });
});

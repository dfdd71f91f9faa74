import { expect, it } from 'vitest';
import { load, plainCell, thread } from '../../../test/build.ts';
import { simulate } from '../rundown.ts';
import { Reading } from './reading.ts';

it('between two rows values stand straight, at and beyond the last as they are', () => {
  // 1 Ah at 0.5 A: the charge falls straight over two hours.
  const { series } = simulate(thread({ cell: plainCell(1, 3, 4, 0.1), loads: [load('current', 0.5)] }));
  const reading = new Reading(series);
  for (const time of [0, 10, 1234.5, 5000]) {
    expect(reading.between(time, 'soc')).toBeCloseTo(1 - time / 7200, 9);
  }
  const last = reading.count - 1;
  expect(reading.between(1e9, 'soc')).toBe(reading.at(last, 'soc'));
  expect(reading.timeOf(2)).toBeUndefined();
});

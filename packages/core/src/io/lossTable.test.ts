import { expect, it } from 'vitest';
import { readLossTable } from './lossTable.ts';

it('a reading that loses twice what its neighbours suggest stands out, by input current as by efficiency', () => {
  // 5 V out of 10 V: 0.1 A, 0.2 A, 0.3 A lose 0.1, 0.2 (or 0.6), 0.3 W.
  const rows = (middle: string) => [
    ['Vin (V)', 'Iout (A)', 'Iin (A)'],
    ['10', '0.1', '0.06'],
    ['10', '0.2', middle],
    ['10', '0.3', '0.18'],
  ];
  expect(readLossTable(rows('0.12'), 5).outliers).toEqual([]);
  const [odd] = readLossTable(rows('0.16'), 5).outliers;
  expect(odd).toMatchObject({ point: 1, reason: 'loses 0.6 W where its neighbours suggest 0.2 W' });
});

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

it('finds just the spoilt ones among two thousand readings, whatever their order', () => {
  // 5 V out; at four inputs the loss is 50 mW and 4 % of what is given.
  const rows = Array.from({ length: 2000 }, (_, k) => {
    const amps = 0.05 + 0.002 * Math.floor(k / 4);
    const loss = 0.05 + 0.04 * 5 * amps;
    return { volts: 7 + (k % 4), amps, into: 5 * amps + (k % 97 === 50 ? 2 : 1) * loss };
  });
  const mixed = rows.toSorted((a, b) => ((a.amps * 7919) % 1) - ((b.amps * 7919) % 1));
  const table = readLossTable(
    [['Vin', 'Iout', 'Iin (A)'], ...mixed.map((r) => [r.volts, r.amps, r.into / r.volts].map(String))],
    5,
  );
  const spoilt = mixed.flatMap((r, n) => (r.into - 5 * r.amps > 1.5 * (0.05 + 0.2 * r.amps) ? [n] : []));
  expect(spoilt).toHaveLength(21);
  expect(table.outliers.map((o) => o.point)).toEqual(spoilt);
});

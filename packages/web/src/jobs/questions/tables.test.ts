import { finish } from '@mile-thread/core/solve';
import { expect, it } from 'vitest';
import { cellsOf, table } from './tables.ts';

it('a table by pieces is the table at once: quotes, line ends within them, the last line with and without its end', () => {
  const line = (k: number) => `${k},"a ""quoted"", cell${k % 97 === 0 ? '\nover two lines' : ''}",${k * 2}`;
  const lines = Array.from({ length: 30_000 }, (_, k) => line(k));
  for (const end of ['', '\n']) {
    const rows = finish(cellsOf(lines.join('\n') + end, ','));
    const whole = end === '' ? rows : rows.slice(0, -1);
    expect(whole).toHaveLength(lines.length);
    for (const k of [0, 97, 9_700, 29_999]) {
      const over = k % 97 === 0 ? '\nover two lines' : '';
      expect(whole[k]).toEqual([String(k), `a "quoted", cell${over}`, String(2 * k)]);
    }
  }
});

it('gives way between pieces', () => {
  const work = cellsOf('1,2\n'.repeat(400_000), ',');
  let turns = 0;
  while (!work.next().done) turns++;
  expect(turns).toBeGreaterThan(4);
});

it('says what is too much: lines, and a line that is none', () => {
  const limits = { of: 'cells', lines: 100 };
  expect(finish(table('a,b\n1,2\n\n , \n3,4', limits))).toEqual([
    ['a', 'b'],
    ['1', '2'],
    ['3', '4'],
  ]);
  expect(() => finish(table('1,2\n'.repeat(300_000), limits))).toThrow('more than 100 lines; so many cells');
  expect(() => finish(cellsOf(`a,b\n${'1'.repeat(3_000_000)}`, ','))).toThrow('longer than');
  expect(() => finish(cellsOf(`"${'1,2\n'.repeat(400_000)}`, ','))).toThrow('longer than');
});

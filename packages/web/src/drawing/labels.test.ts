import { expect, it } from 'vitest';
import { labelSheet } from './labels.ts';

it('labels of cells stand on a sheet, four across, with words that cannot be markup', () => {
  const svg = labelSheet([['1', '3.1 Ah', '30 mΩ'], ['<b>&', 'x'], ['3'], ['4'], ['5']]);
  expect(svg).toContain('width="192mm" height="34mm"');
  expect(svg).toContain('translate(0 17)');
  expect(svg).not.toContain('<b>');
  expect(svg).toContain('&#60;b&#62;&#38;');
});

import { expect, it } from 'vitest';
import { bothTexts } from './bothTexts.ts';

it('keeps what was typed, and what another tab wrote meanwhile', () => {
  expect(bothTexts({ text: 'ab', from: 'a' }, 'a')).toBe('ab');
  expect(bothTexts({ text: 'ab', from: 'a' }, 'ab')).toBe('ab');
  expect(bothTexts({ text: 'a', from: 'a' }, 'other')).toBe('other');
  expect(bothTexts({ text: 'ab', from: 'a' }, 'other')).toBe('other\n\nab');
});

import { expect, it } from 'vitest';
import { fewSentences, fileName } from './files.ts';

it('many faults are told as five and a count', () => {
  const issue = { code: 'range', path: 'a', given: '1', allowed: '2' };
  const told = fewSentences(Array.from({ length: 9 }, () => issue));
  expect(told).toHaveLength(6);
  expect(told[5]).toBe('And 4 more.');
});

it('file names are plain', () => {
  expect(fileName('Tide-pool microscope')).toBe('tide-pool-microscope.thread.json');
  expect(fileName('Ångström / №5')).toBe('angstrom-no5.thread.json');
  expect(fileName('☂')).toBe('thread.thread.json');
});

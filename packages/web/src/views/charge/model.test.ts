import { demoThreads } from '@mile-thread/core';
import { charge, Reading, endsFull } from '@mile-thread/core/charging';
import { expect, it } from 'vitest';
import { bandsOf, instantAt, plotEnd } from './model.ts';

const doc = demoThreads().find((d) => d.name === 'Lake water sampler')!;
const charged = charge(doc);
const rows = new Reading(charged.series);

it('what flows under the needle: no more out than in, and what is lost adds up', () => {
  for (const share of [0.02, 0.3, 0.6, 0.97]) {
    const now = instantAt(doc, rows, share * charged.end.time);
    const { source, input, output, cells, kept } = now.watts;
    expect(source).toBeGreaterThanOrEqual(input * (1 - 1e-9));
    expect(input).toBeGreaterThan(output);
    expect(output - now.load).toBeGreaterThanOrEqual(cells * (1 - 1e-3));
    expect(cells).toBeGreaterThan(kept);
    // Waiting, the logger and the idle stages take some tenths of a watt from the battery.
    expect(now.load).toBeGreaterThan(0.05);
    expect(now.load).toBeLessThan(1);
  }
  const [a, b] = [0.2, 0.4].map((s) => instantAt(doc, rows, s * charged.end.time));
  expect(b!.soc).toBeGreaterThan(a!.soc);
});

it('bands follow each other over the whole plot, the last says that it has ended', () => {
  const end = plotEnd(charged);
  const bands = bandsOf(charged, end);
  expect(bands[0]!.from).toBe(0);
  for (let k = 1; k < bands.length; k++) expect(bands[k]!.from).toBeCloseTo(bands[k - 1]!.to, 6);
  expect(bands.at(-1)).toMatchObject({ word: '✓ ended', to: end });
  expect(endsFull(charged.end.reason)).toBe(true);
  expect(bands.map((b) => b.word)).toContain('constant current');
});

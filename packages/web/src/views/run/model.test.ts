import { demoThreads } from '@mile-thread/core';
import { simulate, type RunResult } from '@mile-thread/core/solve';
import { describe, expect, it } from 'vitest';
import { lanesOf, stageBands } from './lanesModel.ts';
import { accountsOf, lostIn } from './model.ts';
import { intoRail, unrolled } from './unrolled.ts';

it('what went to loads, what was lost and what is left are what was stored, each once', () => {
  for (const doc of demoThreads()) {
    const run = simulate(doc);
    const accounts = accountsOf(doc, run.ledger);
    const of = (kind: string) =>
      accounts.filter((a) => a.kind === kind).reduce((sum, a) => sum + a.joules, 0);
    expect((of('load') + of('lost') + of('left')) / run.ledger.stored).toBeCloseTo(1, 3);
    expect(of('lost') / lostIn(run, doc)).toBeCloseTo(1, 3);
    expect(new Set(accounts.map((a) => a.element)).size).toBe(accounts.length);
    for (const a of accounts) expect(a.parts.reduce((sum, p) => sum + p.joules, 0)).toBeCloseTo(a.joules, 6);
  }
});

it('the thread unrolled carries what the account says: rail by rail what enters is what goes on and what is lost', () => {
  for (const doc of demoThreads()) {
    const { ledger } = simulate(doc);
    const all = unrolled(doc, ledger);
    const near = (a: number, b: number) => expect(Math.abs(a - b)).toBeLessThan(1e-6 * ledger.stored);
    near(intoRail(doc, all), all.flows.pack.path);
    for (const { id } of doc.stages) near(intoRail(doc, all, id), all.flows.stages.get(id)!.out);
    near(
      all.astray.reduce((sum, a) => sum + a.joules, 0),
      lostIn({ ledger } as RunResult, doc),
    );
    for (const a of all.astray)
      expect(a.parts.reduce((sum, p) => sum + p.joules, 0)).toBeCloseTo(a.joules, 6);
  }
});

describe('the lanes', () => {
  const sampler = demoThreads().at(-1)!;
  const run = simulate(sampler);

  it('of many cycles: the band holds the mean, the loads stacked are what they had, on both axes', () => {
    for (const along of ['time', 'charge'] as const) {
      const { lanes, banded, x, end } = lanesOf(sampler, run, along);
      expect(banded).toBe(true);
      const [low, high, mean] = lanes[0]!.lines.map((l) => l.y) as [number[], number[], number[]];
      expect(mean.every((v, k) => low[k]! <= v && v <= high[k]!)).toBe(true);
      expect(x.every((v, k) => k === 0 || v >= x[k - 1]!)).toBe(true);
      expect(x.at(-1)!).toBeLessThanOrEqual(end * (1 + 1e-9));
      const power = lanes.at(-1)!.lines;
      const watts = power.slice(0, 2).reduce((sum, l) => sum + l.y[1]!, 0);
      // The second of 168 cycles: what all modes had of the loads, by their time.
      const { modes, cycles } = run.worked!;
      const delivered = modes.reduce((sum, m) => sum + m.delivered, 0) / cycles / 2160;
      expect(watts / delivered).toBeCloseTo(1, 1);
      expect(power[2]!.y[1]!).toBeGreaterThan(watts);
    }
  });

  it('of a steady run: every row; stages in words for as long as they work so', () => {
    const [doc] = demoThreads();
    const steady = simulate(doc!);
    const { lanes, banded } = lanesOf(doc!, steady, 'time');
    expect(banded).toBe(false);
    expect(lanes).toHaveLength(3);
    const bands = stageBands(doc!, steady, false);
    expect(bands[1]!.bands[0]!.words).toBe('↓ buck');
    expect(bands[1]!.bands.at(-1)).toMatchObject({ to: 1, trouble: true });
    const pump = stageBands(sampler, run, true)[0]!.bands[0]!;
    expect(pump).toMatchObject({ from: 0, words: '↑ boost' });
  });
});

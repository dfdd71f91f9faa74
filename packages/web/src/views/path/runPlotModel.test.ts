import { demoThreads } from '@mile-thread/core';
import type { ThreadDocument } from '@mile-thread/core/model';
import { simulate } from '@mile-thread/core/solve';
import { describe, expect, it } from 'vitest';
import { plotEnd } from '../../charts/timeAxis.ts';
import { mostEventful, runPlotModel } from './runPlotModel.ts';
import { sampleRun } from '../../drawing/sample.ts';
import { elementName, endWords } from '../../kit/words.ts';

const [doc] = demoThreads() as [ThreadDocument];
const sampler = demoThreads().at(-1)!;
const run = simulate(doc);

describe('what the run-down plot shows', () => {
  it('bands of the stage in focus, side by side up to the useful end, then stopped', () => {
    const { bands, end } = runPlotModel(doc, run, 'camera-rail');
    expect(bands.map((b) => b.words[0])).toEqual([
      'Camera rail steps down',
      'Camera rail is in dropout ▾',
      'stopped',
    ]);
    bands.slice(1).forEach((b, k) => expect(b.from).toBeCloseTo(bands[k]!.to, 6));
    expect(bands[0]!.from).toBe(0);
    expect(bands.at(-1)!.to).toBeCloseTo(end, 9);
    expect(bands[1]!.to).toBeCloseTo(run.usefulEnd.time / 3600, 6);
  });

  it('ends a little behind the useful run, and never with the long tail of a dying pack', () => {
    const ends = (useful: number, dead: number) =>
      plotEnd({ ...run, usefulEnd: { time: useful }, deadEnd: { ...run.deadEnd, time: dead } });
    expect(ends(100, 100)).toBeCloseTo(103, 9);
    expect(ends(100, 108)).toBeCloseTo(108, 9);
    expect(ends(100, 1e6)).toBeCloseTo(112, 9);
    expect(ends(0, 50)).toBe(50);
    expect(ends(0, 0)).toBe(1);
  });

  it('without a focus the stage that changes most', () => {
    expect(mostEventful(doc, run)).toBe('lamp-rail');
    expect(runPlotModel(doc, run, undefined).bands[0]!.words[0]).toContain('Lamp rail');
  });

  it('the axis holds the useful run and every volt in it, but not a long tail', () => {
    for (const d of [doc, sampler]) {
      const r = simulate(d);
      const { range, loaded, rest, hours, end } = runPlotModel(d, r, undefined);
      expect(plotEnd(r)).toBeGreaterThanOrEqual(r.usefulEnd.time);
      expect(plotEnd(r)).toBeLessThanOrEqual(1.13 * r.usefulEnd.time);
      hours.forEach((h, k) => {
        if (h > end) return;
        expect(loaded[k]).toBeGreaterThanOrEqual(range[0]);
        expect(rest[k]).toBeLessThanOrEqual(range[1]);
      });
    }
  });
});

describe('the instant under the needle', () => {
  it('power is conserved node by node at every time', () => {
    for (let t = 0; t <= run.usefulEnd.time; t += run.usefulEnd.time / 37) {
      const { flows, stages, loads } = sampleRun(doc, run, t);
      const fed = (from: string) =>
        doc.stages.filter((s) => s.from === from).reduce((sum, s) => sum + flows.stages.get(s.id)!.into, 0) +
        doc.loads.filter((l) => l.from === from).reduce((sum, l) => sum + flows.loads.get(l.id)!, 0);
      expect(fed('pack') / flows.pack.path).toBeCloseTo(1, 3);
      for (const s of doc.stages) expect(fed(s.id) / flows.stages.get(s.id)!.out).toBeCloseTo(1, 3);
      expect(stages.get('lamp-rail')!.outputVolts).toBeCloseTo(9, 6);
      expect(loads.get('ring-lamp')!.state).toBe('in');
    }
  });

  it('is held within the run, and modes do not blend', () => {
    expect(sampleRun(doc, run, -5).time).toBe(0);
    expect(sampleRun(doc, run, 1e12).time).toBe(run.deadEnd.time);
    const change = run.stageModes['lamp-rail']![1]!;
    expect(sampleRun(doc, run, change.from - 1).stages.get('lamp-rail')!.mode).toBe('buck');
    expect(sampleRun(doc, run, change.from + 1).stages.get('lamp-rail')!.mode).toBe('both');
  });
});

it('what ends the run is said in a few words', () => {
  expect(endWords(doc, run)).toBe('Camera stops first');
  expect(endWords(sampler, simulate(sampler))).toBe('protection opens on low volts');
  expect([elementName(doc, 'cells'), elementName(doc, 'logic-rail')]).toEqual(['Cells', 'Logic rail']);
});

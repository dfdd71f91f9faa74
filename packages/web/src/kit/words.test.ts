import { demoThreads } from '@mile-thread/core';
import { Load, type Issue } from '@mile-thread/core/model';
import { simulate } from '@mile-thread/core/solve';
import { expect, it } from 'vitest';
import { between } from './between.ts';
import { elementName, endWords, inPercent, kindLabel, likely, millimetres } from './words.ts';

const microscope = demoThreads().find((d) => d.name.includes('microscope'))!;

it('names a stage, a load, a part of the pack, a drain, and what it does not know by its id', () => {
  const stage = microscope.stages[0]!;
  expect(elementName(microscope, stage.id)).toBe(stage.name);
  expect(elementName(microscope, microscope.loads[1]!.id)).toBe(microscope.loads[1]!.name);
  expect(elementName(microscope, 'protection')).toBe('Protection');
  expect(elementName(microscope, 'charge:diode')).toBe('Diode');
  expect(elementName(microscope, 'nowhere')).toBe('nowhere');
  const drained = {
    ...microscope,
    pack: {
      ...microscope.pack,
      drains: [{ name: 'Level lights', current: 0.002, grade: 'assumed' as const }],
    },
  };
  expect(elementName(drained as typeof microscope, 'drain:0')).toMatch(/Level lights|drain:0/);
  expect(kindLabel(microscope, microscope.loads[0]!.id)).toBe('Load');
  expect(kindLabel(microscope, stage.id)).not.toBe('Load');
});

it('says what ends a run: a load by its name, by which side, or the pack', () => {
  const run = simulate(microscope);
  const by = (side: 'low' | 'high') =>
    endWords(microscope, {
      ...run,
      usefulEnd: { ...run.usefulEnd, load: { id: microscope.loads[0]!.id, side, volts: 4 } },
    });
  expect(by('low')).toBe(`${microscope.loads[0]!.name} stops first`);
  expect(by('high')).toBe(`${microscope.loads[0]!.name} gets too much`);
  const { load, ...end } = run.usefulEnd;
  void load;
  const pack = endWords(microscope, { ...run, usefulEnd: end, deadEnd: { ...run.deadEnd, reason: 'trip' } });
  expect(pack).toMatch(/trip|current/i);
});

it('tells ranges, lengths and shares with their units', () => {
  expect(likely({ p10: 3.5, p90: 4 })).toMatch(/^likely 3\sh 30\smin to 4\sh/);
  expect(millimetres(0.065)).toBe('65\u00a0mm');
  expect(millimetres(0.0042)).toBe('4.2\u00a0mm');
  const issue: Issue = { code: 'range', path: '', given: '3', allowed: '0 to 1' };
  expect(inPercent([issue], Load, 'nothing')[0]!.allowed).toBe('0 % to Infinity %');
});

it('takes what lies between, ends included, and says in units what may be where it does not', () => {
  const taken: number[] = [];
  const check = between(0.001, 2, 'A', (v) => taken.push(v));
  expect([check(0.001), check(2), check(1)]).toEqual([[], [], []]);
  expect(taken).toEqual([0.001, 2, 1]);
  for (const bad of [0, 2.1, NaN, undefined, -Infinity]) {
    const [issue] = check(bad);
    expect(issue!.allowed).toMatch(/from 1\.?0*\smA to 2\.?0*\sA/);
  }
  expect(taken).toHaveLength(3);
});

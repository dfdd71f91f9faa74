import { demoThreads } from '@mile-thread/core';
import { planOf } from '@mile-thread/core/bench';
import { expect, it } from 'vitest';
import { placesOf } from './hands.ts';
import { canRead, placeOf } from './readStep.ts';
import { packLimits } from './connections.ts';

const door = demoThreads().find((d) => d.name === 'Library door lock')!;
const microscope = demoThreads().find((d) => d.name.includes('microscope'))!;

it('leads go to the pack, one group of several, every rail, and source and charger where there are any', () => {
  const places = (d: typeof door) => placesOf(d).map((p) => p.place);
  expect(places(microscope)).toEqual(
    expect.arrayContaining(['pack', 'cell', ...microscope.stages.map((s) => `rail:${s.id}`)]),
  );
  const { charging, ...bare } = door;
  void charging;
  expect(places(door)).toEqual([...places(bare), 'source', 'charger']);
  const one = { ...microscope, pack: { ...microscope.pack, series: 1 } };
  expect(places(one)).not.toContain('cell');
});

it('each step of a plan is read where its red lead lies, and only what needs no watching by itself', () => {
  for (const doc of [door, microscope]) {
    const known = new Set(placesOf(doc).map((p) => p.place));
    for (const step of planOf(doc)) {
      const place = placeOf(step);
      if (place !== undefined) expect(known, step.id).toContain(place);
      if (step.id.startsWith('set:')) expect(place).toBe(`rail:${step.id.slice(4)}`);
      if (['eyes', 'clock'].includes(step.instrument)) expect(canRead(step), step.id).toBe(false);
      if (/^(dip|cutoff|trip|steps)/.test(step.id)) expect(canRead(step), step.id).toBe(false);
    }
    expect(planOf(doc).filter(canRead).length).toBeGreaterThan(2);
  }
});

it('nothing of a thread is given more than its pack full and a twentieth, nor more than cells and board bear', () => {
  const { pack } = microscope;
  const { volts, amps } = packLimits(microscope);
  expect(volts).toBeCloseTo(1.05 * pack.series * pack.cell.fullVolts, 1);
  const rated = pack.cell.dischargeRate * pack.cell.capacityAh * pack.parallel;
  expect(amps).toBeCloseTo(Math.min(rated, pack.protection!.tripCurrent), 2);
  const open = { ...microscope, pack: { ...pack, protection: undefined, parallel: 3 } };
  expect(packLimits(open as typeof microscope).amps).toBeCloseTo(
    3 * pack.cell.dischargeRate * pack.cell.capacityAh,
    2,
  );
});

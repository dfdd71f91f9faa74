import { expect, it } from 'vitest';
import { load, plainCell, thread } from '../../../test/build.ts';
import { compile } from '../../plant/compile.ts';
import { cellFactors } from '../../plant/warmth.ts';
import { C1, C2 } from './gauss.ts';
import { StepWarmth } from './stepWarmth.ts';

it('is exact for a drive that is a parabola over the step, however long that is', () => {
  for (const tau of [5, 60, 700]) {
    const h = 60;
    const [a, b, c] = [12, 0.4, -0.003];
    const drive = (t: number) => a + b * t + c * t * t;
    // τ·θ' = g − θ: what drives it less its lag, and a part that dies away. Elementary.
    const steady = (t: number) => drive(t) - tau * (b + 2 * c * t) + 2 * c * tau * tau;
    const from = 3;
    const exact = (t: number) => steady(t) + (from - steady(0)) * Math.exp(-t / tau);
    const plant = compile(thread({ cell: plainCell(1, 3, 4, 0), loads: [load('current', 1)] }));
    const warmth = new StepWarmth(plant, {
      ...{ air: 0, start: 0, tau, own: 1, around: 0 },
      daily: undefined,
      factors: cellFactors(plainCell(1, 3, 4, 0.1)),
    });
    warmth.begin(h, from, drive(0));
    warmth.solve(drive(C1 * h), drive(C2 * h));
    expect(warmth.first).toBeCloseTo(exact(C1 * h), 9);
    expect(warmth.second).toBeCloseTo(exact(C2 * h), 9);
    expect(warmth.end()).toBeCloseTo(exact(h), 9);
  }
});

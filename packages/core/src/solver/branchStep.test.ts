import fc from 'fast-check';
import { expect, it } from 'vitest';
import { branchEnd, branchHeat, branchStored, prepareBranch, type BranchStep } from './branchStep.ts';

const value = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const made = (ohms: number, farads: number, v0: number, h: number): BranchStep => {
  const step = { ohms: 0, farads: 0, v0: 0, decay: 0, mean: 0 };
  prepareBranch(step, ohms, farads, v0, h);
  return step;
};

it('a branch step agrees with a fine explicit integration', () => {
  const [r, c, v0, i, h] = [0.05, 800, 0.03, 2, 70];
  const step = made(r, c, v0, h);
  let v = v0;
  let heat = 0;
  const n = 200_000;
  for (let k = 0; k < n; k++) {
    const middle = v + ((i - v / r) / c) * (h / n / 2);
    heat += ((middle * middle) / r) * (h / n);
    v += ((i - middle / r) / c) * (h / n);
  }
  expect(branchEnd(step, i)).toBeCloseTo(v, 9);
  expect(branchHeat(step, i, h)).toBeCloseTo(heat, 7);
});

it('what goes into a branch is heat and store, to rounding, from microseconds to years', () => {
  fc.assert(
    fc.property(
      value(1e-4, 10),
      value(1e-3, 1e5),
      value(-1, 1),
      value(-20, 20),
      value(-6, 8),
      (ohms, farads, v0, amps, decade) => {
        const h = 10 ** decade;
        const step = made(ohms, farads, v0, h);
        const mean = amps * ohms + (v0 - amps * ohms) * step.mean;
        const into = amps * mean * h;
        const out = branchHeat(step, amps, h) + branchStored(step, amps);
        const size = Math.abs(into) + Math.abs(out) + farads * (v0 * v0 + amps * amps * ohms * ohms);
        expect(Math.abs(into - out)).toBeLessThanOrEqual(1e-10 * size + 1e-200); // below that, squares underflow
        expect(branchHeat(step, amps, h)).toBeGreaterThanOrEqual(-1e-12 * size - 1e-200);
      },
    ),
    { numRuns: 500, seed: 31 },
  );
});

it('a branch without resistance holds nothing and heats nothing', () => {
  const step = made(0, 100, 0, 5);
  expect([branchEnd(step, 3), branchHeat(step, 3, 5), branchStored(step, 3)]).toEqual([0, 0, 0]);
});

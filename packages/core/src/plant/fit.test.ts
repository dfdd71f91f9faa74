import { describe, expect, it } from 'vitest';
import { ALL, FEW, fitOver, NODES, slope, value } from './fit.ts';

describe('polynomials that stand for power between bends', () => {
  const f = (t: number) => 3 - t + 0.5 * t ** 2 - 2 * t ** 3 + t ** 4 - 0.3 * t ** 5 + 0.7 * t ** 6;
  const df = (t: number) => -1 + t - 6 * t ** 2 + 4 * t ** 3 - 1.5 * t ** 4 + 4.2 * t ** 5;

  it('of sixth degree are exact for one, with their slope, from any column of a table', () => {
    const c = new Float64Array(9);
    const rows = Float64Array.from(NODES.flatMap((t) => [99, f(t)]));
    ALL.fit(rows, 2, 1, c, 2);
    for (const t of [-1, -0.4, 0, 0.77, 1]) {
      expect(value(c, 2, t)).toBeCloseTo(f(t), 12);
      expect(slope(c, 2, t)).toBeCloseTo(df(t), 11);
    }
  });

  it('weigh their values: at a place, and over the whole as an integral', () => {
    const at = ALL.weightsAt(0.3);
    expect(NODES.reduce((s, t, k) => s + at[k]! * f(t), 0)).toBeCloseTo(f(0.3), 12);
    // ∫ t^p over −1…1 is 2/(p + 1) for even p.
    const moments = Float64Array.from({ length: 7 }, (_, p) => (p % 2 === 0 ? 2 / (p + 1) : 0));
    const over = ALL.weights(moments);
    const wanted = 2 * (3 + 0.5 / 3 + 1 / 5 + 0.7 / 7);
    expect(NODES.reduce((s, t, k) => s + over[k]! * f(t), 0)).toBeCloseTo(wanted, 12);
    // Of a parabola three are enough.
    const few = FEW.weightsAt(-0.6);
    expect([-1, 0, 1].reduce((s, t, k) => s + few[k]! * (1 + t + t * t), 0)).toBeCloseTo(1 - 0.6 + 0.36, 12);
  });

  it('are found for what is smooth and refused for what has a bend', () => {
    const looked: number[] = [];
    const parabola = fitOver((t) => (looked.push(t), 5 + t - t * t), 1e-10)!;
    expect(parabola(0.123)).toBeCloseTo(5 + 0.123 - 0.123 ** 2, 12);
    expect(looked.length).toBeLessThanOrEqual(6);
    const smooth = fitOver((t) => Math.exp(0.2 * t), 1e-7)!;
    expect(smooth(0.41)).toBeCloseTo(Math.exp(0.2 * 0.41), 7);
    expect(fitOver((t) => 5 + Math.abs(t - 0.1), 1e-7)).toBeUndefined();
  });
});

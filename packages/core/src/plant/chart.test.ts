import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyThread } from '../../test/arbitrary.ts';
import { compile, demoThreads } from '../../test/core.ts';
import { exactPlant } from '../../test/exactPath.ts';
import { ALL, FEW, fitOver, NODES, POINTS, value } from './fit.ts';
import { DELIVERED, loadAt, LOAD_COLUMN, lossAt } from './layout.ts';

/** Shares of the full pack's volts, downwards as a run asks, and back up, as searches do. */
const SHARES = [1, 0.99, 0.93, 0.9, 0.86, 0.81, 0.77, 0.7, 0.66, 0.6, 0.52, 0.44, 0.83, 0.97];

describe('a chart', () => {
  it('says what the network says, in power, slope, what reaches the loads, every column and state', () => {
    let asked = 0;
    fc.assert(
      fc.property(anyThread, (doc) => {
        const { path } = compile(doc);
        const exact = exactPlant(doc).path;
        // Hopeless chains are not worth their searches.
        path.network.effort.allowed = exact.network.effort.allowed = 20_000;
        const full = doc.pack.series * doc.pack.cell.fullVolts;
        for (const share of SHARES) {
          const volts = share * full;
          path.evaluate(volts);
          exact.evaluate(volts);
          if (path.network.effort.spent || exact.network.effort.spent) return;
          const { amps, slope, piece } = path;
          const near = 1e-8 * Math.abs(exact.amps) + 1e-13;
          expect(Math.abs(amps - exact.amps)).toBeLessThanOrEqual(near);
          expect(path.delivered(volts)).toBeCloseTo(exact.delivered(volts), 7);
          if (!piece || piece.hi - piece.lo < 1e-4 * volts) continue;
          asked++;
          // A central difference, no wider than the piece allows.
          const h = Math.min(1e-3 * volts, 0.4 * (piece.hi - piece.lo));
          const at = Math.min(Math.max(volts, piece.lo + h), piece.hi - h);
          path.evaluate(at);
          const difference =
            (piece.leading(0, at + h) / (at + h) - piece.leading(0, at - h) / (at - h)) / (2 * h);
          expect(Math.abs(path.slope - difference)).toBeLessThan(
            1e-3 * (Math.abs(amps / volts) + Math.abs(slope)) + 1e-9,
          );
          path.read(volts);
          exact.read(volts);
          expect([...path.signature.subarray(0, 2 * doc.stages.length)]).toEqual([
            ...exact.signature.subarray(0, 2 * doc.stages.length),
          ]);
          const power = Math.abs(volts * exact.amps);
          const loads = doc.loads.reduce(
            (sum, _, l) => sum + path.columns[loadAt(doc.stages.length, l) + LOAD_COLUMN.watts]!,
            0,
          );
          expect(path.columns[DELIVERED]).toBeCloseTo(loads, 7);
          // Losses are not among what is read.
          const rows = lossAt(doc.stages.length, doc.loads.length);
          for (let c = 0; c < rows; c++) {
            const off = Math.abs(path.columns[c]! - exact.columns[c]!);
            expect(off).toBeLessThanOrEqual(2e-9 * Math.max(power, Math.abs(exact.columns[c]!)) + 1e-12);
          }
        }
      }),
      { numRuns: 60, seed: 5 },
    );
    expect(asked).toBeGreaterThan(500);
  });

  it('takes few samples where a demand is a parabola of power, and keeps what it found', () => {
    const doc = structuredClone(demoThreads()[0]!);
    for (const s of doc.stages) if ('parts' in s && s.parts) s.parts.used = false;
    const { path } = compile(doc);
    path.evaluate(12.5);
    const { samples } = path.counts();
    expect(samples).toBeLessThan(10);
    for (const volts of [12, 11, 10, 9.8]) path.evaluate(volts);
    expect(path.counts()).toMatchObject({ samples, pieces: 1 });
  });
});

describe('polynomials', () => {
  const at = (c: readonly number[], t: number) => c.reduceRight((sum, x) => x + t * sum, 0);

  it('through few nodes a parabola, through all one of sixth degree, its value and integral by weights', () => {
    const cubic = [3, -1, 0.5, 0, 0, 0, 0];
    const sixth = [1, -2, 0.3, 4, -0.7, 0.2, 5];
    for (const [grid, c] of [[FEW, cubic] as const, [ALL, sixth] as const]) {
      const values = Float64Array.from(grid.nodes, (k) => at(c, NODES[k]!));
      const found = new Float64Array(POINTS);
      grid.fit(values, 1, 0, found, 0);
      for (const t of [-1, -0.3, 0.71, 1]) expect(value(found, 0, t)).toBeCloseTo(at(c, t), 12);
      const dot = (weights: Float64Array) => weights.reduce((sum, w, k) => sum + w * values[k]!, 0);
      expect(dot(grid.weightsAt(0.37))).toBeCloseTo(at(c, 0.37), 12);
      // ∫ over −1…1 of t^p is 2/(p + 1) for even p.
      const moments = Float64Array.from(c, (_, p) => (p % 2 === 0 ? 2 / (p + 1) : 0));
      const integral = c.reduce((sum, x, p) => sum + x * moments[p]!, 0);
      expect(dot(grid.weights(moments))).toBeCloseTo(integral, 12);
    }
  });

  it('stand for nothing that has a kink or a jump', () => {
    let calls = 0;
    const count = (f: (t: number) => number) => (t: number) => (calls++, f(t));
    expect(
      fitOver(
        count((t) => 2 - t + t * t),
        1e-9,
      )!(0.2),
    ).toBeCloseTo(1.84, 12);
    expect(calls).toBe(6);
    expect(fitOver((t) => Math.exp(t / 4), 1e-9)!(0.2)).toBeCloseTo(Math.exp(0.05), 9);
    expect(fitOver((t) => 2 + Math.abs(t - 0.1), 1e-9)).toBeUndefined();
    expect(fitOver((t) => (t < 0.6 ? 1 : 1.001), 1e-5)).toBeUndefined();
  });
});

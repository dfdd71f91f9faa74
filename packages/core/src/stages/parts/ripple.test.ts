import { describe, expect, it } from 'vitest';
import { rippleVolts, type Pieces } from './ripple.ts';

/** [V] the same by a hundred thousand small steps of the charge. */
function stepped({ share, from, to }: Pieces, period: number, farads: number, ohms: number): number {
  let [charge, least, most] = [0, Infinity, -Infinity];
  share.forEach((s, k) => {
    const n = Math.ceil(1e5 * s);
    for (let j = 0; j <= n; j++) {
      const amps = from[k]! + ((to[k]! - from[k]!) * j) / n;
      const at = (charge + (((from[k]! + amps) / 2) * s * period * j) / n) / farads + ohms * amps;
      least = Math.min(least, at);
      most = Math.max(most, at);
    }
    charge += ((from[k]! + to[k]!) / 2) * s * period;
  });
  return most - least;
}

describe('ripple across a capacitor', () => {
  it('of a triangle of current is ΔI/(8·f·C), and its resistance alone ΔI·R', () => {
    const triangle: Pieces = { share: [0.3, 0.7], from: [-0.5, 0.5], to: [0.5, -0.5] };
    expect(rippleVolts(triangle, 2e-6, 10e-6, 0)).toBeCloseTo(1 / (8 * 500e3 * 10e-6), 12);
    expect(rippleVolts(triangle, 2e-6, 1, 0.02)).toBeCloseTo(0.02, 6);
  });

  it.each<[string, Pieces]>([
    ['a boost into its output', { share: [0.6, 0.4], from: [-1, 2.1], to: [-1, 0.9] }],
    [
      'one that rests for a while',
      { share: [0.2, 0.3, 0.5], from: [1.8, -0.4, -0.4], to: [-0.4, -0.4, 0.24] },
    ],
    ['unequal slopes with a jump', { share: [0.45, 0.55], from: [0.2, 1.4], to: [-1.9, -0.01] }],
  ])('is what small steps of the charge give, with and without resistance: %s', (_, pieces) => {
    for (const [farads, ohms] of [
      [10e-6, 0],
      [10e-6, 0.05],
      [2e-6, 0.4],
      [47e-6, 0.02],
    ] as const) {
      const wanted = stepped(pieces, 2e-6, farads, ohms);
      expect(rippleVolts(pieces, 2e-6, farads, ohms) / wanted).toBeCloseTo(1, 6);
    }
  });

  it('an empty piece counts for nothing', () => {
    const with0 = { share: [0.5, 0, 0.5], from: [-1, 99, 1], to: [1, 99, -1] };
    const without = { share: [0.5, 0.5], from: [-1, 1], to: [1, -1] };
    expect(rippleVolts(with0, 1e-6, 1e-5, 0.01)).toBe(rippleVolts(without, 1e-6, 1e-5, 0.01));
  });
});

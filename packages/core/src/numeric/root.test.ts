import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brent, descend, highestRoot } from './root.ts';

/** Load line of constant power behind a resistance: two roots (E ± √(E² − 4RP))/2, or none. */
const loadLine = (e: number, r: number, p: number) => (v: number) => e - (r * p) / v - v;

describe('root finding', () => {
  it('Brent meets roots with a closed form', () => {
    expect(brent((x) => 2 - x * x, 0, 2, 1e-14).x).toBeCloseTo(Math.SQRT2, 13);
    expect(brent((x) => Math.cos(x) - x, 0, 1, 1e-14).x).toBeCloseTo(0.7390851332151607, 13);
    expect(brent((x) => 1 - Math.exp(50 * (x - 0.3)), 0, 1, 1e-14).x).toBeCloseTo(0.3, 12);
  });

  it('says when there is no sign change, and when the sign changes by a jump', () => {
    expect(brent(() => -1, 0, 1, 1e-9).status).toBe('none');
    const jump = brent((x) => (x < 0.4 ? 1 : -1), 0, 1, 1e-9, 0.1);
    expect(jump.status).toBe('jump');
    expect(jump.x).toBeCloseTo(0.4, 8);
    expect(jump.x).toBeLessThan(0.4);
  });

  it('says when its calls ran out before the bracket closed', () => {
    // Halving from 1e300 to 1e-9 takes a thousand calls.
    const found = brent((x) => (x < 1 ? 1 : -1), 0, 1e300, 1e-9);
    expect(found.status).toBe('unfinished');
    expect(found.calls).toBeLessThan(1000);
  });

  it('finds the higher of two roots, however close they are, and none just past the nose', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 30, noNaN: true }),
        fc.double({ min: 0.01, max: 2, noNaN: true }),
        fc.double({ min: 0.1, max: 0.99999, noNaN: true }),
        (e, r, share) => {
          const most = (e * e) / (4 * r);
          const p = share * most;
          const upper = (e + Math.sqrt(e * e - 4 * r * p)) / 2;
          const found = highestRoot(loadLine(e, r, p), 0.02 * e, e, 1e-12 * e);
          expect(found.status).toBe('converged');
          expect(Math.abs(found.x - upper)).toBeLessThan(1e-6 * e);
          expect(highestRoot(loadLine(e, r, 1.0001 * most), 0.02 * e, e, 1e-12 * e).status).toBe('none');
        },
      ),
      { numRuns: 300, seed: 21 },
    );
  });

  it('a narrow hump in front of a jump is not overlooked', () => {
    // Below 2 the demand lets go (f jumps to +1); the true roots stand at 5 ± 0.01.
    const f = (v: number) => (v < 2 ? 1 : 1e-4 - (v - 5) ** 2);
    const found = highestRoot(f, 0.2, 10, 1e-12, 1e-6);
    expect(found.status).toBe('converged');
    expect(found.x).toBeCloseTo(5.01, 9);
    const without = highestRoot((v) => (v < 2 ? 1 : -1e-3 - (v - 5) ** 2), 0.2, 10, 1e-9, 1e-6);
    expect(without.status).toBe('jump');
    expect(without.x).toBeCloseTo(2, 6);
  });

  it('descends to the higher root from its right, and gives up where there is none', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 30, noNaN: true }),
        fc.double({ min: 0.01, max: 2, noNaN: true }),
        fc.double({ min: 0, max: 0.95, noNaN: true }),
        (e, r, share) => {
          const p = (share * e * e) / (4 * r);
          const x = descend(loadLine(e, r, p), 0.02 * e, e, e, 1e-11 * e);
          expect(x).toBeCloseTo((e + Math.sqrt(e * e - 4 * r * p)) / 2, 8);
          expect(descend(loadLine(e, r, (1.2 * e * e) / (4 * r)), 0.02 * e, e, e, 1e-11 * e)).toBeNaN();
        },
      ),
      { numRuns: 200, seed: 22 },
    );
  });
});

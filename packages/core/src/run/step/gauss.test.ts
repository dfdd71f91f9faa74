import { describe, expect, it } from 'vitest';
import { A12, A21, C1, C2, Cubic, weigh, WEIGHTS } from './gauss.ts';

/** v(t) of T·v' = g − v by ten thousand steps of the trapezoidal rule, which is exact to (h/T)²/12 of each. */
function integrated(T: number, from: number, until: number, g: (t: number) => number): number {
  const n = 10_000;
  const h = until / n;
  let v = from;
  for (let k = 0; k < n; k++) {
    const drive = (g(k * h) + g((k + 1) * h)) / 2;
    v = (v * (1 - h / (2 * T)) + (h / T) * drive) / (1 + h / (2 * T));
  }
  return v;
}

describe('Gauss collocation of two stages', () => {
  it('has the nodes and coefficients that integrate cubics exactly', () => {
    // Both nodes weigh a half each: ∫ t³ over 0…1 is 1/4.
    expect((C1 ** 3 + C2 ** 3) / 2).toBeCloseTo(1 / 4, 14);
    // A row of the tableau sums to its node, and ∫ t from 0 to C1 is C1²/2.
    expect(1 / 4 + A12).toBeCloseTo(C1, 14);
    expect(1 / 4 + A21).toBeCloseTo(C2, 14);
    expect(C1 / 4 + A12 * C2).toBeCloseTo(C1 ** 2 / 2, 14);
  });

  const g = (s: number) => 0.7 - 1.9 * s + 2.3 * s * s;
  // Far slower than the step, near the change of formula, as fast, and so fast that it follows.
  it.each([40, 4.02, 3.98, 1, 0.05])(
    'weighs a branch of %f times the step as the differential equation has it',
    (T) => {
      const w = new Float64Array(2 * WEIGHTS);
      // Not at the beginning of the array, and over a step of 3 s.
      weigh(w, WEIGHTS, 3, 3 * T);
      [C1, C2, 1].forEach((c, j) => {
        const at = (k: number) => w[WEIGHTS + 3 + 3 * j + k]!;
        const v = 0.4 * w[WEIGHTS + j]! + at(0) * g(0) + at(1) * g(C1) + at(2) * g(C2);
        expect(v).toBeCloseTo(
          integrated(3 * T, 0.4, 3 * c, (t) => g(t / 3)),
          6,
        );
      });
      expect([...w.slice(0, WEIGHTS)]).toEqual(Array(WEIGHTS).fill(0));
    },
  );

  it('a branch without time follows its drive at once', () => {
    const w = new Float64Array(WEIGHTS);
    weigh(w, 0, 2, 0);
    [C1, C2, 1].forEach((c, j) => {
      expect(w[j]).toBe(0);
      const v = w[3 + 3 * j]! * g(0) + w[4 + 3 * j]! * g(C1) + w[5 + 3 * j]! * g(C2);
      expect(v).toBeCloseTo(g(c), 12);
    });
  });
});

describe('a cubic', () => {
  const f = (x: number) => 2 - 3 * x + 0.5 * x * x - 4 * x ** 3;
  const df = (x: number) => -3 + x - 12 * x * x;
  it('through four values, and by ends and slopes, is the one it was taken of, slope included', () => {
    const cubics = [
      new Cubic().through(f(0), f(C1), f(C2), f(1)),
      new Cubic().hermite(f(0), f(1), df(0), df(1)),
    ];
    for (const cubic of cubics) {
      for (const x of [0, 0.13, 0.5, 0.91, 1, 1.7]) {
        expect(cubic.at(x)).toBeCloseTo(f(x), 11);
        expect(cubic.slope(x)).toBeCloseTo(df(x), 10);
      }
    }
  });
});

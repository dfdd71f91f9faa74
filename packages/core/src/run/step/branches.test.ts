import { describe, expect, it } from 'vitest';
import { Branches } from './branches.ts';
import { C1, C2, weigh, WEIGHTS } from './gauss.ts';

/** ∫ over 0…c of z·e^(z·(x − c))·xⁿ by Simpson's rule, fine enough for the fastest kernel asked. */
function response(c: number, z: number, n: number): number {
  // A fast kernel lives in the last 40 time constants.
  const from = Math.max(0, c - 40 / z);
  const steps = 20_000;
  const h = (c - from) / steps;
  const f = (x: number) => z * Math.exp(z * (x - c)) * x ** n;
  let sum = f(from) + f(c);
  for (let k = 1; k < steps; k++) sum += (k % 2 === 1 ? 4 : 2) * f(from + k * h);
  return (sum * h) / 3;
}

describe('weights of a branch', () => {
  it.each([1e-7, 1e-3, 0.2, 0.3, 0.9, 3, 40, 1e4, 1e7])(
    'give what an exponential kernel makes of any parabola, with h/T = %f',
    (z) => {
      const w = new Float64Array(WEIGHTS);
      weigh(w, 0, z, 1);
      const [a, b, c] = [0.7, -1.3, 2.1];
      const g = (x: number) => a + x * (b + x * c);
      [C1, C2, 1].forEach((place, j) => {
        const exact = a * response(place, z, 0) + b * response(place, z, 1) + c * response(place, z, 2);
        const said = w[3 + 3 * j]! * g(0) + w[4 + 3 * j]! * g(C1) + w[5 + 3 * j]! * g(C2);
        expect(Math.abs(said - exact)).toBeLessThan(1e-10 * Math.min(1, z));
        expect(w[j]).toBeCloseTo(Math.exp(-z * place), 12);
      });
    },
  );

  it('without a capacitance follow at once, to the parabola’s end', () => {
    const w = new Float64Array(WEIGHTS);
    weigh(w, 0, 10, 0);
    const g = (x: number) => 2 - x + 3 * x * x;
    expect([w[0], w[1], w[2]]).toEqual([0, 0, 0]);
    expect(w[9]! * g(0) + w[10]! * g(C1) + w[11]! * g(C2)).toBeCloseTo(g(1), 12);
  });
});

describe('a branch over a step', () => {
  /** Ohms and farads that move with the place in the step, and a current that bends: what a cell near empty does. */
  const ohms = (x: number) => 0.05 * (1 + 0.4 * x + 0.2 * x * x);
  const amps = (x: number) => 2 + 0.3 * x + 0.2 * x * x;
  const looked = (x: number, farads: number) => Float64Array.from([0, 0, 0, ohms(x), farads * (1 - 0.2 * x)]);

  /** v' = (i − v/R)/C by the classical Runge-Kutta method in very small steps. */
  function reference(v0: number, h: number, farads: number): number {
    const n = 40_000;
    const f = (x: number, v: number) => (h * (amps(x) - v / ohms(x))) / (farads * (1 - 0.2 * x));
    let v = v0;
    for (let k = 0; k < n; k++) {
      const x = k / n;
      const k1 = f(x, v);
      const k2 = f(x + 0.5 / n, v + k1 / (2 * n));
      const k3 = f(x + 0.5 / n, v + k2 / (2 * n));
      const k4 = f(x + 1 / n, v + k3 / n);
      v += (k1 + 2 * k2 + 2 * k3 + k4) / (6 * n);
    }
    return v;
  }

  /** By `steps` steps over the same way. */
  function stepped(v0: number, h: number, farads: number, steps: number): number {
    const branches = new Branches(1);
    let v = Float64Array.of(v0);
    for (let k = 0; k < steps; k++) {
      const at = (c: number) => (k + c) / steps;
      branches.begin(h / steps, v, looked(at(0), farads), amps(at(0)), looked(at(0.5), farads));
      branches.solve(v, looked(at(C1), farads), looked(at(C2), farads), amps(at(C1)), amps(at(C2)));
      const end = new Float64Array(1);
      branches.end(v, end);
      v = end;
    }
    return v[0]!;
  }

  it.each([
    ['slow', 5000, 2e-3, 12],
    ['about as long as the step', 800, 2e-3, 12],
    ['faster', 100, 3e-2, 6],
  ])('%s: of its order with moving ohms and farads', (_, farads, error, order) => {
    const exact = reference(0.02, 60, farads);
    const errors = [1, 2, 4].map((n) => Math.abs(stepped(0.02, 60, farads, n) - exact));
    expect(errors[0]! / exact).toBeLessThan(error);
    expect(errors[1]! / errors[2]!).toBeGreaterThan(order);
  });

  it('answers both currents as it says it does', () => {
    const branches = new Branches(1);
    const v = Float64Array.of(0.03);
    const at = (i1: number, i2: number) => {
      branches.begin(60, v, looked(0, 800), amps(0), looked(0.5, 800));
      branches.solve(v, looked(C1, 800), looked(C2, 800), i1, i2);
      return [branches.drop1, branches.drop2] as const;
    };
    const [one, two] = at(2, 2.3);
    const { b11, b12, b21, b22 } = branches;
    branches.move(0.1, -0.2);
    const moved = [branches.first[0]!, branches.second[0]!];
    expect(at(2.1, 2.1).map((x, k) => x - moved[k]!)).toEqual([0, 0].map((x) => expect.closeTo(x, 14)));
    expect(moved[0]! - one).toBeCloseTo(0.1 * b11 - 0.2 * b12, 14);
    expect(moved[1]! - two).toBeCloseTo(0.1 * b21 - 0.2 * b22, 14);
  });
});

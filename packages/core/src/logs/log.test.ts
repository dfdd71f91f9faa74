import { describe, expect, it } from 'vitest';
import { fromDischarges } from './discharges.ts';
import { chargeTaken, sumOf, type Log } from './log.ts';

const log = (seconds: number[], volts: number[], amps: number[]): Log => ({
  seconds: Float64Array.from(seconds),
  volts: Float64Array.from(volts),
  amps: Float64Array.from(amps),
});

describe('what a log comes to', () => {
  // Two readings far apart, a pause of an hour without current, and a last stretch with more of it.
  const paused = log(
    [0, 10, 100, 100.5, 3700, 3700.5, 3760],
    [4, 4, 3.9, 4, 4.02, 3.8, 3.7],
    [1, 1, 1, 0, 0, 2, 2],
  );

  it('is charge, energy, longest gap and most current, each stretch by its own length', () => {
    const sum = sumOf(paused);
    expect(sum.charge).toBeCloseTo(10 + 90 + 0.25 + 0 + 0.5 + 119, 9);
    const energy = 40 + 90 * 3.95 + (0.5 * 3.9) / 2 + 0 + (0.5 * 7.6) / 2 + (59.5 * (7.6 + 7.4)) / 2;
    expect(sum.energy).toBeCloseTo(energy, 9);
    expect(sum.meanVolts).toBeCloseTo(energy / sum.charge, 12);
    expect([sum.rows, sum.seconds, sum.gap, sum.mostAmps]).toEqual([7, 3760, 3599.5, 2]);
  });

  it('grows by what flows, and not while nothing does', () => {
    const taken = [...chargeTaken(paused)];
    expect(taken[2]).toBeCloseTo(100, 9);
    expect(taken[4]! - taken[3]!).toBe(0);
    expect(taken.at(-1)!).toBeCloseTo(sumOf(paused).charge, 9);
  });
});

describe('curves from discharges', () => {
  /** A cell of 1 Ah from 3.2 V to 4.2 V straight, with 0.2 Ω, at a current; stopped for an hour after each share of it. */
  const discharge = (amps: number, pauses: number[] = [], celsius?: number) => {
    const [seconds, volts, current] = [[] as number[], [] as number[], [] as number[]];
    let [time, taken] = [0, 0];
    const put = (i: number) => {
      seconds.push(time);
      volts.push(4.2 - taken - i * 0.2);
      current.push(i);
    };
    put(amps);
    while (taken < 0.98) {
      time += 36;
      taken += (amps * 36) / 3600;
      put(amps);
      if (pauses.some((p) => taken >= p && taken - (amps * 36) / 3600 < p)) {
        time += 1;
        put(0);
        time += 3600;
        put(0);
        time += 1;
        put(amps);
      }
    }
    return { ...log(seconds, volts, current), ...(celsius === undefined ? {} : { celsius }) };
  };
  const options = { chemistry: 'NMC' as const, capacityAh: 1 };
  const found = (logs: ReturnType<typeof discharge>[]) => {
    const outcome = fromDischarges(logs, options);
    if (!outcome.ok) throw new Error(JSON.stringify(outcome.issues));
    return outcome.value;
  };

  it('two at different currents give the cell they were taken of', () => {
    const { soc, ocv, ohms, residual } = found([discharge(0.2), discharge(1)]);
    soc.forEach((z, k) => {
      if (z < 0.05) return;
      expect(ocv[k]!).toBeCloseTo(3.2 + z, 2);
      expect(ohms[k]!).toBeCloseTo(0.2, 2);
    });
    expect(residual.rms).toBeLessThan(2e-3);
  });

  it('and so they do with pauses in them: volts at rest are read at no current', () => {
    const { soc, ocv, ohms } = found([discharge(0.2, [0.3, 0.62]), discharge(1, [0.5])]);
    soc.forEach((z, k) => {
      if (z < 0.05) return;
      expect(ocv[k]!).toBeCloseTo(3.2 + z, 2);
      expect(ohms[k]!).toBeCloseTo(0.2, 2);
    });
  });

  it('refuses currents too much alike, one alone in a room, and too little of the charge', () => {
    const refused = (logs: ReturnType<typeof discharge>[]) => {
      const outcome = fromDischarges(logs, options);
      return outcome.ok ? '' : outcome.issues[0]!.allowed;
    };
    expect(refused([discharge(0.5), discharge(0.6)])).toMatch(/factor of 1.5/);
    expect(refused([discharge(0.2), discharge(1, [], -10)])).toMatch(/in a room, 18 to 32/);
    const short = discharge(1);
    const cut = (n: number) =>
      log([...short.seconds.slice(0, n)], [...short.volts.slice(0, n)], [...short.amps.slice(0, n)]);
    expect(refused([discharge(0.2), cut(40)])).toMatch(/at least 50 %/);
  });

  it('one in the cold tells by what factor resistance and charge differ there', () => {
    // The same cell with twice the resistance: 0.4 Ω at 1 A, cut at the same volts, so less comes out.
    const cold = discharge(1, [], -5);
    for (let k = 0; k < cold.volts.length; k++) cold.volts[k]! -= 0.2 * cold.amps[k]!;
    const { warmth } = found([discharge(0.2), discharge(1), cold]);
    expect(warmth!.celsius).toEqual([-5, 25]);
    expect(warmth!.resistance[0]!).toBeCloseTo(2, 1);
    expect(warmth!.resistance[1]!).toBe(1);
    expect(warmth!.capacity[0]!).toBeCloseTo(1, 1);
    // Stopped early by its volts, at 60 % taken: what is left is told by the volts it would rest at, its own resistance off.
    const n = cold.seconds.findIndex((t) => t >= 0.6 * 3600);
    const cut = {
      ...log([...cold.seconds.slice(0, n)], [...cold.volts.slice(0, n)], [...cold.amps.slice(0, n)]),
      celsius: -5,
    };
    expect(found([discharge(0.2), discharge(1), cut]).warmth!.capacity[0]!).toBeCloseTo(1, 1);
  });
});

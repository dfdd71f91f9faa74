import { describe, expect, it } from 'vitest';
import { LossLaw } from './loss.ts';
import { lossSurface } from './surface.ts';

/** Readings at 5 V out; losses by hand. */
const points = [
  { inputVolts: 8, outputAmps: 0.1, inputAmps: 0.075 }, // 0.6 − 0.5 = 0.1 W
  { inputVolts: 8, outputAmps: 1, efficiency: 0.9 }, // 5/0.9 − 5 = 0.5556 W
  { inputVolts: 12, outputAmps: 0.1, inputAmps: 0.055 }, // 0.66 − 0.5 = 0.16 W
  { inputVolts: 12, outputAmps: 1, inputAmps: 0.475 }, // 5.7 − 5 = 0.7 W
];

describe('losses by readings', () => {
  it('are met at each of them, straight between them along the current and across the volts', () => {
    const surface = lossSurface(points, 5, 0);
    expect(surface.at(8, 0.1)).toBeCloseTo(0.1, 9);
    expect(surface.at(8, 1)).toBeCloseTo(5 / 0.9 - 5, 9);
    expect(surface.at(12, 0.55)).toBeCloseTo((0.16 + 0.7) / 2, 9);
    // A quarter of the way from 8 V to 12 V.
    expect(surface.at(9, 1)).toBeCloseTo(0.75 * (5 / 0.9 - 5) + 0.25 * 0.7, 9);
    // Beyond the volts the nearest line holds.
    expect(surface.at(15, 1)).toBeCloseTo(0.7, 9);
    expect(surface.at(5, 0.1)).toBeCloseTo(0.1, 9);
    expect([surface.outside(9, 0.5), surface.outside(13, 0.5), surface.outside(9, 1.1)]).toEqual([
      false,
      true,
      true,
    ]);
  });

  it('with an own draw go down to it at no load; below the least reading it counts, not a line on from the readings', () => {
    const own = 2e-3;
    const surface = lossSurface(points, 5, own);
    expect(surface.at(12, 0)).toBeCloseTo(12 * own, 9);
    expect(surface.at(12, 0.05)).toBeCloseTo((12 * own + 0.16) / 2, 9);
    // Without it only what the readings say is known there.
    expect(lossSurface(points, 5, 0).outside(9, 0.05)).toBe(true);
    const law = new LossLaw({ basis: 'points', quiescentCurrent: own, points }, 5);
    expect(law.inputAmps(12, 5, 0)).toBeCloseTo(own, 12);
    expect(law.inputAmps(12, 5, 0.1)).toBeCloseTo(0.055, 9);
  });

  it('above a single reading go on alike whatever next to nothing is drawn at no load', () => {
    for (const [watts, own] of [
      [0.0171, 1e-150],
      [0.2713, 1e-30],
      [4.2966, 1e-18],
      [0.7, 1e-12],
    ] as const) {
      const one = [
        {
          inputVolts: 12,
          outputAmps: 0.17902452210590863,
          inputAmps: (watts + 5 * 0.17902452210590863) / 12,
        },
      ];
      const surface = lossSurface(one, 5, own);
      // Two points, nothing lost at no current: what is left is by the square of the current.
      expect(surface.at(12, 2 * 0.17902452210590863) / watts).toBeCloseTo(4, 6);
    }
  });

  it('above the last reading go on by a fit that meets it, never less than nothing', () => {
    const surface = lossSurface(points, 5, 2e-3);
    expect(surface.at(12, 1 + 1e-9)).toBeCloseTo(0.7, 6);
    expect(surface.at(12, 2)).toBeGreaterThan(0.7 * 1.5);
    expect(surface.at(12, 2)).toBeLessThan(0.7 * 4);
    // A reading repeated at its place: the later one holds.
    const again = [...points, { inputVolts: 12, outputAmps: 1, inputAmps: 0.5 }];
    expect(lossSurface(again, 5, 0).at(12, 1)).toBeCloseTo(1, 9);
  });

  it('change their formula where a line of readings stands, and where the own draw takes over', () => {
    const law = new LossLaw({ basis: 'points', quiescentCurrent: 2e-3, points }, 5);
    expect(law.bends(5, 0.5, 0)).toEqual(expect.arrayContaining([8, 12]));
    expect(
      new LossLaw({ basis: 'efficiency', efficiency: 0.9, quiescentCurrent: 0 }, 5).bends(5, 0.5, 0),
    ).toEqual([]);
  });
});

describe('losses by a formula', () => {
  const formula = {
    ...{ basis: 'polynomial' as const, quiescentCurrent: 1e-3 },
    ...{ fixed: 0.03, perOutputAmp: 0.05, perInputAmp: 0.1, perInputAmpSquared: 0.2 },
  };
  it('balance what goes in with what comes out and what is lost, the own draw besides', () => {
    const law = new LossLaw(formula, 5);
    for (const [vin, iout] of [
      [3.3, 0.2],
      [7.4, 1.5],
    ] as const) {
      const amps = law.inputAmps(vin, 5, iout) - 1e-3;
      const lost = 0.03 + 0.05 * iout + 0.1 * amps + 0.2 * amps ** 2;
      expect(vin * amps).toBeCloseTo(5 * iout + lost, 9);
    }
  });

  it('have an end: no input current is enough beyond (Vin − b)²/4c', () => {
    const law = new LossLaw(formula, 5);
    const most = (3.3 - 0.1) ** 2 / (4 * 0.2);
    const amps = (most - 0.03) / (5 + 0.05);
    expect(law.inputAmps(3.3, 5, amps * (1 - 1e-6))).toBeLessThan(Infinity);
    expect(law.inputAmps(3.3, 5, amps * (1 + 1e-6))).toBe(Infinity);
    expect(law.inputAmps(0.05, 5, 0.1)).toBe(Infinity);
  });
});

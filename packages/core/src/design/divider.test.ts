import { describe, expect, it } from 'vitest';
import { dividerSpread, dividerVolts, findDividers } from './divider.ts';
import { decade, E12, E24 } from './eSeries.ts';

describe('preferred values', () => {
  it('E12 is every other value of E24', () => {
    // IEC 60063 (from memory).
    expect(E12).toEqual([1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2]);
    expect(E24).toHaveLength(24);
    expect(decade('E12')).toBe(E12);
  });
});

describe('a pin that draws current', () => {
  /** Nodal equation at the pin, independent of the closed form: (Vout − V)/R1 = V/R2 + Ib. */
  const atPin = (vout: number, top: number, bottom: number, bias: number) =>
    (vout / top - bias) / (1 / top + 1 / bottom);

  it('lifts the output by its current through the upper resistor', () => {
    const parts = { reference: 0.8, top: 470e3, bottom: 100e3, pinBias: 100e-9 };
    const volts = dividerVolts(parts);
    expect(atPin(volts, 470e3, 100e3, 100e-9)).toBeCloseTo(0.8, 12);
    expect(volts).toBeCloseTo(4.56 + 0.047, 9);
  });

  it('is counted when a pair is looked for, and widens the spread to one side', () => {
    const task = {
      reference: 0.8,
      target: 5,
      leastAmps: 0.5e-6,
      mostAmps: 5e-6,
      series: 'E12' as const,
      pinBias: 200e-9,
      resistorTolerance: 0.01,
      referenceTolerance: 0,
    };
    const [best] = findDividers(task);
    expect(atPin(best!.volts, best!.top, best!.bottom, 200e-9)).toBeCloseTo(0.8, 9);
    expect(Math.abs(best!.error)).toBeLessThan(0.03);
    for (const r of [best!.top, best!.bottom]) {
      const [mantissa] = r.toExponential(1).split('e');
      expect(E12).toContain(Number(mantissa));
    }
    const [still, biased] = [0, 200e-9].map((b) => dividerSpread(0.8, 0, best!.top, best!.bottom, 0.01, b));
    expect(biased!.least).toBeCloseTo(still!.least, 12);
    expect(biased!.most - still!.most).toBeCloseTo(200e-9 * best!.top * 1.01, 9);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { editableQuantity, formatDuration, formatQuantity } from './formatQuantity.ts';
import { parseQuantity } from './parseQuantity.ts';

const read = (text: string, unit: string) => {
  const parsed = parseQuantity(text, unit);
  return parsed.ok ? parsed.value : parsed.reason;
};

describe('quantities as engineers type them', () => {
  // RKM forms after IEC 60062 (from memory).
  const cases: [string, string, number][] = [
    ['4u7', 'F', 4.7e-6],
    ['34 min 30 s', 's', 2070],
    ['300 ms', 's', 0.3],
    ['1 d', 's', 86400],
    ['4µ7', 'F', 4.7e-6],
    ['10k', 'Ω', 10e3],
    ['2R2', 'Ω', 2.2],
    ['R47', 'Ω', NaN],
    ['0R47', 'Ω', 0.47],
    ['4K7', 'Ω', 4700],
    ['1M', 'Ω', 1e6],
    ['550m', 'A', 0.55],
    ['550 mA', 'A', 0.55],
    ['1.2 A', 'A', 1.2],
    ['3,3', 'V', 3.3],
    ['3,3V', 'V', 3.3],
    ['−2', 'V', -2],
    ['1e-3', 'A', 1e-3],
    ['.5', 'V', 0.5],
    ['12 mΩ', 'Ω', 0.012],
    ['90 %', '', 0.9],
    ['0.905', '', 0.905],
    ['4 h 30 min', 'h', 4.5],
    ['90 min', 'h', 1.5],
    ['4:06', 'h', 4.1],
    ['0:01:30', 's', 90],
    ['2 d', 'h', 48],
    ['4', 'h', 4],
    ['25 °C', '°C', 25],
    ['160 K/W', 'K/W', 160],
  ];
  for (const [text, unit, value] of cases) {
    it(`${text} in ${unit || '1'} is ${value}`, () => {
      if (Number.isNaN(value)) expect(read(text, unit)).toContain('is not a number');
      else expect(read(text, unit)).toBeCloseTo(value, 12);
    });
  }

  it('refuses what is not a number, and the wrong unit, with words', () => {
    for (const [text, unit] of [
      ['', 'V'],
      ['loud', 'V'],
      ['5 A', 'V'],
      ['1..2', 'V'],
      ['--1', 'V'],
      ['1e999', 'V'],
    ] as const) {
      expect(typeof read(text, unit)).toBe('string');
    }
  });

  it('what is offered for editing reads back as the same value', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e8, max: 1e8, noNaN: true }),
        fc.constantFrom('V', 'A', 'Ω', 'W', '', 'h', '°C', 'K/W'),
        (v, unit) => {
          const value = Number(v.toPrecision(6));
          const back = read(editableQuantity(value, unit), unit) as number;
          expect(Math.abs(back - value)).toBeLessThanOrEqual(1e-9 * Math.abs(value) + 1e-20);
        },
      ),
      { numRuns: 500, seed: 4 },
    );
  });

  it('writes engineering notation and durations', () => {
    const plain = (s: string) => s.replace(/\u00a0/g, ' ');
    expect(plain(formatQuantity(0.55, 'A'))).toBe('550 mA');
    expect(plain(formatQuantity(9, 'V'))).toBe('9.00 V');
    expect(plain(formatQuantity(0.9996, 'V'))).toBe('1.00 V');
    expect(plain(formatQuantity(4.7e-6, 'A'))).toBe('4.70 µA');
    expect(plain(formatQuantity(0, 'A'))).toBe('0 A');
    expect(plain(formatQuantity(9.5e-9, 'C'))).toBe('9.50 nC');
    expect(plain(formatQuantity(0.3, 'C'))).toBe('0.300 C');
    expect(formatQuantity(NaN, 'A')).toBe('–');
    expect(plain(formatDuration(4.3))).toBe('4 h 18 min');
    expect(plain(formatDuration(0.9999))).toBe('1 h');
    expect(plain(formatDuration(19 * 24))).toBe('19 days');
    expect(plain(formatDuration(101))).toBe('4 days 5 h');
    expect(plain(formatDuration(71.9))).toBe('3 days');
    expect(plain(formatDuration(14 * 730.5))).toBe('14 months');
  });
});

import { describe, expect, it } from 'vitest';
import { fadeAfter, ROUGHNESS } from './fade.ts';

describe('what ageing leaves of a cell', () => {
  const year = (chemistry: 'NMC' | 'LFP' | 'LTO', years: number, cycles: number, air = 25) =>
    fadeAfter({ chemistry }, years, cycles, air);

  it('nothing is lost of a new cell, and its resistance is its own', () => {
    expect(year('NMC', 0, 500).usual).toEqual({ capacity: 1, resistance: 1 });
  });

  it('both losses go with a square root: four years lose twice what one does, four times the cycles likewise', () => {
    const by = (years: number, cycles: number) => 1 - year('NMC', years, cycles).usual.capacity;
    expect(by(4, 0) / by(1, 0)).toBeCloseTo(2, 9);
    expect((by(1, 400) - by(1, 0)) / (by(1, 100) - by(1, 0))).toBeCloseTo(2, 9);
    // Added, not multiplied: common practice, no source.
    expect(by(2, 100)).toBeCloseTo(by(2, 0) + by(1, 200) - by(1, 0), 9);
  });

  it('nickel and cobalt: 20 % by some 500 cycles, LFP a thousand C/2 cycles at 25 °C 6.5 %', () => {
    // 20 % in 500: common practice, no source. LFP: Wang et al. 2011, eq. 10 (from memory).
    expect(1 - year('NMC', 1e-9, 500e9).usual.capacity).toBeCloseTo(0.2, 2);
    expect(1 - year('LFP', 1e-9, 1000e9).usual.capacity).toBeCloseTo(0.065, 4);
  });

  it('warm cells age faster by time: 1.7 times at 35 °C of 25 °C; cycles alone as at any warmth', () => {
    const lost = (air: number) => 1 - year('LTO', 1, 0, air).usual.capacity;
    // exp(40 kJ/mol / R · (1/298.15 K − 1/308.15 K)).
    const wanted = Math.exp((40e3 / 8.314462618) * (1 / 298.15 - 1 / 308.15));
    expect(lost(35) / lost(25)).toBeCloseTo(wanted, 6);
    expect(lost(5)).toBeLessThan(lost(25));
    expect(year('LTO', 1e-9, 1e12, 45).usual.capacity).toBeCloseTo(
      year('LTO', 1e-9, 1e12, 5).usual.capacity,
      5,
    );
  });

  it('at worst twice as much is lost, at best half; resistance rises by three times what charge falls', () => {
    const { best, usual, worst } = year('NMC', 2, 150);
    expect((1 - worst.capacity) / (1 - usual.capacity)).toBeCloseTo(ROUGHNESS, 9);
    expect((1 - usual.capacity) / (1 - best.capacity)).toBeCloseTo(ROUGHNESS, 9);
    // A cell at 80 % has 1.6 times its resistance: common practice, no source.
    for (const f of [best, usual, worst]) {
      expect((f.resistance - 1) / (1 - f.capacity)).toBeCloseTo(3, 9);
    }
    // Never below what the law can speak of.
    expect(year('NMC', 50, 1000).worst.capacity).toBe(0.2);
  });
});

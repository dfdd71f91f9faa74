import { describe, expect, it } from 'vitest';
import { hysteresisOhms, ladderString, tapVolts } from './ladder.ts';

describe('a string of resistors', () => {
  it('divides the reference as Ohm’s law has it', () => {
    // 10 k, 20 k, 30 k below 6 V: 0.1 mA, so 1 V and 3 V.
    expect(tapVolts([10e3, 20e3, 30e3], 6)).toEqual([1, 3]);
    expect(tapVolts([1e3, 1e3], 2.5)).toEqual([1.25]);
  });

  it('is made of E96 so that its taps come near to what is wanted', () => {
    const wanted = [0.9, 1.2, 1.65, 2.1];
    const string = ladderString(wanted, 2.5, 100e3);
    expect(string).toHaveLength(5);
    expect(string.reduce((a, b) => a + b)).toBeGreaterThan(95e3);
    expect(string.reduce((a, b) => a + b)).toBeLessThan(105e3);
    // Steps of E96 are 2.4 %; taps are sums, whose errors part cancel.
    tapVolts(string, 2.5).forEach((v, k) => expect(Math.abs(v / wanted[k]! - 1)).toBeLessThan(0.012));
  });
});

describe('hysteresis by a resistor from output to input', () => {
  /**
   * [V] at which the divided input must stand, unloaded, for the comparator's pin to be at its threshold, with the output at
   * `out`: nodal analysis of source resistance and feedback at the pin.
   */
  const threshold = (pin: number, out: number, source: number, feedback: number) =>
    pin + (source / feedback) * (pin - out);

  it.each([
    [47e3, 5, 0.1],
    [10e3, 3.3, 0.25],
    [220e3, 12, 1.5],
  ])('%f Ω moved by a swing of %f V has %f V between on and off', (source, swing, volts) => {
    const feedback = hysteresisOhms(source, swing, volts);
    // As a divider of the swing at the pin: what the pin moves is the share source/(source + feedback) of it.
    expect((swing * source) / (source + feedback)).toBeCloseTo(volts, 9);
    // Referred to the open divider the same step is larger by (source + feedback)/feedback.
    const between = threshold(1.2, 0, source, feedback) - threshold(1.2, swing, source, feedback);
    expect((between * feedback) / (source + feedback)).toBeCloseTo(volts, 9);
  });
});

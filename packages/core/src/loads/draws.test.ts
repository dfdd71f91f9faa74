import { describe, expect, it } from 'vitest';
import { load } from '../../test/build.ts';
import { loadAmps, loadLaw, type LoadLaw } from './current.ts';
import { allOff, drawsIn, drawsOf, lawAtPeak, lawIn, lawsOf, scaled } from './draws.ts';

/** [A] at a voltage by a law. */
const amps = ({ law, value, slope, factor }: LoadLaw, volts: number) =>
  factor * loadAmps(law, value, slope, volts);

describe('what loads draw', () => {
  const heater = load('power', 6, {
    id: 'heater',
    draws: [
      { mode: 'boil', draw: 'resistance', value: 4 },
      { mode: 'keep', value: 1.5 },
      { mode: 'rest', value: 0 },
    ],
  });
  const lamp = {
    ...load('current', 0.35, { id: 'lamp' }),
    draw: 'string' as const,
    string: 8.4,
    slope: 2,
    current: undefined,
    draws: [{ mode: 'dim', draw: 'string' as const, value: 0.25 }],
  };

  it('power, current, resistance and a string above its knee, by Ohm’s law', () => {
    expect(amps(loadLaw(load('power', 6)), 12)).toBeCloseTo(0.5, 12);
    expect(amps(loadLaw(load('current', 0.35)), 12)).toBe(0.35);
    expect(amps(loadLaw(load('resistance', 48)), 12)).toBeCloseTo(0.25, 12);
    expect(amps(loadLaw(lamp), 9.4)).toBeCloseTo(0.5, 12);
    expect(amps(loadLaw(lamp), 8.3)).toBe(0);
    expect(amps(loadLaw(load('power', 6)), 0)).toBe(0);
  });

  it('in a mode as it says there: another way of drawing, its own way, nothing; as usual elsewhere', () => {
    // 12 V on 4 Ω.
    expect(amps(lawIn(heater, 'boil'), 12)).toBeCloseTo(3, 12);
    expect(amps(lawIn(heater, 'boil'), 6)).toBeCloseTo(1.5, 12);
    expect(amps(lawIn(heater, 'keep'), 12)).toBeCloseTo(0.125, 12);
    expect(amps(lawIn(heater, 'rest'), 12)).toBe(0);
    expect(amps(lawIn(heater, 'walk'), 12)).toBeCloseTo(0.5, 12);
    // A dimmed string has its own knee for a share of the time.
    expect(amps(lawIn(lamp, 'dim'), 9.4)).toBeCloseTo(0.125, 12);
  });

  it('at a peak so many times as much, or a draw of its own', () => {
    const times = { id: 'p', load: 'heater', factor: 3 } as unknown as Parameters<typeof lawAtPeak>[1];
    const own = { id: 'p', load: 'heater', value: 2, draw: 'current' } as unknown as Parameters<
      typeof lawAtPeak
    >[1];
    expect(amps(lawAtPeak(heater, times, lawIn(heater, 'keep')), 12)).toBeCloseTo(0.375, 12);
    expect(amps(lawAtPeak(heater, own, lawIn(heater, 'keep')), 12)).toBe(2);
    // Of a string dimmed to a quarter three quarters.
    expect(amps(lawAtPeak(lamp, times, lawIn(lamp, 'dim')), 9.4)).toBeCloseTo(0.375, 12);
  });

  it('together: as columns and back, off, and scaled; equal draws have equal names, others others', () => {
    const boil = drawsIn([heater, lamp], 'boil');
    expect(drawsOf(lawsOf(boil))).toEqual(boil);
    expect(drawsIn([heater, lamp], 'rest').name).not.toBe(boil.name);
    expect(drawsIn([heater, lamp], 'walk').name).toBe(drawsIn([heater, lamp]).name);
    expect(lawsOf(scaled(boil, 2)).map((l) => amps(l, 12))).toEqual(lawsOf(boil).map((l) => 2 * amps(l, 12)));
    expect(lawsOf(allOff(boil)).map((l) => amps(l, 12))).toEqual([0, 0]);
  });
});

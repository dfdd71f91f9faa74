import { describe, expect, it } from 'vitest';
import { load, plainCell, seriesOhms, thread } from '../../test/build.ts';
import { simulate } from '../../test/core.ts';
import { courseOf } from './course.ts';

describe('the course of a run-down', () => {
  /** 2 Ah from 3 V to 4 V behind 0.1 Ω at 0.5 A: 3.95 V falling by a quarter of a volt an hour, to 3.25 V. */
  const cell = plainCell(2, 3, 4, 0.1);
  const pack = { protection: seriesOhms(0, 3.25) };

  it('of a steady run is its rows, straight between them, and stands still outside', () => {
    const course = courseOf(simulate(thread({ cell, pack, loads: [load('current', 0.5)] })));
    expect(course.end).toBeCloseTo(2.8 * 3600, 1);
    for (const hours of [0, 0.37, 1.9, 2.79]) {
      expect(course.at(3600 * hours).volts).toBeCloseTo(3.95 - 0.25 * hours, 4);
      expect(course.at(3600 * hours).amps).toBeCloseTo(0.5, 6);
    }
    expect(course.at(-5).volts).toBeCloseTo(3.95, 6);
    expect(course.at(1e6).volts).toBeCloseTo(3.25, 3);
  });

  it('of many cycles is the mean of each, at its middle', () => {
    // Half a minute each of 0.8 A and of 0.2 A: 0.5 A in the mean.
    const segments = [
      { mode: 'a', seconds: 30 },
      { mode: 'b', seconds: 30 },
    ];
    const draws = [
      { mode: 'a', value: 0.8 },
      { mode: 'b', value: 0.2 },
    ];
    const doc = {
      ...thread({ cell, pack, loads: [load('current', 0.5, { draws })] }),
      modes: [
        { id: 'a', name: 'A' },
        { id: 'b', name: 'B' },
      ],
      programme: { after: 'repeat', segments },
    };
    const course = courseOf(simulate(doc as never));
    // By energy over charge: of every ampere-hour four fifths flow at 0.08 V below rest, one at 0.02 V.
    for (const hours of [0.5, 1.3, 2.2]) {
      const { volts, amps } = course.at(3600 * hours);
      expect(volts).toBeCloseTo(4 - 0.25 * hours - (0.8 * 0.08 + 0.2 * 0.02), 3);
      expect(amps).toBeCloseTo(0.5, 3);
    }
  });
});

import { describe, expect, it } from 'vitest';
import { Course } from './course.ts';
import { C1, C2 } from './gauss.ts';

describe('the course of the step before', () => {
  const volts = (t: number) => 12 - 0.3 * t + 0.02 * t * t - 0.001 * t ** 3;
  const amps = (t: number) => 1 + 0.05 * t + 0.004 * t * t;
  /** A course over the first h seconds. */
  const over = (h: number) => {
    const course = new Course();
    course.take(h, volts(0), volts(C1 * h), volts(C2 * h), volts(h));
    course.takeAmps(amps(0), amps(C1 * h), amps(C2 * h), amps(h));
    return course;
  };

  it.each([1, 4, 0.5])('leads %f s on as its cubic does, at both nodes and the end', (h) => {
    const guess = over(2).next(h, amps(2))!;
    expect(guess.amps1).toBeCloseTo(amps(2 + C1 * h), 10);
    expect(guess.amps2).toBeCloseTo(amps(2 + C2 * h), 10);
    expect(guess.volts1).toBeCloseTo(volts(2 + C1 * h), 10);
    expect(guess.volts2).toBeCloseTo(volts(2 + C2 * h), 10);
    expect(guess.end).toBeCloseTo(volts(2 + h), 10);
  });

  it('says nothing of more than six steps on, of a current half as large again, and after it is forgotten', () => {
    expect(over(2).next(12, amps(2))).toBeUndefined();
    expect(over(2).next(11, amps(2))).toBeUndefined();
    expect(over(2).next(2, 2 * amps(2))).toBeDefined();
    expect(over(2).next(2, 2.7 * amps(2))).toBeUndefined();
    expect(over(2).next(2, 0.6 * amps(2))).toBeUndefined();
    // A charge: its currents are negative, and half of them likewise.
    const charging = new Course();
    charging.take(1, 4, 4, 4, 4);
    charging.takeAmps(-1, -1, -1, -1);
    expect(charging.next(1, -1)).toBeDefined();
    expect(charging.next(1, 1)).toBeUndefined();
    const course = over(2);
    expect(course.known).toBe(true);
    course.forget();
    expect(course.known).toBe(false);
    expect(course.next(1, amps(2))).toBeUndefined();
  });
});

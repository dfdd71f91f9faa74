import { describe, expect, it } from 'vitest';
import { PACK_EVENT } from '../march/events.ts';
import { Guard } from './guard.ts';

const { cutoff, trip, short } = PACK_EVENT;
const delays = { cutoff: 1, trip: 0.01, short: 0.0003 };

describe('timers of a protection board', () => {
  it('open when their limit has been passed for as long as they wait, and not before', () => {
    const guard = new Guard({ delays });
    expect(guard.runs).toBe(false);
    expect(guard.due()).toBe(Infinity);
    expect(guard.look(trip, 5)).toBeUndefined();
    expect(guard.runs).toBe(true);
    expect(guard.due()).toBeCloseTo(5.01, 12);
    expect(guard.look(trip, 5.009)).toBeUndefined();
    expect(guard.look(trip, guard.due())).toBe('trip');
  });

  it('start anew when the limit was kept in between', () => {
    const guard = new Guard({ delays });
    guard.look(cutoff, 0);
    expect(guard.look(0, 0.9)).toBeUndefined();
    expect(guard.runs).toBe(false);
    expect(guard.look(cutoff, 0.95)).toBeUndefined();
    expect(guard.due()).toBeCloseTo(1.95, 12);
    expect(guard.look(cutoff, 1.5)).toBeUndefined();
    expect(guard.look(cutoff, 1.95)).toBe('cutoff');
  });

  it('run side by side, the shortest due first; one that is no longer passed does not hold up the others', () => {
    const guard = new Guard({ delays });
    guard.look(cutoff | trip, 10);
    expect(guard.due()).toBeCloseTo(10.01, 12);
    guard.look(cutoff, 10.005);
    expect(guard.due()).toBeCloseTo(11, 12);
    guard.look(cutoff | short, 10.5);
    expect(guard.due()).toBeCloseTo(10.5003, 12);
    expect(guard.look(cutoff | short, 10.5003)).toBe('short');
    guard.reset();
    expect([guard.runs, guard.due()]).toEqual([false, Infinity]);
  });

  it('without a delay open where they are first passed', () => {
    expect(new Guard({ delays: { ...delays, short: 0 } }).look(short, 3)).toBe('short');
  });
});

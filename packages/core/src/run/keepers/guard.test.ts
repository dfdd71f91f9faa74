import { describe, expect, it } from 'vitest';
import type { PackWatch } from '../march/watch.ts';
import { Board, EMPTY, Guard, GUARDS } from './guard.ts';

const passed = (...all: PackWatch[]) => ({ has: (watch: PackWatch) => all.includes(watch) });
const cutoff = passed(GUARDS.cutoff);
const trip = passed(GUARDS.trip);
const short = passed(GUARDS.short);
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
    expect(guard.look(passed(), 0.9)).toBeUndefined();
    expect(guard.runs).toBe(false);
    expect(guard.look(cutoff, 0.95)).toBeUndefined();
    expect(guard.due()).toBeCloseTo(1.95, 12);
    expect(guard.look(cutoff, 1.5)).toBeUndefined();
    expect(guard.look(cutoff, 1.95)).toBe('cutoff');
  });

  it('run side by side, the shortest due first; one that is no longer passed does not hold up the others', () => {
    const guard = new Guard({ delays });
    guard.look(passed(GUARDS.cutoff, GUARDS.trip), 10);
    expect(guard.due()).toBeCloseTo(10.01, 12);
    guard.look(cutoff, 10.005);
    expect(guard.due()).toBeCloseTo(11, 12);
    const both = passed(GUARDS.cutoff, GUARDS.short);
    guard.look(both, 10.5);
    expect(guard.due()).toBeCloseTo(10.5003, 12);
    expect(guard.look(both, 10.5003)).toBe('short');
    guard.reset();
    expect([guard.runs, guard.due()]).toEqual([false, Infinity]);
  });

  it('without a delay open where they are first passed', () => {
    expect(new Guard({ delays: { ...delays, short: 0 } }).look(short, 3)).toBe('short');
  });
});

describe('a board while the cells are filled', () => {
  it('lets its timers go: one that ran as mains came back holds nothing up', () => {
    let is = cutoff;
    const now = { has: (watch: PackWatch) => is.has(watch) };
    const state = { time: 5, amps: 1 };
    const plant = { pack: { delays }, charger: {} };
    const board = new Board(plant as never, state as never, now);
    expect(board.ended()).toBeUndefined();
    expect([board.runs, board.due()]).toEqual([true, 6]);
    state.amps = -1;
    state.time = 5.5;
    expect(board.ended()).toBeUndefined();
    expect([board.runs, board.due()]).toEqual([false, Infinity]);
    // Empty cells that are filled are no end either; that are drawn from they are.
    is = passed(EMPTY);
    expect(board.ended()).toBeUndefined();
    state.amps = 1;
    expect(board.ended()).toBe('empty');
    // Without a charger nothing lets it go.
    const alone = new Board({ pack: { delays } } as never, { time: 9, amps: 0 } as never, cutoff);
    alone.ended();
    expect(alone.runs).toBe(true);
  });
});

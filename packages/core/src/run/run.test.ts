import { describe, expect, it, vi } from 'vitest';
import { load, plainCell, thread } from '../../test/build.ts';
import { drawsOf } from '../loads/draws.ts';
import { statedLaw } from '../loads/current.ts';
import { compile } from '../plant/compile.ts';
import { Ground } from './keepers/ground.ts';
import type { Keeper } from './keepers/keeper.ts';
import type { PackWatch } from './march/watch.ts';
import { Run } from './run.ts';
import { Mains } from './timeline/mains.ts';

/** 1 Ah at 1 A, on a cell of 10 mΩ. */
const doc = thread({ cell: plainCell(1, 3, 4, 0.01), loads: [load('current', 1)] });

function run(made: (ground: Ground) => Keeper[], horizon = 1e6) {
  const ground = new Ground(compile(doc), {});
  const { holds, loads, board } = ground;
  const answers = new Run(ground, {
    keepers: [holds, loads, ...made(ground), board],
    tracks: [],
    horizon,
  }).toEnd();
  return { ...answers.deadEnd, closure: answers.ledgerAtDead.closure };
}

describe('a run with a keeper that is made up', () => {
  it('switches what it says when it says, and nothing else is touched', () => {
    // After half an hour the load takes half: 0.5 Ah are gone, the rest lasts an hour.
    const halves = ({ loads, state }: Ground): Keeper => {
      let done = false;
      return {
        most: 1,
        due: () => (done ? Infinity : 1800),
        react: () => {
          if (done || state.time < 1800 * (1 - 1e-12)) return false;
          done = true;
          loads.begin(drawsOf([statedLaw(doc.loads[0]!, 'current', 0.5)]), true);
          return true;
        },
      };
    };
    const end = run((g) => [halves(g)]);
    expect(end.reason).toBe('empty');
    expect(end.time).toBeCloseTo(1800 + 3600, 3);
    expect(end.closure).toBeLessThan(1e-9);
  });

  it('ends it, and is asked before what stands behind it', () => {
    const ends: Keeper = { due: () => 900, ended: vi.fn(() => undefined) };
    const gone = run(
      ({ state }) => [
        ends,
        { due: () => 900, ended: () => (state.time >= 900 * (1 - 1e-12) ? 'nothingDraws' : undefined) },
      ],
      2000,
    );
    expect([gone.reason, gone.time]).toEqual(['nothingDraws', expect.closeTo(900, 6)]);
    expect(ends.ended).toHaveBeenCalled();
  });

  it('declares what of the pack it watches, and is asked where that begins, not before and not behind', () => {
    // The OCV falls by 1 V over an hour, 10 mV of it in the cells: at 3.4 V 0.59 of the charge are gone.
    const low: PackWatch = { of: () => (pack) => pack.lowest < 3.4 };
    const found = run(({ march }) => [
      { watches: [low], ended: () => (march.before.has(low) ? 'nothingDraws' : undefined) },
    ]);
    expect(found.reason).toBe('nothingDraws');
    expect(found.time).toBeCloseTo(0.59 * 3600, 4);
    // Whatever nobody watches is no event: the same run stops nowhere on the way to its end.
    const stops = (...watches: PackWatch[]) => {
      let asked = 0;
      run(() => [{ watches, ended: () => (asked++, undefined) }]);
      return asked;
    };
    expect(stops(low)).toBe(stops() + 1);
  });

  it('may let go of what the pack cannot carry, and is told when the run is over', () => {
    const close = vi.fn();
    const heavy = thread({
      cell: plainCell(1, 3, 4, 0.5),
      loads: [load('power', 40)],
    });
    const ground = new Ground(compile(heavy), {});
    const letsGo: Keeper = {
      most: 1,
      react: () => false,
      giveWay: () => {
        ground.loads.begin(drawsOf([statedLaw(heavy.loads[0]!, 'power', 1)]), true);
        return 0;
      },
      close,
    };
    const { holds, loads, board } = ground;
    const answers = new Run(ground, {
      keepers: [holds, loads, letsGo, board],
      tracks: [],
      horizon: 600,
    }).toEnd();
    // 40 W are more than 8 W, the most that 4 V give through half an ohm: at 1 W it goes on.
    expect([answers.deadEnd.reason, answers.deadEnd.time]).toEqual(['timeLimit', 600]);
    expect(answers.usefulEnd.time).toBe(0);
    expect(close).toHaveBeenCalledTimes(1);
  });

  it('of a horizon ends there, by no keeper', () => {
    expect(run(() => [], 700)).toMatchObject({ reason: 'timeLimit', time: 700 });
  });
});

describe('mains', () => {
  it('tells those that mind when it comes and goes, once each, and when it changes next', () => {
    const mains = vi.fn();
    const state = { time: 0 };
    const track = new Mains(
      state as never,
      [
        { from: 10, to: 20 },
        { from: 20, to: 30 },
        { from: 50, to: 60 },
      ],
      [{ mains }, {}],
    );
    track.begin();
    expect([track.on, track.next]).toEqual([true, 10]);
    const at = (time: number) => {
      state.time = time;
      return [track.turn(), track.on, track.next];
    };
    expect(at(10)).toEqual(['source', false, 20]);
    // Gone again at once: nothing has changed.
    expect(at(20)).toEqual(['nothing', false, 30]);
    // What a march that ends at an edge misses it by counts as there.
    expect(at(30 - 1e-11)).toEqual(['source', true, 50]);
    expect(at(55)).toEqual(['source', false, 60]);
    expect(at(60)).toEqual(['source', true, Infinity]);
    expect(mains.mock.calls.map(([on]) => on)).toEqual([true, false, true, false, true]);
  });

  it('may be gone from the beginning', () => {
    const track = new Mains({ time: 0 } as never, [{ from: 0, to: 5 }], []);
    track.begin();
    expect([track.on, track.next]).toEqual([false, 5]);
  });
});

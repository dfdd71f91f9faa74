import { describe, expect, it } from 'vitest';
import { load, plainCell, seriesOhms, thread } from '../../../test/build.ts';
import type { Load } from '../../../test/core.ts';
import { compile } from '../../plant/compile.ts';
import { LOAD_COLUMN, loadAt } from '../../plant/layout.ts';
import { Instant } from '../step/instant.ts';
import { LoadKeeper } from './loadKeeper.ts';
import { CellState } from '../step/state.ts';

/** Loads on a pack from 3 V to 4 V, and a keeper of theirs that is looked at where the pack stands. */
function keeper(loads: Load[]) {
  const doc = thread({ cell: plainCell(2, 3, 4, 1e-4), pack: { protection: seriesOhms(1e-4) }, loads });
  const plant = compile(doc);
  const state = new CellState(plant.pack, 1);
  const instant = new Instant(plant);
  const loadsOf = new LoadKeeper(plant, state);
  loadsOf.begin(plant.path.network.draws, true);
  /** [A] of each load once nothing switches any more. */
  const at = (volts: number, time = state.time) => {
    state.soc = volts - 3;
    state.time = time;
    for (let n = 0; n < 10; n++) {
      plant.path.read(instant.solve(state, NaN).volts);
      if (!loadsOf.react()) break;
    }
    return loads.map((_, l) => {
      const from = loadAt(0, l);
      const { columns } = plant.path;
      return Number((columns[from + LOAD_COLUMN.watts]! / columns[from + LOAD_COLUMN.volts]!).toFixed(6));
    });
  };
  return { at, loads: loadsOf, plant };
}

const range = { min: 3.5, max: 5 };
const steady = load('current', 0.2, { id: 'steady' });

describe('what loads do below their range', () => {
  it('one that stops draws nothing until it is switched on again', () => {
    const { at, loads, plant } = keeper([steady, load('current', 0.1, { id: 'l', range, below: 'stops' })]);
    expect(loads.any).toBe(true);
    expect(at(3.6)).toEqual([0.2, 0.1]);
    expect(at(3.4)).toEqual([0.2, 0]);
    expect(at(3.9)).toEqual([0.2, 0]);
    loads.begin(plant.path.network.draws, false);
    expect(at(3.9)).toEqual([0.2, 0]);
    const draws = keeper([steady, load('current', 0.1, { id: 'l', range, below: 'stops' })]).plant.path
      .network.draws;
    loads.begin(draws, true);
    expect(at(3.9)).toEqual([0.2, 0.1]);
  });

  it('one that resets waits for its volts, starts for its time, and gives up the second time of a stretch', () => {
    const restart = { seconds: 5, value: 0.3 };
    const reset = load('current', 0.1, { id: 'l', range, below: 'resets', restart });
    const { at, loads } = keeper([steady, reset]);
    expect(at(3.4, 10)).toEqual([0.2, 0]);
    expect(loads.due()).toBe(Infinity);
    expect(at(3.6, 20)).toEqual([0.2, 0.3]);
    expect(loads.starts).toBe(true);
    expect(loads.due()).toBe(25);
    expect(at(3.6, 24.9)).toEqual([0.2, 0.3]);
    expect(at(3.6, 25)).toEqual([0.2, 0.1]);
    expect([...loads.resets]).toEqual([0, 1]);
    // Once more below, it stays off.
    expect(at(3.4, 30)).toEqual([0.2, 0]);
    expect(at(3.9, 40)).toEqual([0.2, 0]);
    expect([...loads.resets]).toEqual([0, 1]);
  });

  it('a start that falls below again is off until it is switched on', () => {
    const restart = { seconds: 5, value: 0.3 };
    const { at, loads } = keeper([load('current', 0.1, { id: 'l', range, below: 'resets', restart })]);
    at(3.4, 0);
    expect(at(3.6, 1)).toEqual([0.3]);
    expect(at(3.4, 2)).toEqual([0]);
    expect(at(3.9, 9)).toEqual([0]);
    loads.reset();
    loads.weight = 7;
    expect(loads.starts).toBe(false);
  });

  it('one that is shed at a state of charge, or at volts, is off for good; others are not asked', () => {
    const { at } = keeper([
      steady,
      load('current', 0.1, { id: 'a', shed: { soc: 0.5 } }),
      load('current', 0.05, { id: 'b', shed: { volts: 3.3 } }),
    ]);
    expect(at(3.6)).toEqual([0.2, 0.1, 0.05]);
    expect(at(3.45)).toEqual([0.2, 0, 0.05]);
    expect(at(3.25)).toEqual([0.2, 0, 0]);
    expect(at(3.9)).toEqual([0.2, 0, 0]);
    expect(keeper([steady]).loads.any).toBe(false);
  });

  it('where the pack cannot carry all, the one of those that give way that draws most does', () => {
    const { at, loads, plant } = keeper([
      load('current', 0.9, { id: 'stays' }),
      load('current', 0.3, { id: 'a', range, below: 'stops' }),
      load('current', 0.4, { id: 'b', range, below: 'stops' }),
    ]);
    at(3.9);
    expect(loads.giveWay()).toBe(2);
    at(3.9);
    expect(loads.giveWay()).toBe(1);
    at(3.9);
    expect(loads.giveWay()).toBeUndefined();
    expect(plant.path.network.isOff(0)).toBe(false);
    expect(loads.isOff(1)).toBe(false);
  });
});

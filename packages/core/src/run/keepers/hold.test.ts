import { describe, expect, it, vi } from 'vitest';
import { load, plainCell, seriesOhms, thread } from '../../../test/build.ts';
import { defaultBoost, defaultLinear, type ThreadDocument } from '../../../test/core.ts';
import { compile } from '../../plant/compile.ts';
import { HELD } from '../../plant/network.ts';
import { HoldKeeper } from './hold.ts';
import { Instant } from '../step/instant.ts';
import { CellState } from '../step/state.ts';

const counts = () => ({ work: 0, steps: 0, jumps: 0, none: 0, unconverged: 0 }) as never;

/** A keeper over a pack from 3 V to 4 V without resistance worth a word. */
function keeper(doc: ThreadDocument) {
  const plant = compile(doc);
  const state = new CellState(plant.pack, 1);
  const instant = new Instant(plant);
  const holds = new HoldKeeper(plant, state, instant, counts());
  /** [V] the pack rests at; what is held then. */
  const at = (volts: number) => {
    state.soc = volts - 3;
    instant.prepare(state.soc, state.slow);
    // As a run does: until nothing switches.
    const solve = () => plant.path.read(instant.solve(state, NaN).volts);
    solve();
    for (let turn = holds.most; turn > 0 && holds.react(); turn--) solve();
    return Array.from(plant.path.network.held);
  };
  return { at, holds, plant, state, instant };
}

const one = (stage: object, more: Partial<Parameters<typeof thread>[0]> = {}) =>
  thread({
    cell: plainCell(2, 3, 4, 1e-4),
    pack: { protection: seriesOhms(1e-4) },
    stages: [
      {
        ...defaultLinear('s', 'pack', 2),
        minInput: 3.4,
        hysteresis: 0.3,
        outputLimit: 2,
        thermalResistance: 1,
        ...stage,
      },
    ] as never,
    loads: [load('current', 0.1, { from: 's', range: { min: 0.5, max: 5 } })],
    ...more,
  });

describe('the lock-out of a stage', () => {
  it('goes off below its least input and comes on only past its hysteresis', () => {
    const { at } = keeper(one({}));
    expect(at(3.9)).toEqual([HELD.on]);
    expect(at(3.41)).toEqual([HELD.on]);
    expect(at(3.39)).toEqual([HELD.lockedOut]);
    expect(at(3.5)).toEqual([HELD.lockedOut]);
    expect(at(3.69)).toEqual([HELD.lockedOut]);
    expect(at(3.72)).toEqual([HELD.on]);
    expect(at(3.5)).toEqual([HELD.on]);
  });

  it('above its most input it is held for good', () => {
    const { at } = keeper(one({ maxInput: 3.8 }));
    expect(at(3.9)).toEqual([HELD.overInput]);
    expect(at(3.6)).toEqual([HELD.overInput]);
  });

  it('a start that its own load pulls down again is told, and not tried again at the same volts', () => {
    const heavy = one(
      { hysteresis: 0.05 },
      {
        pack: { protection: seriesOhms(0.4) },
        loads: [load('current', 1, { from: 's', range: { min: 0.5, max: 5 } })],
      },
    );
    const { at, holds, instant } = keeper(heavy);
    // 1 A takes 0.4 V: started at 3.6 V it stands at 3.2 V.
    expect(at(3.2)).toEqual([HELD.lockedOut]);
    expect(at(3.6)).toEqual([HELD.lockedOut]);
    expect([...holds.cycling]).toEqual([0]);
    expect(holds.wouldSwitch()).toBe(false);
    const solved = vi.spyOn(instant, 'solve');
    expect(at(3.6)).toEqual([HELD.lockedOut]);
    expect(solved).toHaveBeenCalledTimes(1);
    // At 3.9 V it stays up.
    expect(at(3.9)).toEqual([HELD.on]);
    holds.mains();
    expect(at(3.5)).toEqual([HELD.lockedOut]);
  });

  it('a stage behind another goes with it, and says that it would switch before it does', () => {
    const doc = thread({
      cell: plainCell(2, 3, 4, 1e-4),
      pack: { protection: seriesOhms(1e-4) },
      stages: [
        { ...defaultLinear('a', 'pack', 2.8), minInput: 3.3, hysteresis: 0.2 },
        { ...defaultLinear('b', 'a', 1.8), minInput: 2.5, hysteresis: 0.1 },
      ],
      loads: [load('current', 0.05, { from: 'b', range: { min: 0.5, max: 5 } })],
    });
    const { at, holds, state, instant, plant } = keeper(doc);
    expect(at(3.6)).toEqual([HELD.on, HELD.on]);
    state.soc = 0.25;
    plant.path.read(instant.solve(state, NaN).volts);
    expect(holds.wouldSwitch()).toBe(true);
    expect(at(3.25)[0]).toBe(HELD.lockedOut);
    expect(holds.wouldSwitch()).toBe(false);
  });

  it('a rail that cannot be carried even by a stiff supply is held before anything is searched', () => {
    const doc = one(
      { ...defaultBoost('s', 'pack', 12), minInput: 2.5, maxInput: 10, maxDuty: 0.5, hysteresis: 0.1 },
      { loads: [load('power', 400, { from: 's', range: { min: 1, max: 14 } })] },
    );
    const { holds, plant, instant, state } = keeper(doc);
    instant.prepare(state.soc, state.slow);
    holds.prepare();
    expect(Array.from(plant.path.network.held)).toEqual([HELD.collapsed]);
    expect(holds.abandoned.size).toBe(0);
  });

  it('of a chain the last first: what feeds a rail that cannot be carried is not held with it', () => {
    const boost = { ...{ minInput: 2.5, maxInput: 20, maxDuty: 0.5, hysteresis: 0.1 } };
    const doc = thread({
      cell: plainCell(2, 3, 4, 1e-4),
      pack: { protection: seriesOhms(1e-4) },
      stages: [
        { ...defaultBoost('a', 'pack', 5), ...boost },
        { ...defaultBoost('b', 'a', 12), ...boost },
      ],
      loads: [
        load('power', 400, { from: 'b', range: { min: 1, max: 14 } }),
        load('power', 0.5, { id: 'fine', from: 'a', range: { min: 1, max: 14 } }),
      ],
    });
    const { holds, plant, instant, state } = keeper(doc);
    instant.prepare(state.soc, state.slow);
    holds.prepare();
    expect(Array.from(plant.path.network.held)).toEqual([HELD.on, HELD.collapsed]);
  });
});

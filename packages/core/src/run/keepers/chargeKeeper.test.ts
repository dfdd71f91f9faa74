import { describe, expect, it } from 'vitest';
import { load, plainCell, thread } from '../../../test/build.ts';
import { charge, defaultLinear, outage, Reading, type Charging } from '../../../test/core.ts';
import { compileCharging } from '../../plant/compileCharging.ts';
import { ChargeKeeper } from './chargeKeeper.ts';
import { CellState } from '../step/state.ts';

/** Two in series of 1 Ah, 3 V to 4.2 V straight, 0.1 Ω, by a linear charger of 1 A at 8.2 V. */
const cell = { ...plainCell(1, 3, 4.2, 0.1), fullVolts: 4.3 };
const control = {
  current: 1,
  sense: 'output' as const,
  terminate: 0.1,
  deglitch: 20,
  precharge: { below: 3.3, current: 0.1, timer: 2 },
};
function doc(more: Partial<Charging['control'] & object> = {}, from = 0.1) {
  const charging: Charging = {
    source: { kind: 'supply', name: 'S', volts: 9, droop: 0, limit: 3, beyond: 'hard', grade: 'assumed' },
    stage: {
      ...defaultLinear('c', 'source', 8.2),
      ...{ dropoutVolts: 0.1, dropoutResistance: 0.01, outputLimit: 3, maxInput: 30, thermalResistance: 0.1 },
    },
    control: { ...control, ...more },
    meanwhile: 'off',
    from,
  };
  return {
    ...thread({ cell, pack: { series: 2, startSoc: from }, loads: [load('current', 0.01)] }),
    charging,
  };
}

describe('a charge from empty to full', () => {
  it('is gentle up to its threshold for a cell, by the volts with its current flowing', () => {
    const result = charge(doc());
    const [gentle, fast] = result.phases;
    expect(gentle!.limit).toBe('precharge');
    // 3.3 V less 0.1 A·0.1 Ω is 24.17 % of the charge: from 10 % at 0.1 A.
    const soc = (3.3 - 0.01 - 3) / 1.2;
    expect(gentle!.toSoc).toBeCloseTo(soc, 5);
    expect(gentle!.to / 3600).toBeCloseTo((soc - 0.1) / 0.1, 3);
    expect(fast!.limit).toBe('current');
    // Then 1 A until the cells are at 4.1 V: at 4.0 V of rest.
    expect(fast!.toSoc).toBeCloseTo(1 / 1.2, 4);
    expect((fast!.to - fast!.from) / 3600).toBeCloseTo(1 / 1.2 - soc, 3);
  });

  it('ends once its current has stayed below the limit for as long as it waits', () => {
    const result = charge(doc());
    expect(result.end.reason).toBe('terminated');
    // At 0.1 A the cells rest at 4.09 V; from there on it falls by a factor e in R·Q over the slope: 300 s.
    const tau = (0.1 * 3600) / 1.2;
    const held = result.phases.at(-1)!;
    expect(held.limit).toBe('volts');
    expect((held.to - held.from - 20) / (tau * Math.log(10))).toBeCloseTo(1, 2);
    expect(charge(doc({ deglitch: 0 })).end.time).toBeCloseTo(result.end.time - 20, 1);
    expect(result.ledger.closure).toBeLessThan(1e-6);
  });

  it('gives up by its timers: of the gentle current, and of the whole', () => {
    const gentle = charge(doc({ precharge: { below: 3.9, current: 0.1, timer: 0.5 } }));
    expect(gentle.end.reason).toBe('prechargeTimer');
    expect(gentle.end.time).toBeCloseTo(1800, 3);
    const whole = charge(doc({ timer: 1.7 }));
    expect(whole.end.reason).toBe('timer');
    expect(whole.end.time).toBeCloseTo(1.7 * 3600, 3);
  });

  it('without a gentle current begins at the whole one', () => {
    expect(charge(doc({ precharge: undefined })).phases[0]!.limit).toBe('current');
  });
});

describe('a keeper by itself', () => {
  const made = (stays: boolean) => {
    const plant = compileCharging(doc({ recharge: 3.95, timer: 3 }));
    const state = new CellState(plant.pack, 0.1);
    return { keeper: new ChargeKeeper(plant, state, stays), state, plant };
  };

  it('is due by its timers from when mains came; one that stays has none for the whole', () => {
    const { keeper, state } = made(false);
    expect(keeper.phase).toBe('precharge');
    expect(keeper.due()).toBe(2 * 3600);
    state.time = 500;
    keeper.mains(false);
    expect([keeper.phase, keeper.due()]).toEqual(['noMains', Infinity]);
    expect(keeper.react()).toBe(false);
    state.time = 900;
    keeper.mains(true);
    expect([keeper.phase, keeper.due()]).toEqual(['precharge', 900 + 2 * 3600]);
    expect(made(true).keeper.due()).toBe(2 * 3600);
  });

  it('its timer counts from when mains came back, not from the beginning', () => {
    const back = outage(doc({}, 0.1), [{ from: 0.1 * 3600, to: 5 * 3600 }], 9 * 3600, { startSoc: 0.1 });
    const rows = new Reading(back.series);
    // Four hours on it has done what an uninterrupted charge has in that time.
    expect(rows.at(rows.rowAt(9 * 3600), 'soc')).toBeGreaterThan(0.85);
  });

  it('without mains tells the charger that nothing comes', () => {
    const { keeper, plant } = made(true);
    keeper.mains(false);
    expect(plant.charger!.setting).toEqual({ on: false, amps: 0, mains: false });
    keeper.mains(true);
    expect(plant.charger!.setting).toEqual({ on: true, amps: 0.1 });
    expect(plant.charger!.watched.ready).toBeCloseTo(6.6, 12);
  });

  it('kept on mains begins anew below its volts a cell, for two in series at twice that', () => {
    // Cells that lose a third a month by themselves: from 4.1 V to 3.95 V in some two weeks, and again.
    const leaky = doc({ recharge: 3.95 }, 0.9);
    leaky.pack = { ...leaky.pack, cell: { ...cell, selfDischargePerMonth: 0.33 } };
    leaky.loads = [];
    const rows = new Reading(outage(leaky, [], 900 * 3600, {}, { rows: 4000 }).series);
    const volts = Array.from({ length: rows.count }, (_, r) => rows.at(r, 'packVolts'));
    const lowest = volts.reduce((low, v, k) => (v < volts[low]! && rows.at(k, 'time') > 3600 ? k : low), 5);
    expect(volts[lowest]!).toBeCloseTo(2 * 3.95, 2);
    expect(Math.max(...volts.slice(lowest))).toBeGreaterThan(8.15);
  });
});

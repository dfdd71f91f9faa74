import { describe, expect, it } from 'vitest';
import {
  applyEdits,
  backupOf,
  CELL_LIBRARY,
  charge,
  defaultBuck,
  defaultLinear,
  demoThreads,
  finish,
  outage,
  simulate,
  yearsOf,
  type Charging,
  type ThreadDocument,
} from './core.ts';
import { load, plainCell, seriesOhms, thread } from './build.ts';
import { ChargerLaw } from '../src/charging/law.ts';
import { asBought, beginsAnew, setVolts, stopVolts, varianceShares } from '../src/charging/volts.ts';
import { compare } from '../src/bench/compare.ts';
import { Allowance } from '../src/numeric/allowance.ts';
import { LOOK } from '../src/plant/cellTable.ts';
import { compile } from '../src/plant/compile.ts';
import { compileCharging } from '../src/plant/compileCharging.ts';
import { EFFORT } from '../src/plant/effort.ts';
import { Reading } from '../src/run/reading/reading.ts';
import { restInTheDark } from '../src/run/dark.ts';
import { LedgerSum } from '../src/run/account/ledger.ts';
import { CellState, fullerAt, lookAt } from '../src/run/step/state.ts';
import { dipChance } from '../src/backup/years.ts';
import { handOver } from '../src/transients/transfer.ts';

/**
 * What demos and fixtures leave alike: more than one in series, set volts that are not the divider's own, a pack that is not full,
 * several that could end a run. Each by hand.
 */
const HOUR = 3600;
const cell = plainCell(2, 3, 4.2, 0.03);

/** Two in series on a linear charger of 8.4 V, its source a volt above. */
function twoInSeries(more: Partial<Charging> = {}, pack: Partial<ThreadDocument['pack']> = {}) {
  const charging: Charging = {
    source: { kind: 'supply', name: 'S', volts: 9.4, droop: 0, limit: 5, beyond: 'hard', grade: 'assumed' },
    stage: { ...defaultLinear('c', 'source', 8.4), outputLimit: 5, maxInput: 30, dropoutVolts: 0.1 },
    control: { current: 1, sense: 'output', terminate: 0.1, recharge: 4.05 },
    meanwhile: 'battery',
    from: 0.5,
    ...more,
  };
  const doc = thread({
    cell: { ...cell, endVolts: 3.01 },
    pack: { series: 2, protection: seriesOhms(0.02, 2.5), startSoc: 0.5, ...pack },
    loads: [load('current', 0.05, { range: { min: 5, max: 9 } })],
  });
  return { ...doc, charging };
}

describe('a charger of a pack of two', () => {
  it('begins anew by volts of a cell, times those in series; above what it charges to by the usual, and says so', () => {
    const { charging } = twoInSeries();
    expect(beginsAnew(charging, 2)).toEqual({ volts: 4.05, told: false });
    expect(beginsAnew({ ...charging, control: { ...charging.control!, recharge: 4.2 } }, 2)).toMatchObject({
      told: true,
    });
    expect(
      beginsAnew({ ...charging, control: { ...charging.control!, recharge: 4.3 } }, 2)!.volts,
    ).toBeCloseTo(4.1, 9);
    expect(beginsAnew(charging, 3)).toMatchObject({ told: true });
    const { recharge, ...rest } = charging.control!;
    void recharge;
    expect(beginsAnew({ ...charging, control: rest }, 2)).toBeUndefined();
  });

  it('weeks on mains: it stands between what it charges to and where it begins anew', () => {
    const rows = new Reading(outage(twoInSeries(), [], 400 * HOUR, {}, { rows: 400 }).series);
    const full = Array.from({ length: rows.count }, (_, r) => r).filter(
      (r) => rows.at(r, 'time') > 20 * HOUR,
    );
    const volts = full.map((r) => rows.at(r, 'cellVolts'));
    // The load's own sag beside it: 30 mΩ a cell and 50 mA.
    expect(Math.min(...volts)).toBeGreaterThan(4.05 - 0.005);
    expect(Math.min(...volts)).toBeLessThan(4.05 + 0.01);
    expect(Math.max(...volts)).toBeCloseTo(4.2, 2);
  });

  it('is set by its divider whatever was asked of it, and trimmed to what it is set to', () => {
    const divider = {
      reference: 1.25,
      referenceTolerance: 0.01,
      top: 56_000,
      bottom: 10_000,
      resistorTolerance: 0.01,
    };
    const { charging } = twoInSeries();
    const stage = { ...charging.stage, outputVolts: 8.4 };
    const set = { ...charging, stage, control: { ...charging.control!, divider } } as Charging;
    // By hand: 1.25·(1 + 5.6) = 8.25; corners 1.2375·(1 + 5.544/1.01) and 1.2625·(1 + 5.656/0.99).
    const stop = asBought(set)!;
    expect(stop.set).toBeCloseTo(8.25, 9);
    expect(new ChargerLaw(set, 25).set).toBe(setVolts(set));
    expect(stop.least).toBeCloseTo(1.2375 * (1 + (56 * 0.99) / (10 * 1.01)), 9);
    expect(stop.most).toBeCloseTo(1.2625 * (1 + (56 * 1.01) / (10 * 0.99)), 9);
    expect(stop.likelyMost - stop.set).toBeCloseTo(
      8.25 * Math.hypot(0.01, (5.6 / 6.6) * 0.01 * Math.SQRT2),
      4,
    );
    const trimmed = {
      ...set,
      control: { ...set.control!, trimmed: { meter: 0.005, drift: 0.002 } },
    } as Charging;
    expect(stopVolts(trimmed)).toMatchObject({ set: 8.4, from: 'trimmed' });
    expect(stopVolts(trimmed)!.most).toBeCloseTo(8.4 * 1.007, 9);
    expect(stopVolts(trimmed)!.likelyMost).toBeCloseTo(8.4 * (1 + Math.hypot(0.005, 0.002)), 9);
    // Shares of the variance: the reference by the whole ratio, each resistor by what stands above the reference.
    const { shares, deviation } = varianceShares(divider);
    expect(deviation).toBeCloseTo(Math.sqrt((0.0825 ** 2 + 2 * 0.07 ** 2) / 3), 6);
    expect(shares[0]).toBeCloseTo(0.0825 ** 2 / (0.0825 ** 2 + 2 * 0.07 ** 2), 6);
  });

  it('from where its record is full it stops as full, both cells of it', () => {
    const { end } = charge(twoInSeries({ meanwhile: 'off' }));
    expect(end.reason).toBe('terminated');
    // Held behind the board: 20 mΩ of two.
    expect(end.cellVolts).toBeCloseTo(4.2 - 0.1 * 0.01, 4);
    // At a tenth of an ampere behind 30 mΩ and half of 20: 4 mV below.
    expect(end.restVolts).toBeCloseTo(4.2 - 0.1 * (0.03 + 0.01), 4);
  });
});

describe('an outage of a pack that is not full', () => {
  it('how long until the charge is back is counted from the end of the outage, against what it began with', () => {
    const doc = { ...twoInSeries(), backup: { span: 30, outages: [{ from: 10, hours: 4 }] } };
    const { rows, result } = backupOf(doc);
    const reading = new Reading(result.series);
    const [row] = rows;
    const socAt = (time: number) => reading.at(reading.rowAt(time), 'soc');
    // 50 mA for four hours are a tenth of 2 Ah; back, but for the half per cent that counts as none, at 1 A less the load's.
    const least = ((0.1 - 0.005) * 2) / 0.95;
    expect(row!.recharge! / HOUR).toBeGreaterThan(least - 0.01);
    expect(row!.recharge! / HOUR).toBeLessThan(least + 0.8);
    expect(socAt(row!.to + row!.recharge!)).toBeGreaterThan(row!.left + 0.1 - 0.006);
    expect(socAt(row!.to + 0.8 * (least - 0.01) * HOUR)).toBeLessThan(row!.left + 0.1 - 0.005);
    expect(row!.gap).toBe(16 * HOUR);
  });

  it('random years hold what recurs as well', () => {
    const doc: ThreadDocument = {
      ...twoInSeries(),
      backup: {
        span: 24,
        outages: [],
        chance: { perYear: 0.01, half: 1, sixth: 2 },
        recurring: { from: 5, hours: 0.5, every: 24 * 30 },
      },
    };
    const [year] = finish(yearsOf(doc, 3, 4, 0));
    // 8,766 h of a year, the first at 5 h, each 720 h after.
    expect(year!.outages).toBe(Math.ceil((8766 - 5) / 720));
    expect(year!.longest).toBeCloseTo(0.5 * HOUR, 6);
  });

  it('chance of a dip: the time in which as much is asked for as lets it fall too low', () => {
    const task = { rail: 12, farads: 2e-3, esr: 0.05, watts: 0, seconds: 1e-3, backup: 11.5, ohms: 0.05 };
    const asked = [
      { watts: 40, share: 0.1 },
      { watts: 5, share: 0.5 },
      { watts: 30, share: 0.15 },
      { watts: 60, share: 0 },
      { watts: 20, share: 0.25 },
    ];
    for (const wanted of [9, 10, 11, 11.3, 11.9]) {
      const one = (watts: number) => {
        const { lowest, settles } = handOver({ ...task, watts });
        return Math.min(lowest, settles) < wanted;
      };
      const sum = asked.reduce((s, a) => s + (one(a.watts) ? a.share : 0), 0);
      expect(dipChance({ task, wanted, asked }), String(wanted)).toBeCloseTo(sum, 12);
    }
  });
});

describe('several that could end a run', () => {
  it('the first essential load to leave its range does, by its own rail; one that is not essential does not', () => {
    const doc = thread({
      cell: plainCell(1, 3, 4.2, 0.01),
      pack: { series: 2, startSoc: 0.9 },
      stages: [{ ...defaultBuck('low', 'pack', 6.6), minInput: 2, hysteresis: 0.1 }],
      loads: [
        load('current', 0.1, { id: 'idle', range: { min: 7.5, max: 9 }, essential: false }),
        load('current', 0.2, { id: 'late', range: { min: 6.8, max: 9 } }),
        load('current', 0.1, { id: 'first', range: { min: 7, max: 9 } }),
        load('current', 0.1, { id: 'rail', from: 'low', range: { min: 6.2, max: 7 } }),
      ],
    });
    const { usefulEnd } = simulate(doc);
    expect(usefulEnd.load).toMatchObject({ id: 'first', side: 'low' });
    expect(usefulEnd.load!.volts).toBeCloseTo(7, 5);
    expect(usefulEnd.stage).toBeUndefined();
    const without = applyEdits(doc, [{ op: 'remove', path: ['loads', 'first'] }]);
    expect(simulate(without).usefulEnd.load).toMatchObject({ id: 'late' });
    const rail = applyEdits(without, [{ op: 'remove', path: ['loads', 'late'] }]);
    expect(simulate(rail).usefulEnd).toMatchObject({ load: { id: 'rail' }, stage: { id: 'low' } });
    // Of two that leave at one instant the one stated first.
    const both = applyEdits(doc, [{ op: 'replace', path: ['loads', 'late', 'range', 'min'], value: 7 }]);
    expect(simulate(both).usefulEnd.load).toMatchObject({ id: 'late' });
  });
});

describe('readings of one thing', () => {
  const step = {
    id: 's',
    part: 'load' as const,
    title: '',
    how: '',
    probes: [] as const,
    instrument: 'amps' as const,
    unit: 'A' as const,
    settles: '',
    predicted: { value: 1, p10: 1, p90: 1 },
  };
  it('several count by their mean, which is known better than each: by the root of their number', () => {
    const of = (values: number[]) =>
      compare(
        step,
        values.map((value) => ({ step: 's', value, accuracy: 0.02 })),
      );
    expect(of([1.02]).off).toBeCloseTo(0.02 / (0.02 * 1.02), 9);
    const four = of([1.01, 1.03, 1.02, 1.02]);
    expect(four.value).toBeCloseTo(1.02, 12);
    const error = Math.hypot(...[1.01, 1.03, 1.02, 1.02].map((v) => 0.02 * v)) / 4;
    expect(four.off).toBeCloseTo(0.02 / error, 9);
  });
});

describe('cells that rest in the dark', () => {
  const odd = { count: 1, capacity: 0.6, resistance: 2, startSoc: 0.2 };
  const warmth = { heatCapacity: 50, resistance: 5, start: 40, grade: 'assumed' as const };
  const doc = () =>
    twoInSeries({}, {
      parallel: 2,
      startSoc: 0.4,
      odd,
      warmth,
      cell: CELL_LIBRARY['18650-energy']!,
    } as never);

  it('unlike ones come level, all come to the air, branches fall back: by their own times', () => {
    const plant = compileCharging(doc(), { air: 10 });
    const state = new CellState(plant.pack, 0.35);
    const { branches } = plant.pack.cell;
    state.slow.fill(0.02, 0, branches);
    const tau = plant.pack.warmth!.tau;
    const ledger = new LedgerSum(plant, state);
    const before = state.slow[fullerAt(plant.pack)]!;
    const stood = state.slow.slice();
    restInTheDark(plant, state, ledger, tau);
    expect(state.time).toBeCloseTo(tau, 9);
    // 30 K above the air, one time constant later a factor e less.
    expect(state.slow[branches]).toBeCloseTo(30 / Math.E, 6);
    expect(Math.abs(state.slow[fullerAt(plant.pack)]!)).toBeLessThan(Math.abs(before));
    restInTheDark(plant, state, ledger, 1000 * HOUR);
    for (let k = 0; k < branches; k++) expect(Math.abs(state.slow[k]!)).toBeLessThan(1e-9);
    // Level: both rest at one volts.
    const { oddSoc, othersSoc } = plant.pack.sharing!.at(state.soc, state.slow[fullerAt(plant.pack)]!, 0);
    expect(oddSoc).toBeCloseTo(othersSoc, 3);
    const { closure, entries } = ledger.close();
    expect(closure).toBeLessThan(1e-6);
    expect(entries.find((e) => e.mechanism === 'between cells')!.joules).toBeGreaterThan(0);
    // What a branch held is heat of it: half of C·v², of every cell.
    const looked = plant.pack.cell.room();
    lookAt(plant.pack, 0.35, stood, looked);
    const fast = entries.find((e) => e.mechanism === 'fast branch')!.joules;
    expect(fast / (2 * 2 * 0.5 * looked[LOOK.branches + branches]! * 0.02 ** 2)).toBeCloseTo(1, 2);
  });

  it('in parts or at once comes to the same', () => {
    const ends = [1, 5].map((parts) => {
      const plant = compileCharging(doc(), { air: 10 });
      const state = new CellState(plant.pack, 0.35);
      const ledger = new LedgerSum(plant, state);
      for (let n = 0; n < parts; n++) restInTheDark(plant, state, ledger, HOUR / parts);
      return state.slow[fullerAt(plant.pack)]!;
    });
    expect(ends[1]! / ends[0]!).toBeCloseTo(1, 2);
  });
});

describe('what may be spent', () => {
  it('a run takes what is left of what several share, and says what it took', () => {
    const doc = demoThreads()[1]!;
    const alone = simulate(doc).counts.work;
    const allowance = new Allowance(2.5 * alone);
    const runs = [1, 2, 3].map(() => simulate(doc, { allowance }));
    expect(runs.map((r) => r.deadEnd.reason === 'unfinished')).toEqual([false, false, true]);
    expect(allowance.spent).toBe(true);
    expect(runs[2]!.counts.work).toBeLessThan(0.6 * alone);
    expect(new Allowance(10).most(4)).toBe(4);
    expect(new Allowance(10).holds(3)).toBe(3);
    expect(alone).toBeLessThan(EFFORT / 2);
  });

  it('steps count as well as demands: a run of many steps and few demands ends', () => {
    // A load on the pack itself: hardly anything is asked, some dozens of steps are taken.
    const plain = thread({ loads: [load('current', 1)] });
    const { counts } = simulate(plain);
    expect(counts.work).toBeGreaterThan(counts.steps);
    expect(simulate(plain, { effort: counts.steps / 2 }).deadEnd.reason).toBe('unfinished');
    const plant = compile(demoThreads()[3]!);
    const few = simulate(demoThreads()[3]!, { effort: 5000 });
    expect(few.deadEnd.reason).toBe('unfinished');
    expect(few.counts.steps).toBeGreaterThan(100);
    expect(plant.path.network.effort.allowed).toBe(EFFORT);
  });
});

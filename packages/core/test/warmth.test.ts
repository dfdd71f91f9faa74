import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { typicalTemperature, typicalWarmth } from '../src/cells/temperature.ts';
import type { CellTemperature } from '../src/model/temperature.ts';
import { readingOf } from '../src/run/reading/reading.ts';
import {
  CELL_LIBRARY,
  decodeThread,
  defaultLinear,
  ROW,
  simulate,
  type Load,
  type ThreadDocument,
} from './core.ts';
import { anyThread } from './arbitrary.ts';
import { load, plainCell, quasiStatic, seriesOhms, thread } from './build.ts';
import { cases, input, meets, type Case } from './cases.ts';
import { nanIn } from './extreme.ts';
import { cellOf } from './schedules.ts';

const WH = 3600;

/** Factors of a case: a table, a formula with its activation energy, or none. */
function temperatureOf(c: Case): CellTemperature {
  const table = (name: string) => {
    const { value } = c.inputs[name] as unknown as { value: [number, number][] | number };
    if (!Array.isArray(value)) return undefined;
    return { celsius: value.map(([t]) => t), factors: value.map(([, f]) => f) };
  };
  const law = c.inputs.resistance_factor;
  const activation = typeof law === 'string' ? Number(/Ea = (\d+)/.exec(law)![1]) : undefined;
  const capacity = table('capacity_factor');
  return {
    grade: 'assumed',
    ...(activation !== undefined ? { activation } : { resistance: table('resistance_factor')! }),
    ...(capacity ? { capacity } : {}),
  };
}

function loadOf(c: Case): Load {
  const { value, unit } = c.inputs.load as unknown as { value: number; unit: string };
  const draw = unit.startsWith('A') ? 'current' : unit.startsWith('W') ? 'power' : 'resistance';
  return load(draw, value, { range: { min: input(c, 'cut_off'), max: 1000 } });
}

/** A case as a thread. @param warms whether its cells do, or stay as the air is */
function coldThread(c: Case, warms = true): ThreadDocument {
  const air = input(c, 'ambient');
  const doc = thread({
    cell: { ...quasiStatic(cellOf(c)), temperature: temperatureOf(c) },
    pack: {
      series: input(c, 'series_cells'),
      parallel: input(c, 'parallel_cells'),
      protection: seriesOhms(input(c, 'series_resistance_Rext'), 0.5),
      startSoc: input(c, 'soc_start'),
      ...(warms
        ? {
            warmth: {
              heatCapacity: input(c, 'heat_capacity'),
              resistance: input(c, 'thermal_resistance'),
              start: input(c, 'start_temperature'),
              grade: 'assumed',
            },
          }
        : {}),
    },
    loads: [loadOf(c)],
  });
  return { ...doc, conditions: { minAir: air, air, maxAir: air } };
}

describe('cold and warmth, against adaptive integration elsewhere', () => {
  for (const c of cases('H2_thermal')) {
    it(`${c.id}: ${c.description}`, () => {
      const run = simulate(coldThread(c), { rows: 1000 });
      const { ledger, warmth } = run;
      const sum = (element: string) =>
        ledger.entries.filter((e) => e.element === element).reduce((s, e) => s + e.joules, 0) / WH;
      const { pack } = coldThread(c);
      const reading = readingOf(run);
      const volts = reading.column(ROW.packVolts);
      const end = volts.findIndex((_, k) => reading.time(k) >= run.usefulEnd.time * (1 - 1e-9));
      const highest = volts.slice(1, end).reduce((best, v, k) => (v > volts[best]! ? k + 1 : best), 1);
      const still = simulate(coldThread(c, false));
      // The charge that flows out, whatever the cell then holds: by what the load and the resistance in series had.
      let charge = 0;
      for (let k = 1; k <= end; k++) {
        const amps = (at: number) => reading.at(at, ROW.packAmps);
        charge += ((amps(k) + amps(k - 1)) / 2) * (reading.time(k) - reading.time(k - 1));
      }
      meets(c, {
        end_reason: run.usefulEnd.load ? 'cutoff' : 'other',
        runtime: run.usefulEnd.time / 3600,
        soc_end: run.socAtUseful,
        charge: charge / 3600,
        energy_at_terminals: sum('load'),
        heat_in_cells: sum('cells'),
        temperature_end: warmth!.end,
        temperature_peak: warmth!.most.celsius,
        voltage_first_instant: volts[0],
        heat_in_Rext: sum('protection'),
        runtime_without_self_heating: still.usefulEnd.time / 3600,
        end_reason_without_self_heating: still.usefulEnd.load ? 'cutoff' : 'other',
        voltage_highest_after_start: volts[highest],
        highest_after_start_at: reading.time(highest),
      });
      expect(pack.warmth).toBeDefined();
      expect(ledger.closure).toBeLessThan(1e-6);
      expect(run.ledgerAtDead.closure).toBeLessThan(1e-6);
    });
  }
});

it('a programme of thousands of cycles in the cold ends as cycle by cycle, its account closed', () => {
  const c = cases('H2_thermal').find(({ id }) => id === 'H2-DIP-1')!;
  const cold = coldThread(c);
  const modes = ['rest', 'work'].map((id) => ({ id, name: id }));
  const draws = modes.map(({ id }) => ({ mode: id, value: id === 'work' ? 4 : 0.05 }));
  const doc: ThreadDocument = {
    ...cold,
    loads: cold.loads.map((l) => ({ ...l, draws })),
    modes,
    programme: {
      segments: [
        { mode: 'work', seconds: 2 },
        { mode: 'rest', seconds: 6 },
      ],
      after: 'repeat',
    },
  };
  const run = simulate(doc);
  const every = simulate(doc, { everyCycle: true });
  expect(run.counts.skipped).toBeGreaterThan(500);
  expect(Math.abs(run.usefulEnd.time / every.usefulEnd.time - 1)).toBeLessThan(2e-4);
  expect(Math.abs(run.warmth!.end - every.warmth!.end)).toBeLessThan(0.05);
  for (const { ledger } of [run, every]) expect(ledger.closure).toBeLessThan(1e-6);
});

it('in a closed box the cells come to stand above the air by what they and their stages lose', () => {
  // 10 V behind 0.1 Ω for long; a linear stage makes 5 V of it at 0.5 A: 2.5 W of heat in the box but for its cells' own.
  const doc: ThreadDocument = {
    ...thread({
      cell: plainCell(100, 9.99, 10.01, 0.1),
      pack: { warmth: { heatCapacity: 40, resistance: 3, grade: 'assumed' } },
      stages: [{ ...defaultLinear('reg', 'pack', 5), quiescentCurrent: 0, thermalResistance: 1 }],
      loads: [load('current', 0.5, { from: 'reg', range: { min: 4.9, max: 5.1 } })],
    }),
    conditions: { minAir: 20, air: 20, maxAir: 20, boxResistance: 4 },
  };
  const run = simulate(doc);
  const last = readingOf(run);
  const volts = last.at(last.last - 1, ROW.packVolts);
  const own = 0.5 ** 2 * 0.1;
  const around = (volts - 5) * 0.5;
  expect(run.warmth!.end - 20).toBeCloseTo((3 + 4) * own + 4 * around, 1);
  // In the open the stages' heat goes by.
  const open = simulate({ ...doc, conditions: { minAir: 20, air: 20, maxAir: 20 } });
  expect(open.warmth!.end - 20).toBeCloseTo(3 * own, 2);
});

it('random designs that warm themselves in the cold: accounts closed, nothing NaN, all end', () => {
  const designs = fc.sample(anyThread, { numRuns: 40, seed: 91 });
  designs.forEach((doc, k) => {
    const temperature = typicalTemperature(k % 2 ? 'LFP' : 'NMC');
    const warm: ThreadDocument = {
      ...doc,
      pack: {
        ...doc.pack,
        cell: { ...doc.pack.cell, temperature },
        warmth: { ...typicalWarmth(doc.pack), start: 15 },
      },
      conditions: { minAir: -20, air: -15, maxAir: 30, boxResistance: k % 3 },
    };
    const read = decodeThread(warm);
    expect(read.ok, JSON.stringify(read)).toBe(true);
    const run = simulate(warm);
    expect(nanIn(run)).toBeUndefined();
    expect(run.ledger.closure, `design ${k}`).toBeLessThan(1e-6);
    expect(run.ledgerAtDead.closure, `design ${k}`).toBeLessThan(1e-6);
  });
});

it('a charge published for a rate down to the end volts is given again at that rate, its resistance counted once', () => {
  const cell = CELL_LIBRARY['18650-energy']!;
  const published = { celsius: [-20, 0, 25], factors: [0.62, 0.85, 1] };
  const cold: CellTemperature = { activation: 21000, capacity: published, grade: 'published' };
  const given = (air: number, temperature: CellTemperature) => {
    const own = quasiStatic({ ...cell, temperature, selfDischargePerMonth: 0 });
    const pack = { protection: seriesOhms(0, cell.endVolts) };
    const doc = thread({ cell: own, pack, loads: [load('current', 0.5 * cell.capacityAh)] });
    return simulate({ ...doc, conditions: { minAir: air, air, maxAir: air } }).deadEnd.time;
  };
  const out = { ...cold, capacityRate: 0.5 };
  for (const [k, t] of published.celsius.entries())
    expect(given(t, out) / given(25, out)).toBeCloseTo(published.factors[k]!, 3);
  // In a room nothing is taken out: there the factor is 1.
  expect(given(25, out) / given(25, cold)).toBeCloseTo(1, 6);
  // Taken as it stands the resistance would be counted twice.
  expect(given(-20, cold) / given(25, cold)).toBeLessThan(0.6);
});

describe('air that goes through a day', () => {
  const daily = { swing: 12, warmestAt: 15, startsAt: 8 };
  const air = 2;
  const around = { minAir: -20, air, maxAir: 30, daily };
  const cell = {
    ...plainCell(2, 3, 4, 0.3),
    temperature: {
      resistance: { celsius: [-20, 0, 25], factors: [6, 2.5, 1] },
      capacity: { celsius: [-20, 0, 25], factors: [0.7, 0.9, 1] },
      grade: 'assumed' as const,
    },
  };
  const pack = { protection: seriesOhms(0, 3.1) };
  const celsius = (hours: number) => air + daily.swing * Math.cos((2 * Math.PI * (hours + 8 - 15)) / 24);
  const between = (x: number, xs: number[], ys: number[]) => {
    const k = x < 0 ? 0 : 1;
    return ys[k]! + ((x - xs[k]!) / (xs[k + 1]! - xs[k]!)) * (ys[k + 1]! - ys[k]!);
  };

  it('cells that follow it: resistance and charge of every hour, against small steps by hand', () => {
    const amps = 0.03;
    const run = simulate({ ...thread({ cell, pack, loads: [load('current', amps)] }), conditions: around });
    const { resistance, capacity } = cell.temperature;
    // Explicit middle steps of ten seconds.
    let [z, hours] = [1, 0];
    const dt = 10 / 3600;
    for (;;) {
      const t = celsius(hours + dt / 2);
      const volts = 3 + z - amps * 0.3 * between(t, resistance.celsius, resistance.factors);
      if (volts < 3.1) break;
      z -= (amps * dt) / (2 * between(t, capacity.celsius, capacity.factors));
      hours += dt;
    }
    expect(run.deadEnd.time / 3600 / hours).toBeCloseTo(1, 4);
    expect(run.ledger.closure).toBeLessThan(1e-6);
    expect(run.warmth!.most.celsius).toBeCloseTo(air + daily.swing, 1);
    // At another start it ends at another hour.
    const evening = { ...around, daily: { ...daily, startsAt: 20 } };
    const other = simulate({ ...thread({ cell, pack, loads: [load('current', 0.3)] }), conditions: evening });
    const morning = simulate({
      ...thread({ cell, pack, loads: [load('current', 0.3)] }),
      conditions: around,
    });
    expect(other.deadEnd.time).toBeLessThan(morning.deadEnd.time * 0.98);
  });

  it('cells with a heat of their own lag behind it by a first order: swing over the root of 1 + (ωτ)²', () => {
    const warmth = { heatCapacity: 3600, resistance: 4, grade: 'assumed' as const };
    const plain = { ...plainCell(4, 3, 4, 1e-4) };
    const run = simulate({
      ...thread({ cell: plain, pack: { ...pack, warmth }, loads: [load('current', 0.02)] }),
      conditions: around,
    });
    const omega = (2 * Math.PI) / 86400;
    const swing = daily.swing / Math.sqrt(1 + (omega * 4 * 3600) ** 2);
    // Past the first day nothing is left of the start; the coldest hour is then as far below.
    expect(run.warmth!.least.celsius).toBeCloseTo(air - swing, 1);
  });

  it('what repeats in other times than days has the mean of the day; a plan of a day goes with it', () => {
    const modes = ['a', 'b'].map((id) => ({ id, name: id }));
    const of = (seconds: number): ThreadDocument => ({
      ...thread({ cell, pack, loads: [{ ...load('current', 0.02), draws: [{ mode: 'b', value: 0.05 }] }] }),
      conditions: around,
      modes,
      programme: {
        after: 'repeat',
        segments: [
          { mode: 'a', seconds: seconds / 2 },
          { mode: 'b', seconds: seconds / 2 },
        ],
      },
    });
    const still = { ...around, daily: { ...daily, swing: 0 } };
    const hourly = simulate(of(3600));
    expect(hourly.deadEnd.time).toBe(simulate({ ...of(3600), conditions: still }).deadEnd.time);
    const day = simulate(of(86400));
    expect(day.warmth!.most.celsius).toBeGreaterThan(air + 0.9 * daily.swing);
    expect(day.ledger.closure).toBeLessThan(1e-6);
  });
});

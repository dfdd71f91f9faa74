import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  darkSeconds,
  defaultLinear,
  demoThreads,
  LongLook,
  outage,
  randomYear,
  type Charging,
  type OutageResult,
  type ThreadDocument,
} from '../../../test/core.ts';
import { cycled } from '../../../test/programmes.ts';
import { anyWhole } from '../../../test/everything.ts';
import { drawsIn } from '../../loads/draws.ts';
import { cellFactors, DailyAir, followingAir } from '../../plant/warmth.ts';
import { scheduleOf } from '../timeline/schedule.ts';
import { hoursOf } from './hours.ts';
import { Straight } from './straight.ts';
import { Warm } from './warm.ts';

const HOUR = 3600;
const DAYS = 86_400;

const darkHours = (of: OutageResult) => darkSeconds(of) / HOUR;

describe('a charge that falls at a rate straight over it', () => {
  it('is where small steps come to, after as long, with as much of the time near each end', () => {
    for (const [low, high, soc] of [
      [2e-5, 5e-5, 0.7],
      [3e-5, 3.00001e-5, 0.4],
      [-4e-5, 1e-5, 0.3],
      [-1e-5, -6e-5, 0.75],
    ] as const) {
      const course = new Straight().from(soc, 0.25, low, 0.8, high);
      const t = Math.min(0.6 * course.seconds, 9000);
      course.after(t);
      let [s, sum] = [soc, 0];
      const n = 20_000;
      for (let k = 0; k < n; k++) {
        const rate = (of: number) => low + ((high - low) * (of - 0.25)) / 0.55;
        const middle = s - (rate(s) * t) / n / 2;
        sum += middle / n;
        s -= (rate(middle) * t) / n;
      }
      expect(course.to).toBeCloseTo(s, 8);
      expect(course.weight).toBeCloseTo((sum - 0.25) / 0.55, 7);
    }
  });

  it('comes to its end by the logarithm, and never to where it would stand still', () => {
    const course = new Straight().from(0.5, 0.2, 1e-5, 0.8, 4e-5);
    expect(course.goal).toBe(0.2);
    // r(0.5) = 2.5e-5, m = 5e-5
    expect(course.seconds).toBeCloseTo(Math.log(2.5) / 5e-5, 6);
    expect(course.after(course.seconds).to).toBeCloseTo(0.2, 12);
    expect(new Straight().from(0.5, 0.2, -1e-5, 0.8, 4e-5).seconds).toBe(Infinity);
  });
});

describe('what is given hour by hour', () => {
  it('loads by their mean in each hour, as much in a day as the programme takes', () => {
    const lock = demoThreads().find((t) => t.programme)!;
    const schedule = scheduleOf(lock)!;
    const hours = hoursOf(drawsIn(lock.loads), schedule);
    const { draws } = hours.at(0);
    const mean = (l: number) =>
      schedule.stretches.reduce((s, x) => s + x.seconds * x.draws.values[l]! * x.draws.factors[l]!, 0) /
      schedule.period;
    lock.loads.forEach((_, l) => expect(draws.values[l]! * draws.factors[l]!).toBeCloseTo(mean(l), 9));
  });

  it('the cells are as warm as the air on the mean, and later where they are slow', () => {
    const daily = DailyAir.of(6, 15, 0);
    const cell = demoThreads()[0]!.pack.cell;
    const mean = (tau: number) => {
      const warm = new Warm({ ...followingAir(20, cellFactors(cell), daily), tau });
      let [sum, most, at] = [0, -Infinity, 0];
      for (let hour = 0; hour < 240; hour++) {
        const air = daily.at((hour + 0.5) * HOUR);
        warm.settle(HOUR, air);
        warm.follow(HOUR, air, 1.5);
        expect(Number.isInteger(warm.kelvin)).toBe(true);
        if (hour >= 216) sum += warm.kelvin;
        if (hour >= 216 && warm.kelvin > most) [most, at] = [warm.kelvin, hour % 24];
      }
      return { mean: sum / 24, most, at };
    };
    const fast = mean(60);
    const slow = mean(6 * HOUR);
    expect(fast.mean).toBeCloseTo(1.5, 1);
    expect(slow.mean).toBeCloseTo(1.5, 1);
    // A first-order lag of 6 h behind a day: 1/√(1 + (2π·6/24)²) = 0.54 of the swing.
    expect(fast.most).toBeGreaterThanOrEqual(7);
    expect(slow.most).toBeLessThanOrEqual(Math.ceil(1.5 + 6 * 0.54));
    expect(slow.at).toBeGreaterThan(fast.at);
  });
});

describe('a long look', () => {
  it('months of the demo threads: dark within a hundredth of an hour, the charge within half a percent of steps', () => {
    const chance = { perYear: 24, half: 2, sixth: 8 };
    for (const doc of demoThreads().filter((t) => t.charging)) {
      const gone = randomYear(chance, 3);
      const march = outage(doc, gone, 120 * DAYS, {}, { rows: 0 });
      const look = new LongLook(doc).over(
        gone.filter((g) => g.to < 120 * DAYS),
        120 * DAYS,
      );
      expect(look.end.whole).toBe(true);
      expect(darkHours(look)).toBeCloseTo(darkHours(march), 2);
      expect(Math.abs(look.lowest.soc - march.lowest.soc)).toBeLessThan(5e-3);
      expect(look.ledger.supplied! / march.ledger.supplied!).toBeCloseTo(1, 3);
      expect(look.ledger.closure).toBeLessThan(1e-5);
    }
  });

  it('the same again on the same faces, and after other years', () => {
    const doc = demoThreads().find((t) => t.name.includes('lock'))!;
    const look = new LongLook(doc);
    const of = (year: number) => look.over(randomYear({ perYear: 30, half: 4, sixth: 20 }, year), 365 * DAYS);
    const first = of(1);
    of(2);
    const again = of(1);
    expect(darkHours(again)).toBeCloseTo(darkHours(first), 6);
    expect(again.lowest.soc).toBeCloseTo(first.lowest.soc, 6);
    expect(again.ledger.supplied! / first.ledger.supplied!).toBeCloseTo(1, 7);
  });

  it('air that goes through a day is in the resistance of the cells, on the mean as by steps', () => {
    const lock = demoThreads().find((t) => t.name.includes('lock'))!;
    const { programme, modes, ...steady } = lock;
    const { draws, peaks, ...light } = lock.loads[0]!;
    const loads = [{ ...light, draw: 'power' as const, power: 2 }];
    const daily = { swing: 18, warmestAt: 15, startsAt: 9 };
    const doc = {
      ...steady,
      loads,
      conditions: { minAir: -20, air: 2, maxAir: 40, daily },
    } as ThreadDocument;
    const gone = [{ from: 10 * HOUR, to: 26 * HOUR }];
    const march = outage(doc, gone, 60 * HOUR, {}, { rows: 0 });
    const look = new LongLook(doc).over(gone, 60 * HOUR);
    const heat = ({ ledger }: OutageResult) =>
      ledger.entries.find((e) => e.element === 'cells' && e.mechanism === 'resistance')!.joules;
    expect(heat(look) / heat(march)).toBeCloseTo(1, 1.5);
    // Cells that were as the mean of the air lose otherwise.
    const even = { ...doc, conditions: { minAir: -20, air: 2, maxAir: 40 } } as ThreadDocument;
    expect(Math.abs(heat(outage(even, gone, 60 * HOUR, {}, { rows: 0 })) / heat(march) - 1)).toBeGreaterThan(
      0.05,
    );
  });

  it('a load that stopped comes back with the next cycle of its programme, once there are volts', () => {
    // Wanted in both modes: by steps only what is wanted counts as dark.
    const draws = [{ mode: 'off', value: 0.3 }];
    const base = cycled(
      [{ range: { min: 3.7, max: 5 }, below: 'stops', essential: true, draws }],
      undefined,
      4,
    );
    const charging = {
      source: { kind: 'supply', name: 'S', volts: 5.5, droop: 0, limit: 5, beyond: 'hard', grade: 'assumed' },
      stage: { ...defaultLinear('c', 'source', 4.05), outputLimit: 20, maxInput: 30, thermalResistance: 0.1 },
      control: { current: 2, sense: 'output', terminate: 0.2, deglitch: 30 },
      meanwhile: 'battery',
      from: 0.3,
    } as Charging;
    const doc = { ...base, charging };
    const gone = [{ from: HOUR, to: 40 * HOUR }];
    const march = outage(doc, gone, 60 * HOUR, {}, { rows: 0 });
    const look = new LongLook(doc).over(gone, 60 * HOUR);
    expect(march.dark.length).toBeGreaterThan(0);
    expect(darkHours(march)).toBeLessThan(40);
    expect(Math.abs(darkHours(look) - darkHours(march))).toBeLessThan(1.5);
  });

  it('random threads with everything in them: the dark of a month as by steps, the account closed', () => {
    let compared = 0;
    fc.assert(
      fc.property(
        anyWhole.filter((d) => d.charging !== undefined),
        fc.nat(1000),
        (doc, year) => {
          const gone = randomYear({ perYear: 100, half: 3, sixth: 12 }, year, 30 * DAYS);
          const look = new LongLook(doc).over(gone, 30 * DAYS);
          for (const g of look.dark) expect(g.to).toBeGreaterThan(g.from);
          const march = outage(doc, gone, 30 * DAYS, {}, { rows: 0 });
          if (!march.end.whole || !look.end.whole) return;
          compared++;
          expect(look.ledger.closure).toBeLessThan(1e-4);
          expect(Math.abs(darkHours(look) - darkHours(march))).toBeLessThan(1 + 0.01 * darkHours(march));
        },
      ),
      { numRuns: 16, seed: 5, endOnFailure: true },
    );
    expect(compared).toBeGreaterThan(5);
  });
});

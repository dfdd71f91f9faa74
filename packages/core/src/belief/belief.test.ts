import { describe, expect, it } from 'vitest';
import { load, plainCell, seriesOhms, thread } from '../../test/build.ts';
import { caseOf, cases, input, meets, type Case } from '../../test/cases.ts';
import { cellOf } from '../../test/schedules.ts';
import { AGED } from '../model/belief.ts';
import { CELL_LIBRARY } from '../cells/library.ts';
import { demoThreads } from '../demo/threads.ts';
import { decodeThread } from '../model/decode.ts';
import { defaultBuckBoost } from '../model/kinds/buckBoost.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { compile } from '../plant/compile.ts';
import { ROW } from '../run/account/series.ts';
import { readingOf } from '../run/reading/reading.ts';
import { answersOf, simulate } from '../run/rundown.ts';
import { caseConditions, caseRuns } from './cases.ts';
import { fadeAfter } from './fade.ts';
import { drawn, figuresOf } from './figures.ts';
import { drawHours, rangeOf, type Drawn } from './range.ts';
import { normalQuantile, randomOf } from '../numeric/random.ts';
import { deviationOf, FirstOrder, type Ranged } from './firstOrder.ts';
import { sharesOf } from './shares.ts';
import { scoresOf, type Spread } from './spread.ts';
import { reaching, summaryOf } from './summary.ts';

type Row = [name: string, nominal: number, distribution: Spread['distribution'], by: number, of: string];

/** The closed form of a case: hours of a linear cell, by its figures. */
function hoursOf(c: Case): (of: Record<string, number>) => number {
  const spent = (v0: number, v1: number, end: number) => (v1 - end) / (v1 - v0);
  if (c.id === 'H4-UNC-1') {
    return ({ Q, R, v1, I, vc }) => (Q! / I!) * spent(3.2, v1!, Math.max(vc! + I! * R!, 3.2));
  }
  const power = (watts: number, Q: number, R: number, v0: number, v1: number, vc: number) => {
    // Volts at rest at which the terminals reach vc, or the most the cell can give. t = ∫ Q/I ds with I the lesser root.
    const least = Math.max(
      v0,
      vc > 2 * Math.sqrt(R * watts) ? vc + (R * watts) / vc : 2 * Math.sqrt(R * watts),
    );
    const nodes = 400;
    let sum = 0;
    for (let k = 0; k < nodes; k++) {
      const e = least + ((k + 0.5) / nodes) * (v1 - least);
      const amps = (e - Math.sqrt(e * e - 4 * R * watts)) / (2 * R);
      sum += 1 / amps;
    }
    return ((Q * sum) / nodes) * spent(v0, v1, least);
  };
  if (c.id === 'H4-UNC-2') {
    return ({ Q, R, eta, load, standby }) => power(load! / eta! + standby!, Q!, R!, 3.15, 4.1, 3.2);
  }
  return ({ Q, duty, eta }) => power((duty! * 12) / eta! + 0.03, Q!, 0.09, 3.2, 4.1, 3.2);
}

describe('what to believe, against a million draws of a closed form elsewhere', () => {
  for (const c of cases('H4_uncertainty')) {
    it(`${c.id}: ${c.description}`, () => {
      const rows = (c.inputs.parameters as unknown as { value: Row[] }).value;
      const spreads = rows.map(([, , distribution]) => ({ distribution }));
      const hours = hoursOf(c);
      const result = (scores: Float64Array) =>
        hours(
          Object.fromEntries(
            rows.map(([name, nominal, , by, of], k) => [
              name,
              of === 'relative' ? nominal * (1 + by * scores[k]!) : nominal + by * scores[k]!,
            ]),
          ),
        );
      const count = 10_000;
      const scores = new Float64Array(count * rows.length);
      const values = Float64Array.from({ length: count }, (_, n) => {
        const own = scoresOf(1, n, spreads);
        scores.set(own, n * rows.length);
        return result(own);
      });
      const { p10, p50, p90, mean, deviation } = summaryOf(values);
      const { shares, explained } = sharesOf(scores, values, spreads);
      const quick = new FirstOrder([result(new Float64Array(spreads.length))]);
      // A small step to either side: the case is of slopes.
      const own = spreads.map((s, k) => {
        const side = (by: number) => [result(new Float64Array(spreads.length).fill(by, k, k + 1))];
        return quick.add(side(-0.02), side(0.02), 0.04 / deviationOf(s))[0]!;
      });
      const [{ value, p10: low, p90: high }] = quick.ranges() as [Ranged];
      const totals = shares.map((s) => s.total);
      meets(c, {
        nominal: value,
        mean,
        standard_deviation: deviation,
        p10_p50_p90: [p10, p50, p90],
        first_order_standard_deviation: Math.sqrt(quick.variance[0]!),
        first_order_shares: own.map((v) => v / quick.variance[0]!),
        first_order_p10_p90: [low, high],
        sobol_first_order: shares.map((s) => s.first),
        sobol_total: totals,
        most_important: rows[totals.indexOf(Math.max(...totals))]![0],
        probability_of_reaching_need: reaching(values, input(c, 'need')),
      });
      expect(explained).toBeGreaterThan(0.99);
    });
  }
});

it('shares of polynomials of even and normal scores, whose variances are known', () => {
  const even: Spread = { distribution: 'uniform' };
  const normal: Spread = { distribution: 'normal' };
  const shares = (f: (s: Float64Array) => number, spreads: Spread[]) => {
    const count = 3000;
    const all = Array.from({ length: count }, (_, n) => scoresOf(2, n, spreads));
    const scores = Float64Array.from(all.flatMap((s) => [...s]));
    return sharesOf(scores, all.map(f), spreads).shares.flatMap((s) => [s.first, s.total]);
  };
  const near = (got: number[], wanted: number[]) =>
    got.forEach((s, k) => expect(s).toBeCloseTo(wanted[k]!, 6));
  // Var x = 1/3, x² = 4/45, x·y = 1/9 of even scores; 1, 2, 1 of normal ones.
  near(
    shares(([x, y]) => x! ** 2 + y!, [even, even]),
    [4 / 19, 4 / 19, 15 / 19, 15 / 19],
  );
  near(
    shares(([x, y, z]) => x! + y! * z!, [even, even, even]),
    [0.75, 0.75, 0, 0.25, 0, 0.25],
  );
  near(
    shares(([x, y]) => x! ** 2 + y!, [normal, normal]),
    [2 / 3, 2 / 3, 1 / 3, 1 / 3],
  );
  near(
    shares(([x, y]) => x! ** 3 - 3 * x! + y!, [normal, normal]),
    [6 / 7, 6 / 7, 1 / 7, 1 / 7],
  );
  near(
    shares(([x, y]) => x! + x! * y!, [normal, normal]),
    [0.5, 1, 0, 0.5],
  );
});

it('quantiles of the normal distribution; Abramowitz and Stegun table 26.5 (from memory)', () => {
  const table = [
    [0.5, 0],
    [0.9, 1.2815515655],
    [0.95, 1.644853627],
    [0.975, 1.9599639845],
    [0.99, 2.326347874],
    [0.999, 3.0902323062],
  ] as const;
  for (const [p, z] of table) {
    expect(normalQuantile(p)).toBeCloseTo(z, 8);
    expect(normalQuantile(1 - p)).toBeCloseTo(-z, 8);
  }
});

it('draws are even, unlike one another, and the same by their own number', () => {
  const draws = Array.from({ length: 20_000 }, (_, n) => randomOf(7, n)());
  const mean = draws.reduce((a, b) => a + b, 0) / draws.length;
  const neighbours =
    draws.slice(1).reduce((sum, x, k) => sum + (x - 0.5) * (draws[k]! - 0.5), 0) / draws.length;
  // Four standard errors of a mean of even numbers, and of products of two.
  expect(Math.abs(mean - 0.5)).toBeLessThan(4 * Math.sqrt(1 / 12 / draws.length));
  expect(Math.abs(neighbours)).toBeLessThan((4 * (1 / 12)) / Math.sqrt(draws.length));
  expect(randomOf(7, 41)()).toBe(draws[41]);
  expect(randomOf(8, 41)()).not.toBe(draws[41]);
});

/** All draws of a thread from one number up to another. */
function drawAll(doc: ThreadDocument, seed: number, from: number, to: number): Drawn {
  const work = drawHours(doc, seed, from, to);
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
  }
}

/** A linear cell under a constant current, only its capacity in doubt. */
function linear(tolerance: number): ThreadDocument {
  const others = ['cells.resistance', 'load.draw'];
  return {
    ...thread({
      cell: plainCell(3, 3.2, 4.1, 0.08),
      pack: { protection: seriesOhms(0, 0.1) },
      loads: [load('current', 1.5, { range: { min: 3.3, max: 100 } })],
      hours: 1.5,
    }),
    belief: {
      own: [{ figure: 'cells.capacity', tolerance }, ...others.map((figure) => ({ figure, tolerance: 0 }))],
    },
  };
}

describe('how long a thread lasts, as far as its figures say', () => {
  it('is the closed form of a linear cell whose capacity alone is in doubt, within its own sampling error', () => {
    const tolerance = 0.1;
    const count = 4000;
    const range = rangeOf(linear(tolerance), [drawAll(linear(tolerance), 3, 0, count)]);
    // t = Q/I·(v1 − vc − I·R)/(v1 − v0): in proportion to Q, normal with two standard deviations of a tenth.
    const nominal = (3 / 1.5) * ((4.1 - 3.3 - 1.5 * 0.08) / (4.1 - 3.2));
    const deviation = (nominal * tolerance) / 2;
    const error = deviation / Math.sqrt(count);
    expect(Math.abs(range.mean - nominal)).toBeLessThan(4 * error);
    expect(Math.abs(range.deviation / deviation - 1)).toBeLessThan(4 / Math.sqrt(2 * count));
    // The error of a quantile: √(p·(1 − p))/density, in standard errors 1.71 at 10 and 90 %.
    expect(Math.abs(range.p10 - (nominal - 1.2815515655 * deviation))).toBeLessThan(4 * 1.71 * error);
    expect(Math.abs(range.p90 - (nominal + 1.2815515655 * deviation))).toBeLessThan(4 * 1.71 * error);
    expect(Math.abs(range.reaches - 0.5 - 0.5 * erf((nominal - 1.5) / deviation / Math.SQRT2))).toBeLessThan(
      4 * Math.sqrt(0.25 / count),
    );
    expect(range.carriers[0]).toMatchObject({ figure: { id: 'cells.capacity' } });
    expect(range.carriers[0]!.total).toBeGreaterThan(0.999);
    expect(range.explained).toBeGreaterThan(0.999);
  });

  it('is the same for the same seed, in one go or in parts, in any order', () => {
    const [doc] = demoThreads() as [ThreadDocument];
    const whole = drawAll(doc, 5, 0, 60);
    const parts = [drawAll(doc, 5, 40, 60), drawAll(doc, 5, 0, 40)];
    expect(rangeOf(doc, parts)).toEqual(rangeOf(doc, [whole]));
    expect([...drawAll(doc, 6, 0, 60).hours]).not.toEqual([...whole.hours]);
  });

  it('never narrows with a worse tolerance', () => {
    const width = (tolerance: number) => {
      const { p10, p90 } = rangeOf(linear(tolerance), [drawAll(linear(tolerance), 3, 0, 300)]);
      return p90 - p10;
    };
    const widths = [0, 0.02, 0.05, 0.1, 0.3].map(width);
    widths.slice(1).forEach((w, k) => expect(w).toBeGreaterThan(widths[k]!));
    expect(widths[0]).toBe(0);
  });

  it('every figure of every demo thread makes it last less the worse it is, and what is drawn is a valid thread', () => {
    for (const doc of demoThreads()) {
      const figures = figuresOf(doc);
      figures.forEach((figure, k) => {
        const scores = (by: number) => figures.map((_, n) => (n === k ? by : 0));
        const hours = (by: number) => {
          const { doc: varied, conditions } = drawn(doc, figures, scores(by));
          const read = decodeThread(varied);
          if (!read.ok) throw new Error(`${doc.name} ${figure.id}: ${JSON.stringify(read.issues[0])}`);
          // In the first of its modes alone: a programme of months is no other law.
          const [mode] = doc.modes ?? [];
          return answersOf(compile(varied, { ...conditions, ...(mode && { mode: mode.id }) })).usefulEnd.time;
        };
        const more = figure.kind === 'capacity' ? hours(1) : hours(-1);
        const less = figure.kind === 'capacity' ? hours(-1) : hours(1);
        expect(less, `${doc.name} ${figure.id}`).toBeLessThanOrEqual(more * (1 + 1e-4));
      });
    }
  });
});

/** Abramowitz and Stegun 7.1.26, to 1.5e-7 (from memory). */
function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(x));
  const sum = [1.061405429, -1.453152027, 1.421413741, -0.284496736, 0.254829592].reduce(
    (s, c) => (s + c) * t,
    0,
  );
  return Math.sign(x) * (1 - sum * Math.exp(-x * x));
}

it('H3-AGE-1: a pack at 80 % health through a converter, its pack volts the first to end', () => {
  const c = caseOf('H3_spread', 'H3-AGE-1');
  const { Vout, Pout, P0, k1, k2 } = (c.inputs.load as unknown as { value: Record<string, number> }).value;
  const stage = {
    ...defaultBuckBoost('conv', 'pack', Vout!),
    ...{ minInput: 0.5, inputLimit: 1000, bothLoss: 0, pathResistance: 0 },
    ...{ maxBuckDuty: 0.999, minBoostDuty: 0.001, maxBoostDuty: 0.98 },
    loss: {
      ...{ basis: 'polynomial' as const, quiescentCurrent: 0, perInputAmp: 0 },
      ...{ fixed: P0!, perOutputAmp: k1!, perInputAmpSquared: k2! },
    },
  };
  const cell = { ...cellOf({ ...c, inputs: { ...c.inputs, cell_capacity: { value: 5 as never } } }) };
  const groups = (c.inputs.groups as unknown as { value: number[][] }).value;
  const doc: ThreadDocument = {
    ...thread({
      cell,
      pack: {
        series: groups.length,
        protection: seriesOhms(input(c, 'Rext'), input(c, 'cut_off_group')),
      },
      stages: [stage],
      loads: [
        load('power', Pout!, { from: 'conv', essential: false }),
        load('current', 0, { id: 'watch', range: { min: input(c, 'cut_off_pack'), max: 99 } }),
      ],
    }),
    belief: { agedCapacity: groups[0]![0]! / 5, agedResistance: groups[0]![1]! },
  };
  const run = simulate(doc, {}, caseConditions(doc).aged);
  const reading = readingOf(run);
  let end = 0;
  while (reading.time(end) < run.usefulEnd.time * (1 - 1e-9)) end++;
  const out = (element: string) =>
    run.ledger.entries.filter((e) => e.element === element).reduce((s, e) => s + e.joules, 0) / 3600;
  const volts = reading.at(end, ROW.cellVolts);
  meets(c, {
    runtime: run.usefulEnd.time / 3600,
    runtime_if_all_groups_were_the_mean: run.usefulEnd.time / 3600,
    ends_by: run.usefulEnd.load?.id === 'watch' ? 'pack' : 'group',
    energy_at_terminals: out('load') + out('conv'),
    heat_in_cells: out('cells'),
    charge: (1 - run.socAtUseful) * groups[0]![0]!,
    soc_of_groups_at_end: groups.map(() => run.socAtUseful),
    group_voltages_at_end: groups.map(() => volts),
    ocv_energy_left_in_groups: groups.map(() => run.ledger.left / 3600 / groups.length),
  });
  expect(AGED).toEqual({ capacity: 0.8, resistance: 1.6 });
});

describe('fade over years', () => {
  const at = (chemistry: 'LFP' | 'NMC' | 'LTO', years: number, cycles: number, air = 25) =>
    fadeAfter({ chemistry }, years, cycles, air);

  it('is that of Wang et al. 2011 for LFP by cycles alone, within the power of theirs', () => {
    // Q = 31630·exp(−(31700 − 370.3·½)/(R·T))·Ah^0.55 in %, of their 2.2 Ah cell; eq. 10, from memory.
    const theirs = (cycles: number) =>
      316.3 * Math.exp(-(31700 - 370.3 / 2) / (8.314 * 298.15)) * (2.2 * cycles) ** 0.55;
    for (const cycles of [500, 1000, 2000]) {
      // Over half a day nothing is lost by time alone.
      const loss = 1 - at('LFP', 1e-3, cycles * 1e3).usual.capacity;
      expect(loss / theirs(cycles)).toBeGreaterThan(0.9);
      expect(loss / theirs(cycles)).toBeLessThan(1.1);
    }
  });

  it('loses 20 % in 500 full cycles of nickel and cobalt, more when warm, and with a range of two both ways', () => {
    // Common practice, no source: what data sheets promise.
    expect(at('NMC', 1e-3, 500e3).usual.capacity).toBeCloseTo(0.8, 2);
    const [cool, warm] = [at('NMC', 4, 0, 25), at('NMC', 4, 0, 35)];
    expect(1 - cool.usual.capacity).toBeCloseTo(2 * 0.03, 9);
    // Arrhenius with 40 kJ/mol by hand: 4811 K · (1/298.15 − 1/308.15) = 0.524, e to that 1.69.
    expect((1 - warm.usual.capacity) / (1 - cool.usual.capacity)).toBeCloseTo(1.69, 2);
    expect((1 - warm.worst.capacity) / (1 - warm.best.capacity)).toBeCloseTo(4, 9);
    expect(at('LTO', 5, 200).usual.capacity).toBeGreaterThan(at('LFP', 5, 200).usual.capacity);
    // An aged cell by either road: 80 % of the charge, 1.6 of the resistance.
    const aged = at('NMC', 1e-3, 510.2e3).usual;
    expect((aged.resistance - 1) / (1 - aged.capacity)).toBeCloseTo(3, 6);
  });

  it('is a case with its range, shorter the longer it is used', () => {
    const doc = thread({ loads: [load('power', 2)], hours: 1 });
    const later = (years: number) => {
      const runs = caseRuns({ ...doc, belief: { years, runsAYear: 100 } });
      return runs.find((r) => r.name === 'later')!;
    };
    const [now, two, five] = [later(0), later(2), later(5)];
    expect(now.hours).toBeCloseTo(simulate(doc).usefulEnd.time / 3600, 6);
    expect(two.range![0]).toBeLessThan(two.hours);
    expect(two.range![1]).toBeGreaterThan(two.hours);
    expect(five.hours).toBeLessThan(two.hours);
  });
});

describe('cases side by side', () => {
  it('colder never lasts longer, nor does an aged pack, for any cell that ships', () => {
    for (const cell of Object.values(CELL_LIBRARY)) {
      if (!cell.temperature) continue;
      const amps = 0.5 * cell.capacityAh;
      const doc = thread({
        cell,
        loads: [load('current', amps, { range: { min: cell.endVolts, max: 100 } })],
      });
      const at = (air: number) => simulate({ ...doc, conditions: { minAir: air, air, maxAir: air } });
      const hours = [40, 25, 10, 0, -10, -20].map((air) => at(air).usefulEnd.time);
      hours.slice(1).forEach((h, k) => expect(h, `${cell.name} ${k}`).toBeLessThan(hours[k]!));
      const runs = Object.fromEntries(caseRuns(doc).map((r) => [r.name, r.hours]));
      expect(runs.aged, cell.name).toBeLessThan(runs.usual!);
      expect(runs.worst, cell.name).toBeLessThan(Math.min(runs.aged!, runs.cold!));
    }
  });
});

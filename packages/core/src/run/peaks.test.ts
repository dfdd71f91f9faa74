import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { load, thread } from '../../test/build.ts';
import { anyBusy, BUSY_CELL as CELL, cycled, MODES } from '../../test/programmes.ts';
import { decodeThread } from '../model/decode.ts';
import type { Load } from '../model/load.ts';
import type { Protection } from '../model/pack.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { compile } from '../plant/compile.ts';
import { idleDraw } from './idle.ts';
import { idleCuts } from './idleBudget.ts';
import { cycleAt } from './oneCycle.ts';
import { readingOf } from './reading/reading.ts';
import { simulate } from './rundown.ts';
import { scheduleOf, stretchAt } from './timeline/schedule.ts';
import { ROW } from './account/series.ts';
import { worstInstants } from './reading/worst.ts';

describe('peaks', () => {
  it('count in the charge, the heat and the worst instant', () => {
    const run = simulate(cycled([{ peaks: [{ factor: 3, seconds: 6 }] }]));
    // 3 A for 6 s and 1 A for 54 s of every two minutes: 0.6 A on the mean. By hand.
    const hours = run.deadEnd.time / 3600;
    expect(hours).toBeGreaterThan(1 / 0.6 - 1 / 30);
    expect(hours).toBeLessThan(1 / 0.6 + 1 / 30);
    expect(run.worstCell.amps).toBeCloseTo(3, 9);
    const heat = run.ledgerAtDead.entries.find((e) => e.mechanism === 'resistance')!.joules;
    // 0.05 Ω · (3² · 6 + 1² · 54) J a cycle, of 72 As a cycle out of 3600 As.
    expect(heat).toBeCloseTo(0.05 * (54 + 54) * (3600 / 72), 0);
    expect(run.ledgerAtDead.closure).toBeLessThan(1e-9);
  });

  it('one of a stretch is the same as a stretch of its own', () => {
    const peak = cycled([{ peaks: [{ value: 2.5, seconds: 7, mode: 'on' }] }]);
    const draws = [
      { mode: 'off', value: 0 },
      { mode: 'start', value: 2.5 },
    ];
    const own = cycled([{ draws }]);
    own.modes = [...MODES, { id: 'start', name: 'Start' }];
    own.programme!.segments = [
      { mode: 'start', seconds: 7 },
      { mode: 'on', seconds: 53 },
      { mode: 'off', seconds: 60 },
    ];
    const [a, b] = [simulate(peak), simulate(own)];
    expect(a.usefulEnd.time).toBeCloseTo(b.usefulEnd.time, 6);
    expect(a.ledger.left).toBeCloseTo(b.ledger.left, 6);
  });

  it('come when the load is switched on, at each entry of a mode, and every so often', () => {
    const at = (doc: ThreadDocument) => {
      const schedule = scheduleOf(doc)!;
      return [schedule.first, schedule.stretches].map((of) => of.map((s) => [s.seconds, s.peaks.length]));
    };
    const always = { draws: [] };
    // Always on: at the start of the run alone.
    expect(at(cycled([{ ...always, peaks: [{ factor: 2, seconds: 10 }] }]))).toEqual([
      [
        [10, 1],
        [50, 0],
        [60, 0],
      ],
      [
        [60, 0],
        [60, 0],
      ],
    ]);
    const timed = cycled([{ peaks: [{ factor: 2, seconds: 10, mode: 'on', every: 25 }] }]);
    expect(at(timed)[1]).toEqual([
      [10, 1],
      [15, 0],
      [10, 1],
      [15, 0],
      [10, 1],
      [60, 0],
    ]);
    const schedule = scheduleOf(timed)!;
    expect(stretchAt(schedule, 1200 + 26).peaks).toEqual([0]);
    expect(stretchAt(schedule, 1200 + 25, true).peaks).toEqual([]);
    expect(stretchAt(schedule, 1200 + 60, true).mode).toBe(0);
    expect(stretchAt(schedule, 1200 + 60).mode).toBe(1);
    // Without a programme: the longest of them is the cycle.
    const plain = thread({ loads: [load('current', 1, { peaks: [{ value: 4, seconds: 1, every: 5 }] })] });
    expect(at(plain)[1]).toEqual([
      [1, 1],
      [4, 0],
    ]);
    const run = simulate(thread({ cell: CELL, loads: plain.loads }));
    expect(run.deadEnd.time).toBeCloseTo(3600 / 1.6, -1);
    expect(run.worked).toMatchObject({ modes: [] });
  });

  it('a stalled motor draws by its volts, a string of LEDs by those above its knee', () => {
    const motor = { peaks: [{ value: 2, draw: 'resistance' as const, seconds: 5 }] };
    const run = simulate(cycled([motor]));
    const reading = readingOf(run);
    // At the first instant E/(R0 + R). By hand.
    expect(reading.at(0, ROW.cellAmps)).toBeCloseTo(4 / 2.05, 9);
    const string = { draw: 'string' as const, string: 2.5, slope: 3, draws: [{ mode: 'off', value: 0.25 }] };
    const lit = readingOf(simulate(cycled([string])));
    expect(lit.at(0, ROW.cellAmps)).toBeCloseTo((4 - 2.5) / 3.05, 9);
    const dimmed = lit.firstRow((row) => lit.time(row) > 60)!;
    const volts = lit.at(dimmed, ROW.packVolts);
    expect(lit.at(dimmed, ROW.cellAmps)).toBeCloseTo(((volts - 2.5) / 3) * 0.25, 9);
  });

  it('bad ones are refused where they stand', () => {
    const wrong = (peak: object, more: Partial<Load> = {}) => {
      const decoded = decodeThread(cycled([{ ...more, peaks: [{ seconds: 1, ...peak } as never] }]));
      return decoded.ok ? [] : decoded.issues.map((i) => i.path);
    };
    expect(wrong({ factor: 2 })).toEqual([]);
    expect(wrong({})).toEqual(['loads[0].peaks[0].value']);
    expect(wrong({ factor: 2, value: 1 })).toEqual(['loads[0].peaks[0].value']);
    expect(wrong({ factor: 2, seconds: 61 })).toEqual(['loads[0].peaks[0].seconds']);
    expect(wrong({ factor: 2, mode: 'none' })).toEqual(['loads[0].peaks[0].mode']);
    expect(wrong({ factor: 2, every: 0.5 })).toEqual(['loads[0].peaks[0].every']);
    expect(wrong({ factor: 2, seconds: 1e-3, every: 2e-3, mode: 'on' })).toEqual(['loads[0].peaks[0].every']);
    expect(wrong({ factor: 2 }, { below: 'resets' })).toEqual(['loads[0].restart']);
    expect(wrong({ factor: 2 }, { shed: { soc: 0.5 } })).toEqual(['loads[0].shed']);
  });
});

describe('protection with time', () => {
  const board = (seconds: number, more: Partial<Protection> = {}) =>
    simulate(
      cycled([{ peaks: [{ value: 4, seconds }] }], {
        tripCurrent: 3,
        tripDelay: 0.02,
        shortCurrent: 6,
        ...more,
      }),
    );

  it('a short peak passes in every cycle, one that outlasts the delay trips in the first', () => {
    expect(board(0.019).deadEnd.reason).toBe('empty');
    const long = board(0.021);
    expect(long.deadEnd).toMatchObject({ reason: 'trip' });
    expect(long.deadEnd.time).toBeCloseTo(0.02, 5);
    const short = board(0.01, { shortCurrent: 3.9, shortDelay: 0.001 });
    expect(short.deadEnd.reason).toBe('short');
    expect(short.deadEnd.time).toBeCloseTo(0.001, 5);
  });

  it('at constant power a peak trips only once the cells are low enough', () => {
    const doc = cycled([{ draw: 'power', power: 3.5, peaks: [{ value: 11, seconds: 0.05 }] }], {
      tripCurrent: 3.3,
      tripDelay: 0.02,
    });
    const run = simulate(doc);
    expect(run.deadEnd.reason).toBe('trip');
    // 3.3 A at 11 W: V = 10/3, OCV = V + 0.05 · 3.3. By hand.
    expect(run.socAtUseful).toBeCloseTo(11 / 3.3 + 0.05 * 3.3 - 3, 2);
    const every = simulate(doc, { everyCycle: true });
    expect(every.deadEnd.time).toBeCloseTo(run.deadEnd.time, 3);
  });

  it('a cut-off waits for its delay', () => {
    const doc = (cutoffDelay: number) =>
      cycled([{ peaks: [{ value: 8, seconds: 0.05 }] }], { cutoffVolts: 3.4, tripCurrent: 50, cutoffDelay });
    const once = simulate(doc(0));
    expect(once.deadEnd.reason).toBe('cutoff');
    const patient = simulate(doc(0.1));
    expect(patient.deadEnd.reason).toBe('cutoff');
    // Not the peak, which sags 0.4 V, but the load of 1 A ends it: OCV 3.8 V against 3.45 V. By hand.
    expect(once.socAtUseful).toBeCloseTo(0.8, 2);
    expect(patient.socAtUseful).toBeCloseTo(0.45, 2);
  });
});

describe('what loads do below their range', () => {
  // A peak of 8 A sags the cell by 0.4 V: the radio's 3.3 V are passed below 3.7 V, 3.35 V without the peak.
  const heavy: Partial<Load> = { peaks: [{ value: 8, seconds: 0.1, mode: 'on' }], essential: false };
  const radio = (more: Partial<Load>): Partial<Load> => ({
    current: 0.1,
    draws: [],
    range: { min: 3.3, max: 9 },
    essential: false,
    ...more,
  });

  it('one that resets costs its start in every cycle, and is counted', () => {
    const restart = { seconds: 2, value: 0.5 };
    const doc = cycled(
      [heavy, radio({ below: 'resets', restart }), { current: 1e-3, draws: [] }],
      undefined,
      20,
    );
    const run = simulate(doc);
    const every = simulate(doc, { everyCycle: true });
    expect(run.counts.skipped).toBeGreaterThan(10);
    expect(run.worked!.resets.l1).toBeGreaterThan(5);
    expect(Math.abs(run.worked!.resets.l1! - every.worked!.resets.l1!)).toBeLessThan(1);
    expect(run.deadEnd.time / every.deadEnd.time).toBeCloseTo(1, 2);
    expect(every.ledgerAtDead.closure).toBeLessThan(1e-9);
    const never = simulate(cycled([heavy, radio({}), { current: 1e-3, draws: [] }]));
    expect(never.worked!.resets).toEqual({});
  });

  it('one that stops is off until it is next switched on; one that is essential ends the use', () => {
    const stops = cycled([heavy, radio({ below: 'stops' }), { current: 1e-3, draws: [] }]);
    const works = cycled([heavy, radio({}), { current: 1e-3, draws: [] }]);
    const delivered = (doc: ThreadDocument) =>
      simulate(doc).ledgerAtDead.entries.find((e) => e.element === 'l1')!.joules;
    expect(delivered(stops)).toBeLessThan(0.8 * delivered(works));
    const essential = cycled([
      heavy,
      radio({ below: 'resets', restart: { seconds: 1, value: 0.2 }, essential: true }),
    ]);
    const run = simulate(essential);
    expect(run.usefulEnd.load).toMatchObject({ id: 'l1', side: 'low' });
    expect(run.socAtUseful).toBeCloseTo(3.3 + 0.05 * 8.1 - 3, 1);
    const worst = worstInstants(essential, run).find((w) => w.of === 'l1')!;
    expect(worst).toMatchObject({ mode: 'on', peaks: ['l0'] });
    expect(worst.value).toBeLessThan(3.32);
  });

  it('one that merely dims ends nothing', () => {
    const dims = simulate(cycled([radio({ below: 'dims', essential: true })]));
    expect(dims.usefulEnd.load).toBeUndefined();
    expect(dims.usefulEnd.time).toBe(dims.deadEnd.time);
  });

  it('what the pack cannot carry gives way where it can', () => {
    const doc = cycled([
      { draw: 'power', power: 1, peaks: [{ value: 90, seconds: 1 }], below: 'stops', essential: false },
      { current: 0.1, draws: [] },
    ]);
    const run = simulate(doc);
    expect(run.deadEnd.reason).toBe('empty');
    const { below, ...stubborn } = doc.loads[0]!;
    void below;
    expect(simulate({ ...doc, loads: [stubborn, doc.loads[1]!] }).deadEnd.reason).toBe('collapse');
  });

  it('shed at a charge or at volts, the others last longer by what it would have drawn', () => {
    const lamp = { current: 1, draws: [], essential: false };
    const run = simulate(
      cycled([
        { ...lamp, shed: { soc: 0.5 } },
        { current: 0.1, draws: [] },
      ]),
    );
    // Half of 1 Ah at 1.1 A, the rest at 0.1 A. By hand.
    expect(run.deadEnd.time / 3600).toBeCloseTo(0.5 / 1.1 + 0.5 / 0.1, 2);
    const byVolts = simulate(
      cycled([
        { ...lamp, shed: { volts: 3.445 } },
        { current: 0.1, draws: [] },
      ]),
    );
    expect(byVolts.deadEnd.time / run.deadEnd.time).toBeCloseTo(1, 3);
    expect(run.ledgerAtDead.closure).toBeLessThan(1e-9);
  });
});

it('random cycles with peaks, boards and loads that give way: near cycle by cycle, the account closed', () => {
  for (const doc of fc.sample(anyBusy, { numRuns: 20, seed: 11 })) {
    const [run, every] = [simulate(doc), simulate(doc, { everyCycle: true })];
    expect(Math.abs(run.usefulEnd.time / every.usefulEnd.time - 1)).toBeLessThan(5e-3);
    expect(run.deadEnd.reason).toBe(every.deadEnd.reason);
    expect(run.ledgerAtDead.closure).toBeLessThan(1e-6);
    expect(every.ledgerAtDead.closure).toBeLessThan(1e-9);
  }
});

it('the envelope holds every cycle, and one opened at a charge looks as the run had it', () => {
  const doc = cycled([{ peaks: [{ value: 3, seconds: 5 }] }], undefined, 20);
  const run = simulate(doc);
  const every = simulate(doc, { everyCycle: true });
  // The last is the one it ends in.
  const rows = run.envelope!.slice(0, -1);
  expect(every.envelope!.length).toBe(every.worked!.cycles + 1);
  for (const { time, soc, least, mean, most, watts } of rows) {
    expect(least < mean && mean < most).toBe(true);
    // Lowest at the peak's end: OCV − 0.05 · 3. Mean power by hand: 15 + 55 As of two minutes.
    expect(least).toBeCloseTo(3 + soc - 0.15, 2);
    expect(watts).toBeCloseTo((70 / 120) * (3 + soc - (0.05 * (15 * 3 + 55)) / 70), 1);
    expect(time).toBeLessThan(run.deadEnd.time);
  }
  expect(rows.length).toBeGreaterThan(20);
  const { series, through } = cycleAt(doc, 0.6)!;
  expect(through).toBe(true);
  const last = series.count - 1;
  const stride = series.data.length / series.count;
  expect(series.data[last * stride + ROW.time]).toBeCloseTo(120, 6);
  expect(series.data[last * stride + ROW.soc]).toBeCloseTo(0.6 - 70 / 3600 / 20, 5);
  expect(series.data[ROW.packVolts]).toBeCloseTo(3.6 - 0.15, 3);
});

it('idle: asleep element by element, and what a switch at each place would change', () => {
  const doc = cycled([{ draws: [{ mode: 'off', value: 2e-4 }] }], { quiescentCurrent: 1e-5 });
  doc.pack.drains = [{ name: 'Level divider', current: 4e-5 }];
  const asleep = idleDraw(compile(doc), 'off');
  expect(asleep.amps).toBeCloseTo(2.5e-4, 12);
  expect(asleep.items.map((i) => i.element)).toEqual(['l0', 'drain-1', 'protection']);
  // 1 Ah less the 1 % below the end voltage. By hand.
  expect(asleep.hoursToEnd).toBeCloseTo(0.99 / 2.5e-4, 0);
  const cuts = idleCuts(doc);
  expect(cuts.map((c) => c.before)).toEqual(['cells', 'protection']);
  expect(cuts[0]!.hoursToEnd).toBe(Infinity);
  expect(cuts[1]!.amps).toBeCloseTo(5e-5, 12);
  expect(idleDraw(compile(doc)).amps).toBeCloseTo(5e-5, 12);
  const switched = { ...doc, pack: { ...doc.pack, drains: [{ ...doc.pack.drains[0]!, switched: true }] } };
  expect(idleCuts(switched)[1]!.amps).toBeCloseTo(1e-5, 12);
  const own = simulate(doc).ledgerAtDead.entries.filter((e) => e.mechanism === 'own draw');
  expect(own[1]!.joules / own[0]!.joules).toBeCloseTo(4, 9);
});

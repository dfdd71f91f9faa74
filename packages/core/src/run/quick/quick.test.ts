import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyWhole } from '../../../test/everything.ts';
import { load, plainCell, thread } from '../../../test/build.ts';
import { demoThreads, quickLook, simulate, type Quick, type ThreadDocument } from '../../../test/core.ts';
import { Wave } from './cycle.ts';

const AH = 3600;

function bounds(doc: ThreadDocument): Extract<Quick, { kind: 'bounds' }> {
  const found = quickLook(doc);
  if (found.kind !== 'bounds') throw new Error(`it says ${found.why}`);
  return found;
}

/** A thread that draws one current for some seconds and another for others, again and again. */
function pulsed(
  amps: [number, number],
  seconds: [number, number],
  more: Parameters<typeof thread>[0],
): ThreadDocument {
  const modes = ['rest', 'work'].map((id) => ({ id, name: id }));
  const draws = modes.map(({ id }, k) => ({ mode: id, value: amps[k]! }));
  const loads = [load('current', amps[1], { draws }), ...more.loads];
  const segments = modes.map(({ id }, k) => ({ mode: id, seconds: seconds[k]! }));
  return { ...thread({ ...more, loads }), modes, programme: { segments, after: 'repeat' } };
}

const board = (cutoffVolts: number) => ({
  cutoffVolts,
  tripCurrent: 50,
  resistance: 0,
  quiescentCurrent: 0,
  grade: 'assumed' as const,
});

describe('what follows slowly through a cycle', () => {
  it('is what small steps come to after many cycles: its least, its most and its mean in each of the draws', () => {
    const seconds = [40, 7, 150, 7];
    const turns = [0, 1, 2, 1].map((draws, k) => ({ draws, seconds: seconds[k]!, mode: 0 }));
    const shares = Float64Array.of(40 / 204, 14 / 204, 150 / 204);
    const cycle = {
      draws: [0, 1, 2] as never[],
      again: 3,
      turns,
      first: [],
      period: 204,
      shares,
      longest: shares,
    };
    const drive = Float64Array.of(0.2, 3, 0.01);
    const tau = 90;
    const wave = new Wave(cycle).follow(drive, tau);
    const [low, high, sum] = [
      [9, 9, 9],
      [0, 0, 0],
      [0, 0, 0],
    ];
    let v = 0;
    const dt = 0.001;
    for (let n = 0; n < 20; n++) {
      for (const t of turns) {
        for (let k = 0; k < Math.round(t.seconds / dt); k++) {
          const next = drive[t.draws]! + (v - drive[t.draws]!) * (1 - dt / tau + (dt / tau) ** 2 / 2);
          if (n === 19) {
            low[t.draws] = Math.min(low[t.draws]!, v, next);
            high[t.draws] = Math.max(high[t.draws]!, v, next);
            sum[t.draws]! += (dt * (v + next)) / 2;
          }
          v = next;
        }
      }
    }
    expect(wave.start).toBeCloseTo(v, 5);
    for (const k of [0, 1, 2]) {
      expect(wave.low[k]).toBeCloseTo(low[k]!, 5);
      expect(wave.high[k]).toBeCloseTo(high[k]!, 5);
      expect(wave.mean[k]).toBeCloseTo(sum[k]! / (204 * shares[k]!), 5);
    }
    expect(wave.whole()).toBeCloseTo((sum[0]! + sum[1]! + sum[2]!) / 204, 5);
  });
});

describe('how long a thread is of use, without running it', () => {
  it('by a constant power: its energy over it; by a current through a resistance: to where the board opens', () => {
    const watts = thread({ cell: plainCell(2, 3, 4.2, 1e-9), loads: [load('power', 1.5)] });
    // Lines between two dozen states of charge leave 7e-5.
    expect(Math.abs(bounds(watts).likely / ((2 * AH * 3.6) / 1.5) - 1)).toBeLessThan(1e-4);
    // 3 V at the terminals: OCV 3 + 0.8·0.25 = 3.2 V, of 3 to 4.2 V one sixth is left of 90 %.
    const pack = { startSoc: 0.9, protection: board(3), parallel: 2, series: 3 };
    const amps = thread({ cell: plainCell(2, 3, 4.2, 0.25), pack, loads: [load('current', 1.6)] });
    const found = bounds(amps);
    expect(found.likely / ((0.9 - 1 / 6) * 2.5 * AH)).toBeCloseTo(1, 4);
    expect(found.latest / found.earliest).toBeLessThan(1.006);
  });

  it('by a programme: the mode that draws most ends it, the mean of all says when', () => {
    const cell = plainCell(2, 3, 4.2, 0.25);
    const doc = pulsed([0.1, 1.2], [30, 10], { cell, pack: { protection: board(3) }, loads: [] });
    // OCV 3.3 V where 1.2 A meet 3 V: three quarters of the charge by 0.375 A
    const found = bounds(doc);
    expect(Math.abs(found.likely - (0.75 * 2 * AH) / 0.375)).toBeLessThan(45);
    expect(found.endsIn).toBe('work');
  });

  it('a branch is settled where a stretch is long, at its mean where it is short', () => {
    const branch = { ohms: [0.25, 0.25], farads: [400, 400], soc: [0, 1] };
    const cell = { ...plainCell(2, 3, 4.2, 0.05), branches: [branch] };
    const pack = { protection: board(3) };
    // 0.3 V over both: one quarter is left
    const steady = thread({ cell, pack, loads: [load('current', 1)] });
    expect(bounds(steady).likely / (0.75 * 2 * AH)).toBeCloseTo(1, 3);
    // 1 s of 1 A in 10 s, τ 100 s: at the end of that second R1 stands at I·R1·(1 − e^−0.01)/(1 − e^−0.1)
    const short = pulsed([0, 1], [9, 1], { cell, pack, loads: [] });
    const left = (0.05 + (0.25 * Math.expm1(-0.01)) / Math.expm1(-0.1)) / 1.2;
    const found = bounds(short);
    expect(found.likely / ((1 - left) * 20 * AH)).toBeCloseTo(1, 3);
    const run = simulate(short).usefulEnd.time;
    expect(Math.abs(found.likely / run - 1)).toBeLessThan(1e-3);
    expect(found.earliest).toBeLessThan(run);
    expect(found.latest).toBeGreaterThan(run);
  });

  it('a cycle that is long beside its life: to the second in which the heavy stretch ends it', () => {
    const cell = plainCell(2, 3, 4.2, 0.25);
    const doc = pulsed([0.1, 1.2], [3000, 1000], { cell, pack: { protection: board(3) }, loads: [] });
    // 5,400 of 7,200 C: three cycles of 1,500, a rest of 300, then 600 by 1.2 A
    expect(Math.abs(bounds(doc).likely - 15_500)).toBeLessThan(5);
  });

  it('a board that waits is counted in; a start that opens it at once ends it', () => {
    const cell = plainCell(2, 3, 4.2, 0.25);
    const protection = { ...board(3), cutoffDelay: 600 };
    const waits = thread({ cell, pack: { protection }, loads: [load('current', 1)] });
    const run = simulate(waits).usefulEnd.time;
    expect(bounds(waits).latest).toBeGreaterThan(run);
    expect(bounds(waits).earliest).toBeLessThan(run - 600);
    const peaks = [{ value: 5, seconds: 0.2 }];
    const starts = pulsed([1, 1], [60, 60], {
      cell,
      pack: { protection: { ...board(2.5), tripCurrent: 3 } },
      loads: [],
    });
    const trips = { ...starts, loads: [load('current', 1, { peaks })] };
    expect(simulate(trips).usefulEnd.time).toBe(0);
    expect(bounds(trips).latest).toBeLessThan(60);
    expect(bounds(starts).earliest).toBeGreaterThan(3600);
  });

  it('a branch lags behind where its resistance grows; cells that warm themselves are colder and warmer than it takes them', () => {
    const branch = { ohms: [0.3, 0.1], farads: [800, 800], soc: [0, 1] };
    const cell = { ...plainCell(2, 3, 4.2, 0.02), branches: [branch] };
    const fast = thread({ cell, pack: { protection: board(3) }, loads: [load('current', 4)] });
    const run = simulate(fast).usefulEnd.time;
    expect(Math.abs(bounds(fast).likely / run - 1)).toBeLessThan(2e-3);
    const temperature = { activation: 30_000, grade: 'assumed' as const };
    const warmth = { heatCapacity: 45, resistance: 12, grade: 'assumed' as const };
    const warms = {
      ...thread({
        cell: { ...plainCell(2, 3, 4.2, 0.12), temperature },
        pack: { protection: board(3), warmth },
        loads: [load('power', 5)],
      }),
      surroundings: { minAir: -20, air: 0, maxAir: 40 },
    };
    const found = bounds(warms);
    const time = simulate(warms).usefulEnd.time;
    expect(Math.abs(found.likely / time - 1)).toBeLessThan(2e-3);
    expect(found.earliest).toBeLessThan(time * 0.99);
    expect(found.latest).toBeGreaterThan(time);
  });

  it('what does not repeat, unlike cells side by side, and what gives way before the end are left to the run', () => {
    const cell = plainCell(2, 3, 4.2, 0.05);
    const doc = pulsed([0.1, 1.2], [30, 10], { cell, loads: [] });
    expect(quickLook({ ...doc, programme: { ...doc.programme!, after: 'stay' } })).toEqual({
      kind: 'open',
      why: 'once',
    });
    const lamp = { id: 'lamp', essential: false, range: { min: 3.6, max: 5 }, below: 'stops' as const };
    const gives = thread({ cell, loads: [load('current', 0.2), load('current', 0.1, lamp)] });
    expect(quickLook(gives)).toEqual({ kind: 'open', why: 'givesWay' });
    const odd = { count: 1, capacity: 0.8, resistance: 1.3 };
    const unlike = thread({ cell, pack: { parallel: 2, odd }, loads: [load('current', 0.2)] });
    expect(quickLook(unlike)).toEqual({ kind: 'open', why: 'unlikeCells' });
  });

  it.each(demoThreads().map((d) => [d.name, d] as const))(
    '%s: the run lies between, near the likely',
    (_, doc) => {
      const run = simulate(doc).usefulEnd.time;
      const found = bounds(doc);
      expect(found.earliest).toBeLessThanOrEqual(run);
      expect(found.latest).toBeGreaterThanOrEqual(run);
      expect(Math.abs(found.likely / run - 1)).toBeLessThan(1e-3);
    },
  );

  it('random threads with everything in them: the run lies between', () => {
    let said = 0;
    fc.assert(
      fc.property(anyWhole, (doc) => {
        const found = quickLook(doc);
        if (found.kind !== 'bounds') return;
        const { usefulEnd, deadEnd } = simulate(doc);
        if (deadEnd.reason === 'unfinished') return;
        said++;
        expect(usefulEnd.time).toBeGreaterThanOrEqual(found.earliest);
        expect(usefulEnd.time).toBeLessThanOrEqual(found.latest);
      }),
      { numRuns: 40, seed: 5, endOnFailure: true },
    );
    expect(said).toBeGreaterThan(15);
  });
});

import { crossing } from '@mile-thread/core';
import { namesApart, voltScale } from './reachScale.ts';
import { demoThreads } from '@mile-thread/core';
import { applyEdits, decodeThread, lawIn, type Draw, type ThreadDocument } from '@mile-thread/core/model';
import { simulate } from '@mile-thread/core/solve';
import { describe, expect, it } from 'vitest';
import {
  addMode,
  addSegment,
  copyMode,
  endProgramme,
  modeAt,
  moveSegment,
  nearestIn,
  removeSegment,
  setDraw,
  setSeconds,
  startProgramme,
} from '../../document/programme.ts';
import { changeDraw } from '../../document/commands.ts';
import { railsOf, scoreOf, wattsOf, why } from './model.ts';

const sampler = demoThreads().find((t) => t.name === 'Lake water sampler')!;
const { wait, ...goals } = sampler.goals;
void wait;
const steady: ThreadDocument = {
  ...sampler,
  goals,
  loads: sampler.loads.map(({ draws, peaks, ...l }) => (void [draws, peaks], l)),
};
delete steady.programme;
delete steady.modes;
delete steady.charging;

describe('the score', () => {
  const doc = applyEdits(steady, startProgramme(steady));

  it('mean and worst of the loads are those of the cycle: 38 W and 35 mA at 3.3 V, one minute in eleven', () => {
    const score = scoreOf(doc, 800);
    const all = 38 + 0.035 * 3.3;
    expect(score.sum[0]).toBeCloseTo(all, 9);
    expect(score.sum[1]).toBe(0);
    expect(score.mean).toBeCloseTo(all / 11, 9);
    expect(score.worst).toEqual({ watts: score.sum[0], column: 0, peaks: [] });
    expect(score.period).toBe(660);
  });

  it('a longer stretch is wider, all together are the width, milliseconds have room beside hours', () => {
    const far = applyEdits(doc, [...setSeconds(0, 0.3), ...setSeconds(1, 34.5 * 60)]);
    const { columns } = scoreOf(far, 800);
    expect(columns[1]!.width).toBeGreaterThan(columns[0]!.width);
    expect(columns[0]!.width).toBeGreaterThan(90);
    expect(columns[1]!.x + columns[1]!.width).toBeCloseTo(800, 9);
    expect(columns[1]!.x).toBeCloseTo(columns[0]!.width, 9);
  });

  it('peaks stand at the entry of their mode, or where the load is switched on, and are the worst', () => {
    const score = scoreOf(sampler, 800);
    const [pump, logger] = score.lanes;
    expect(pump!.peaks.map((p) => [p.column, p.watts])).toEqual([[0, 1.8 * 38]]);
    expect(logger!.peaks.map((p) => p.column)).toEqual([3]);
    // The stated 120 mA at 3.3 V.
    expect(logger!.peaks[0]!.watts).toBeCloseTo(0.12 * 3.3, 9);
    expect(score.worst.watts).toBeCloseTo(1.8 * 38 + 0.035 * 3.3, 9);
    expect(score.worst.peaks).toEqual(['Peristaltic pump']);
    // 38 W, and 0.8 · 38 W more for 0.3 s, of a cycle of 36 minutes.
    const calm = scoreOf({ ...sampler, loads: sampler.loads.map(({ peaks, ...l }) => (void peaks, l)) }, 800);
    expect(score.mean - calm.mean).toBeCloseTo((0.8 * 38 * 0.3 + 2 * (0.12 - 0.0004) * 3.3 * 0.2) / 2160, 9);
  });

  it('watts of a load by what it keeps constant', () => {
    const [load] = steady.loads;
    const watts = (draw: Draw, value: number) =>
      wattsOf(lawIn({ ...load!, draws: [{ mode: 'm', draw, value }], string: 8, slope: 4 }, 'm'), 10);
    expect([watts('power', 5), watts('current', 2), watts('resistance', 20), watts('resistance', 0)]).toEqual(
      [5, 20, 5, 0],
    );
    // (10 − 8) V over 4 Ω, half of the time.
    expect(watts('string', 0.5)).toBeCloseTo(2.5, 9);
  });
});

describe('changes of a programme', () => {
  const edits = (doc: ThreadDocument, change: ReturnType<typeof addMode>) => {
    const read = decodeThread(applyEdits(doc, change));
    expect(read.ok).toBe(true);
    return (read as { value: ThreadDocument }).value;
  };

  it('leave a thread that can be read, and the way back leads to the one before', () => {
    let doc = edits(steady, startProgramme(steady));
    doc = edits(doc, addMode(doc));
    doc = edits(doc, setDraw(doc.loads[0]!, 'mode-1', 12));
    doc = edits(doc, addSegment(doc, 0));
    expect(doc.programme!.segments.map((s) => s.mode)).toEqual(['work', 'work', 'rest', 'mode-1']);
    doc = edits(doc, removeSegment(doc, 3));
    expect(doc.modes!.map((m) => m.id)).toEqual(['work', 'rest']);
    expect(doc.loads[0]!.draws).toEqual([{ mode: 'rest', value: 0 }]);
    expect(edits(doc, endProgramme(doc))).toEqual(steady);
    expect(
      removeSegment({ ...doc, programme: { ...doc.programme!, segments: [doc.programme!.segments[0]!] } }, 0),
    ).toEqual([]);
  });
});

describe('what hangs on a mode', () => {
  const read = (doc: ThreadDocument) => decodeThread(doc).ok;

  it('goes with it: draws, peaks, the wait', () => {
    let doc: ThreadDocument = sampler;
    expect(read(doc)).toBe(true);
    doc = applyEdits(doc, removeSegment(doc, 3));
    expect(read(doc)).toBe(true);
    expect(doc.goals.wait).toBeUndefined();
    expect(doc.charging!.mode).toBeUndefined();
    expect(doc.loads[1]!.peaks).toEqual([]);
    expect(doc.loads[0]!.peaks).toHaveLength(1);
    const none = applyEdits(sampler, endProgramme(sampler));
    expect(read(none)).toBe(true);
    expect(none.modes).toBeUndefined();
  });

  it('a thread that has modes begins its programme with them', () => {
    const [microscope] = demoThreads();
    const doc = applyEdits(microscope!, startProgramme(microscope!));
    expect(read(doc)).toBe(true);
    expect(doc.programme!.segments.map((s) => s.mode)).toEqual(['film', 'aim']);
    expect(doc.loads).toEqual(microscope!.loads);
  });

  it('another kind of draw leaves the modes and peaks as they were', () => {
    for (const draw of ['current', 'resistance', 'string'] as const) {
      const [pump] = sampler.loads;
      const doc = applyEdits(sampler, changeDraw(pump!, draw));
      expect(read(doc)).toBe(true);
      expect(lawIn(doc.loads[0]!, 'fill')).toEqual(lawIn(pump!, 'fill'));
      expect(lawIn(doc.loads[0]!, 'wait').factor).toBe(0);
      // About the same at the middle of its range.
      expect(wattsOf(lawIn(doc.loads[0]!, 'rinse'), 23.5) / 38).toBeCloseTo(1, 2);
      const back = applyEdits(doc, changeDraw(doc.loads[0]!, 'power'));
      expect(read(back)).toBe(true);
      expect(lawIn(back.loads[0]!, 'drip').value).toBe(12);
    }
  });

  it('a mode is copied with what is drawn in it', () => {
    const doc = applyEdits(sampler, copyMode(sampler, 1));
    expect(read(doc)).toBe(true);
    expect(doc.programme!.segments.map((s) => s.mode)).toEqual(['rinse', 'fill', 'mode-1', 'drip', 'wait']);
    expect(doc.modes!.at(-1)!.name).toBe('Fill copy');
    expect(doc.loads[0]!.draws!.at(-1)).toEqual({ mode: 'mode-1', value: 26 });
  });

  it('stretches change places', () => {
    const doc = applyEdits(sampler, moveSegment(sampler, 2, -1));
    expect(doc.programme!.segments.map((s) => s.mode)).toEqual(['rinse', 'drip', 'fill', 'wait']);
    expect(moveSegment(sampler, 0, -1)).toEqual([]);
  });
});

describe('packs and rails', () => {
  it('each rail asks for what hangs on it, in its hungriest stretch', () => {
    const rails = railsOf(steady, scoreOf(steady, 800));
    expect(rails.map((r) => [r.name, r.kind])).toEqual([
      ['Pump rail', 'boost'],
      ['Logger rail', 'buck'],
    ]);
    expect(rails[0]).toMatchObject({ volts: 24, min: 22, max: 25, watts: 38 });
  });

  it('a crossing taken is a thread that runs, with its cells in series and its kind of stage', () => {
    const [pump] = railsOf(steady, scoreOf(steady, 800));
    const seven = crossing(steady, pump!.id, 7);
    expect(why(steady, seven, pump!)).toMatch(/holds its 24\.0.V from above and from below/);
    const doc = applyEdits(steady, seven.edits);
    expect(doc.pack.series).toBe(7);
    // Another part than the one that took 22 V at the most: its limits are assumed, and take 29.4 V.
    expect(doc.stages[0]).toMatchObject({ kind: 'buckBoost', maxInput: 33, grade: 'assumed' });
    const five = applyEdits(steady, crossing(steady, pump!.id, 5).edits);
    expect(five.stages).toEqual(steady.stages);
    expect(simulate(five).usefulEnd.time).toBeGreaterThan(simulate(steady).usefulEnd.time);
    expect(crossing(steady, pump!.id, steady.pack.series).edits).toEqual([]);
  });
});

it('the mode at a time: from the first again, or the last one for good', () => {
  const doc = applyEdits(steady, startProgramme(steady));
  const names = (d: ThreadDocument) => [0, 59, 60, 659, 660, 6660].map((t) => modeAt(d, t)!.name);
  expect(names(doc)).toEqual(['Work', 'Work', 'Rest', 'Rest', 'Work', 'Rest']);
  const once = { ...doc, programme: { ...doc.programme!, after: 'stay' as const } };
  expect(names(once)).toEqual(['Work', 'Work', 'Rest', 'Rest', 'Rest', 'Rest']);
  expect(modeAt(steady, 5)).toBeUndefined();
  expect(nearestIn(doc, 'rest', 6610, 1e6)).toBe(6000 + 300);
  expect(nearestIn(doc, 'work', 6900, 6950)).toBe(6630);
  expect(nearestIn(once, 'rest', 5, 2000)).toBe(360);
  expect(nearestIn(steady, 'rest', 5, 2000)).toBeUndefined();
});

it('volts are drawn by their logarithm, within the drawing; names step aside in their order', () => {
  const { y, ticks, height } = voltScale([
    [2.5, 4.2],
    [22, 33.6],
  ]);
  expect(y(4) - y(8)).toBeCloseTo(y(8) - y(16), 9);
  expect(y(33.6)).toBeGreaterThan(0);
  expect(y(2.5)).toBeLessThan(height);
  expect(y(2.5)).toBeGreaterThan(y(33.6));
  expect(ticks).toEqual([3, 5, 10, 20, 30]);
  const places = namesApart([100, 20, 101, 102, 165], height);
  const sorted = [...places].sort((a, b) => a - b);
  expect(sorted.every((p, k) => k === 0 || p - sorted[k - 1]! >= 17 - 1e-9)).toBe(true);
  expect(places[1]).toBe(20);
  expect(places[0]!).toBeLessThan(places[2]!);
  expect(places[2]!).toBeLessThan(places[3]!);
  expect(sorted.at(-1)!).toBeLessThanOrEqual(height);
});

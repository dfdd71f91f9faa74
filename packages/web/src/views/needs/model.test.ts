import { demoThreads } from '@mile-thread/core';
import { applyEdits, decodeThread, type ThreadDocument } from '@mile-thread/core/model';
import { simulate } from '@mile-thread/core/solve';
import { describe, expect, it } from 'vitest';
import {
  addMode,
  addSegment,
  endProgramme,
  modeAt,
  moveSegment,
  removeSegment,
  setDraw,
  setSeconds,
  startProgramme,
} from '../../document/programme.ts';
import { railsOf, scoreOf, wattsOf } from './model.ts';
import { takeEdits } from './ReachPanel.tsx';

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

describe('the score', () => {
  const doc = applyEdits(steady, startProgramme(steady));

  it('mean and worst of the loads are those of the cycle: 38 W and 35 mA at 3.3 V, one minute in eleven', () => {
    const score = scoreOf(doc, 800);
    const all = 38 + 0.035 * 3.3;
    expect(score.sum[0]).toBeCloseTo(all, 9);
    expect(score.sum[1]).toBe(0);
    expect(score.mean).toBeCloseTo(all / 11, 9);
    expect(score.worst).toEqual({ watts: score.sum[0], column: 0 });
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

  it('watts of a load by what it keeps constant', () => {
    const [load] = steady.loads;
    expect(wattsOf({ ...load!, draw: 'power' }, 5, 10)).toBe(5);
    expect(wattsOf({ ...load!, draw: 'current' }, 2, 10)).toBe(20);
    expect(wattsOf({ ...load!, draw: 'resistance' }, 20, 10)).toBe(5);
    expect(wattsOf({ ...load!, draw: 'resistance' }, 0, 10)).toBe(0);
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
    const doc = applyEdits(steady, takeEdits(steady, 6, pump!, 'buckBoost'));
    expect(doc.pack.series).toBe(6);
    // Another part than the one that took 22 V at the most: its limits are assumed, and take 25.2 V.
    expect(doc.stages[0]).toMatchObject({ kind: 'buckBoost', maxInput: 28, grade: 'assumed' });
    const five = applyEdits(steady, takeEdits(steady, 5, pump!, 'boost'));
    expect(five.stages).toEqual(steady.stages);
    expect(simulate(five).usefulEnd.time).toBeGreaterThan(simulate(steady).usefulEnd.time);
    expect(takeEdits(steady, steady.pack.series, pump!, 'boost')).toEqual([]);
    expect(takeEdits(steady, 1, pump!, 'not')).toEqual([]);
  });
});

it('the mode at a time: from the first again, or the last one for good', () => {
  const doc = applyEdits(steady, startProgramme(steady));
  const names = (d: ThreadDocument) => [0, 59, 60, 659, 660, 6660].map((t) => modeAt(d, t)!.name);
  expect(names(doc)).toEqual(['Work', 'Work', 'Rest', 'Rest', 'Work', 'Rest']);
  const once = { ...doc, programme: { ...doc.programme!, after: 'stay' as const } };
  expect(names(once)).toEqual(['Work', 'Work', 'Rest', 'Rest', 'Rest', 'Rest']);
  expect(modeAt(steady, 5)).toBeUndefined();
});

import { demoThreads } from '@mile-thread/core';
import { planOf, type PlanStep } from '@mile-thread/core/bench';
import { changeThread, MOST_POINTS, type BenchCell, type ThreadDocument } from '@mile-thread/core/model';
import { describe, expect, it } from 'vitest';
import {
  curveOf,
  dropping,
  intoPack,
  movedTo,
  nextNumber,
  otherUnit,
  rowsOf,
  taking,
  told,
  verdictOf,
} from './model.ts';

const step = (more: Partial<PlanStep> = {}): PlanStep =>
  ({
    id: 'set:camera-rail',
    title: 'Camera rail, set point',
    part: 'setPoints',
    unit: 'V',
    predicted: { value: 5, p10: 4.95, p90: 5.05 },
    ...more,
  }) as PlanStep;
const doc = demoThreads()[0]!;
const changed = (d: ThreadDocument, edits: Parameters<typeof changeThread>[1]) => {
  const next = changeThread(d, edits);
  if (!next.ok) throw new Error(JSON.stringify(next.issues));
  return next.value.doc;
};

describe('readings of a plan', () => {
  it('are put to their step, taken away again, and the last takes the list with it', () => {
    const one = changed(doc, taking(doc, 'run', { value: 4 }));
    expect(one.readings).toEqual([{ step: 'run', value: 4 }]);
    const two = changed(one, taking(one, 'idle', { value: 0.001, accuracy: 0.01 }));
    expect(two.readings!.map((r) => r.step)).toEqual(['run', 'idle']);
    const left = changed(two, dropping(two, 0));
    expect(left.readings!.map((r) => r.step)).toEqual(['idle']);
    expect(changed(left, dropping(left, 0)).readings).toBeUndefined();
  });

  it('stand in words: in range, over or under by so much, seen, at odds, open', () => {
    const verdict = (values: number[], more: Partial<PlanStep> = {}) => {
      const s = step(more);
      const readings = values.map((value) => ({ step: s.id, value, accuracy: 0.001 }));
      return verdictOf(rowsOf([s], { ...doc, readings })[0]!);
    };
    expect(verdict([])).toBe('');
    expect(verdict([5.01])).toBe('✓ in range');
    expect(verdict([5.4])).toMatch(/^✕ 400\.?0*\smV over, \d+\.\d deviations$/);
    expect(verdict([4.6])).toMatch(/^✕ 400\.?0*\smV under/);
    expect(verdict([5, 5.4])).toBe('✕ they cannot both be true');
    expect(verdict([1], { unit: '', id: 'look:cells' })).toBe('✓ seen');
  });

  it('typed in another unit are asked about, by a factor of a thousand either way', () => {
    const idle = step({
      id: 'idle',
      unit: 'A',
      predicted: { value: 0.008, p10: 0.007, p90: 0.009 } as never,
    });
    expect(otherUnit(idle, 8)).toBeCloseTo(0.008, 12);
    expect(otherUnit(idle, 0.0081)).toBeUndefined();
    expect(otherUnit(step(), 0.005)).toBeCloseTo(5, 9);
  });

  it('are told in the unit of their step', () => {
    expect(told(1, '')).toBe('seen');
    expect(told(3.5, 'h')).toMatch(/^3\sh 30\smin$|^3\.5\ss$/);
    expect(told(0.0123, 'A')).toMatch(/12\.3\d?0*\smA/);
  });

  it('every step of the demo threads has words for its part and stands open at first', () => {
    for (const d of demoThreads()) {
      const rows = rowsOf(planOf(d), { ...d, readings: [] });
      expect(rows.length).toBeGreaterThan(3);
      for (const row of rows) expect(verdictOf(row)).toBe('');
    }
  });
});

describe('a recording as a curve', () => {
  it('keeps so many points, the dips among them, and nothing but figures', () => {
    const rows = Array.from({ length: 3 * MOST_POINTS }, (_, k): [number, number, number] => [
      k * 0.05,
      4.2 - k * 1e-5,
      1.23456789,
    ]);
    rows[MOST_POINTS]![1] = 2.9;
    const recording = { id: 'r', threadId: 't', startedAt: Date.UTC(2026, 4, 1, 12, 0) };
    const curve = curveOf({ recording, rows, count: rows.length, beingWritten: false });
    expect(curve.seconds.length).toBeLessThanOrEqual(MOST_POINTS);
    expect(Math.min(...curve.volts)).toBe(2.9);
    expect(curve.amps![0]).toBe(1.23457);
    expect(curve.name).toMatch(/^recorded 2026-05-01 \d\d:\d\d$/);
    expect(curve.at).toBe('2026-05-01T12:00:00.000Z');
    expect(curve.seconds.every((s, k, all) => k === 0 || s > all[k - 1]!)).toBe(true);
  });
});

describe('graded cells', () => {
  const cells = ['1', '2', '3', '4'].map(
    (id, k): BenchCell => ({ id, capacity: 3 + k / 10, ohms: 0.03 }) as BenchCell,
  );
  const graded = { ...doc, graded: cells };

  it('are moved by their number to a group, the drawer or aside, the others untouched', () => {
    const at = (place: string, from = graded) => {
      const [edit] = movedTo(from, '2', place);
      return (edit as { value: BenchCell[] }).value;
    };
    expect(at('group 1')[1]).toMatchObject({ id: '2', group: 1 });
    const moved = { ...graded, graded: at('group 1') };
    expect(at('drawer', moved)[1]).toEqual({ ...cells[1], lies: 'drawer' });
    expect(at('aside', moved)[1]).not.toHaveProperty('group');
    expect(at('group 0').filter((_, k) => k !== 1)).toEqual([cells[0], cells[2], cells[3]]);
  });

  it('the next has the lowest number that is free', () => {
    expect(nextNumber(cells)).toBe('5');
    expect(nextNumber([cells[0]!, cells[2]!])).toBe('2');
    expect(nextNumber([])).toBe('1');
  });

  it('become the groups of the pack in one change, in place of odd cells', () => {
    const pack = { ...doc.pack, series: 2, parallel: 2 };
    const lying = cells.map((c, k) => ({ ...c, group: k >> 1 }));
    expect(intoPack({ ...doc, pack, graded: cells })).toEqual([]);
    const edits = intoPack({ ...doc, pack, graded: lying } as ThreadDocument);
    expect(edits.map((e) => e.path.join('.'))).toEqual(['pack.groups']);
    const odd = { count: 1, capacity: 0.9, resistance: 1 };
    const both = intoPack({ ...doc, pack: { ...pack, odd }, graded: lying } as ThreadDocument);
    expect(both[0]).toEqual({ op: 'remove', path: ['pack', 'odd'] });
  });
});

import { describe, expect, it } from 'vitest';
import { load, plainCell, seriesOhms, thread } from '../../test/build.ts';
import { defaultBuck, demoThreads, finish, type ThreadDocument } from '../../test/core.ts';
import { drawHours } from '../belief/range.ts';
import type { BenchReading } from '../model/readings.ts';
import { summaryOf } from '../belief/summary.ts';
import { compare } from './compare.ts';
import { planOf } from './plan.ts';
import { predictions } from './predict.ts';
import { readingsFrom } from './readings.ts';
import { PLAN_PARTS } from './step.ts';

/** 2S of 50 mΩ behind 0.1 Ω, 1 A by a load of constant current at the pack. */
function plain(): ThreadDocument {
  const cell = { ...plainCell(3, 3, 4.2, 0.05), grade: 'measured' as const };
  const pack = { series: 2, startSoc: 1, protection: seriesOhms(0.1, 2.5) };
  return thread({ cell, pack, loads: [{ ...load('current', 1), grade: 'assumed' }] });
}

const step = (doc: ThreadDocument, id: string) => planOf(doc).find((s) => s.id === id)!;
const reading = (id: string, value: number, more: Partial<BenchReading> = {}): BenchReading => ({
  step: id,
  value,
  ...more,
});

describe('the measuring plan', () => {
  it('predicts by hand: volts open, under 1 A, the current and its range by the grade of the load', () => {
    const doc = plain();
    expect(step(doc, 'open:pack').predicted!.value).toBeCloseTo(8.4, 9);
    expect(step(doc, 'open:cell').predicted!.value).toBeCloseTo(4.2, 9);
    // 8.4 V less 1 A over two cells and the board.
    expect(step(doc, 'sag:').predicted!.value).toBeCloseTo(8.4 - (2 * 0.05 + 0.1), 6);
    const { value, p10, p90 } = step(doc, 'draw:').predicted!;
    expect(value).toBeCloseTo(1, 9);
    // Assumed figures are within a quarter, 95 of 100: a deviation of an eighth.
    expect(p90 - value).toBeCloseTo(1.2816 * 0.125, 3);
    expect(value - p10).toBeCloseTo(1.2816 * 0.125, 3);
    expect(step(doc, 'cutoff').predicted!.value).toBeCloseTo(5, 9);
  });

  it('the run-down has the range that two hundred draws have, to what first order leaves', () => {
    const doc = demoThreads().find((t) => t.name.includes('microscope'))!;
    const { p10, p90, value } = step(doc, 'run').predicted!;
    const drawn = summaryOf(finish(drawHours(doc, 1, 0, 200)).hours);
    expect((p90 - p10) / (drawn.p90 - drawn.p10)).toBeGreaterThan(0.75);
    expect((p90 - p10) / (drawn.p90 - drawn.p10)).toBeLessThan(1.3);
    expect(value).toBeGreaterThan(drawn.p10);
    expect(value).toBeLessThan(drawn.p90);
  });

  it('goes in safe order, names each step once, and has no step that the design has no use for', () => {
    // One with charger and mains, and the one whose runs cost most: what a plan may cost holds all of its figures.
    for (const doc of demoThreads().filter((t) => /lock|puppet/.test(t.name))) {
      const found = predictions(doc);
      expect(found.leftOut, doc.name).toBe(0);
      const plan = planOf(doc, found);
      const parts = plan.map((s) => PLAN_PARTS.indexOf(s.part));
      expect([...parts].sort((a, b) => a - b)).toEqual(parts);
      expect(new Set(plan.map((s) => s.id)).size).toBe(plan.length);
      for (const { predicted: p } of plan) {
        if (!p) continue;
        expect(p.p10).toBeLessThanOrEqual(p.value);
        expect(p.p90).toBeGreaterThanOrEqual(p.value);
      }
    }
    const bare = { ...plain(), loads: [] };
    delete bare.pack.protection;
    const ids = planOf(bare).map((s) => s.id);
    expect(ids).toEqual(['look', 'open:cell', 'open:pack']);
    // A set point is measured before anything hangs on it, and says above what nothing may.
    const railed = { ...plain(), stages: [defaultBuck('b', 'pack', 5)] };
    railed.loads = [load('current', 1, { from: 'b', range: { min: 4.8, max: 5.3 } })];
    expect(step(railed, 'set:b').caution).toContain('Above 5.3 V');
  });
});

describe('readings against it', () => {
  const doc = plain();
  const draw = step(doc, 'draw:');
  it('off by deviations of prediction and instrument together', () => {
    expect(compare(draw, [])).toEqual({ count: 0, verdict: 'open' });
    // An eighth and 4 % of 1.3 A, as squares.
    const { off, verdict } = compare(draw, [reading('draw:', 1.3, { accuracy: 0.04 })]);
    expect(off).toBeCloseTo(0.3 / Math.hypot(0.125, 0.052), 2);
    expect(verdict).toBe('off');
    expect(compare(draw, [reading('draw:', 1.2)]).verdict).toBe('inRange');
    expect(compare(draw, [reading('draw:', 0.6)]).off).toBeLessThan(-2);
    // Of another step it says nothing.
    expect(compare(draw, [reading('idle', 1.2)]).verdict).toBe('open');
  });

  it('readings that cannot both be true are told, and neither is dropped', () => {
    const both = [reading('draw:', 0.9, { accuracy: 0.01 }), reading('draw:', 1.1, { accuracy: 0.01 })];
    const found = compare(draw, both);
    expect(found).toMatchObject({ verdict: 'atOdds', count: 2 });
    expect(found.value).toBeCloseTo(1, 9);
    const close = [reading('draw:', 0.99, { accuracy: 0.01 }), reading('draw:', 1.02, { accuracy: 0.01 })];
    expect(compare(draw, close).verdict).toBe('inRange');
  });

  it('a thousand times too much is asked about', () => {
    expect(compare(draw, [reading('draw:', 1043)]).perhaps).toBe('thousand');
    expect(compare(draw, [reading('draw:', 0.00098)]).perhaps).toBe('thousandth');
    expect(compare(draw, [reading('draw:', 30)]).perhaps).toBeUndefined();
  });
});

describe('a plan that was filled in', () => {
  it('gives readings with their units; what cannot be read is told by its line, the rest comes in', () => {
    const plan = planOf(plain());
    const table = [
      ['step', 'id', 'read', 'accuracy'],
      ['…', 'draw:', '1,03', '1 %'],
      ['…', 'idle', '', ''],
      ['…', 'sag:', '8190 mV', ''],
      ['…', 'nowhere', '3', ''],
      ['…', 'run', 'long', ''],
      ['…', 'open:pack', '____________', ''],
    ];
    const { readings, issues } = readingsFrom(table, plan);
    expect(readings).toEqual([
      { step: 'draw:', value: 1.03, accuracy: 0.01 },
      { step: 'sag:', value: 8.19 },
    ]);
    expect(issues.map((i) => [i.path, i.given])).toEqual([
      ['line 5', '"nowhere"'],
      ['line 6', '"long"'],
    ]);
    // What cannot be is told, and takes nothing else with it.
    const wrong = readingsFrom(
      [
        ['id', 'read'],
        ['idle', '1e300 A'],
        ['sag:', '-12.3 V'],
        ['draw:', '1 A'],
      ],
      plan,
    );
    expect(wrong.readings).toEqual([{ step: 'draw:', value: 1 }]);
    expect(wrong.issues.map((i) => i.path)).toEqual(['line 2', 'line 3']);
    expect(wrong.issues[1]!.allowed).toContain('wrong way round');
    expect(readingsFrom([['a', 'b']], plan).issues[0]!.allowed).toBe('the columns id and read');
  });
});

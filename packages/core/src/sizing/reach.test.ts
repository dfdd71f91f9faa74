import { expect, it } from 'vitest';
import { load, plainCell, thread } from '../../test/build.ts';
import {
  defaultBoost,
  defaultBuck,
  defaultBuckBoost,
  type Stage,
  type ThreadDocument,
} from '../../test/core.ts';
import { leastOn, railHeld } from './held.ts';
import { crossing } from './reach.ts';

/** 2.8 V at its end, 4.2 V full, 5 Ah that may give 10 A: the ranges below are sums anyone can do. */
const cell = { ...plainCell(5, 2.79, 4.2, 0.02), endVolts: 2.8, dischargeRate: 2 };

/** A load of some watts that stands so many volts, on the pack itself. */
function doc(series: number, min: number, max: number, watts = 10, parallel = 1): ThreadDocument {
  return thread({
    cell,
    pack: { series, parallel },
    loads: [{ ...load('power', watts), id: 'l', range: { min, max } }],
  });
}
const way = (series: number, min: number, max: number, watts = 10) =>
  crossing(doc(2, min, max, watts), 'l', series).way;
/** The same behind a stage. */
const behind = (d: ThreadDocument, stage: Stage): ThreadDocument => ({
  ...d,
  stages: [stage],
  loads: d.loads.map((l) => ({ ...l, from: stage.id })),
});

it('a rail is reached by what the whole range of the pack’s volts asks for', () => {
  // 22–24 V: 4S is 11.2–16.8 V, 6S 16.8–25.2 V, 10S 28–42 V.
  expect([4, 6, 10].map((s) => way(s, 22, 24))).toEqual(['boost', 'buckBoost', 'buck']);
  // 5S is 21.0 V full: below, so a boost.
  expect(way(5, 22, 25)).toBe('boost');
  // 3.0–3.6 V: one cell lies on both sides; two never come below 5.6 V.
  expect([1, 2].map((s) => way(s, 3, 3.6, 1))).toEqual(['buckBoost', 'buck']);
  // 8.4–12.6 V of three cells lie in 8–13 V: nothing is needed.
  expect(way(3, 8, 13)).toBe('direct');
});

it('the load’s range decides, not the set volts: a buck that sags within it holds, a boost that lets through what is stood too', () => {
  // 4S, 11.2–16.8 V, into 8–16 V by a buck set to 12 V: at the end it gives 10.6 V and less, which is enough.
  const buck = { ...defaultBuck('b', 'pack', 12), maxDuty: 0.95 };
  const held = behind(doc(4, 8, 16), buck);
  expect(railHeld(held, 'b').misfit).toBeUndefined();
  expect(crossing(held, 'b', 4)).toMatchObject({ way: 'buck', edits: [] });
  expect(leastOn(held, buck)).toBe(8);
  // With nothing between, the full pack is 0.8 V too high, before anything is drawn.
  expect(railHeld(doc(4, 8, 16), 'l').misfit).toMatchObject({ why: 'high', stands: 16 });
  // 12.6 V into 12 V: 12.2 V and 13 V are stood, 12.5 V are not.
  const boost = (max: number) => behind(doc(3, 11, max), defaultBoost('b', 'pack', 12));
  expect(crossing(boost(13), 'b', 3)).toMatchObject({ way: 'boost', edits: [] });
  expect(crossing(boost(13), 'b', 3)).not.toHaveProperty('simpler');
  expect(railHeld(boost(12.05), 'b').misfit).toMatchObject({ why: 'high' });
  // 5 V by a boost from 6S: it is a buck that holds it, not both ways.
  const five = behind(doc(6, 4.75, 5.25), { ...defaultBoost('b', 'pack', 5), maxInput: 40 });
  expect(crossing(five, 'b', 6)).toMatchObject({ way: 'buck', now: { misfit: { why: 'high' } } });
  // What would do with less is said: both ways where down is enough.
  const much = behind(doc(6, 4.75, 5.25), { ...defaultBuckBoost('b', 'pack', 5), maxInput: 40 });
  expect(crossing(much, 'b', 6)).toMatchObject({ way: 'buckBoost', edits: [], simpler: 'buck' });
});

it('by the record: its lock-out, its largest input, its duty, and down to which volts', () => {
  // 2S to 5.6 V; a buck of 5.5 V that needs (5.5 + 0.1·1.8)/0.95 = 5.98 V of what the load must have: 5.45 V at 5.93 V.
  const d = doc(2, 5.45, 6, 10);
  const buck = { ...defaultBuck('b', 'pack', 5.5), maxDuty: 0.95, dropoutResistance: 0.1, minInput: 4 };
  const found = railHeld(behind(d, buck), 'b');
  expect(found.misfit).toMatchObject({ why: 'low', stage: { id: 'b', mode: 'dropout' } });
  // V·0.95 − 0.1·(10/5.45) = 5.45
  expect(found.downTo).toBeCloseTo((5.45 + 1 / 5.45) / 0.95, 3);
  const locked = railHeld(behind(doc(2, 4, 6, 4), { ...buck, outputVolts: 4.5, minInput: 6.5 }), 'b');
  expect(locked).toMatchObject({ misfit: { why: 'low', stage: { mode: 'lockedOut' } } });
  expect(locked.downTo).toBeCloseTo(6.5, 3);
  // A module of 32 V is no way for 8S of 33.6 V.
  const module = behind(doc(7, 11, 13), { ...defaultBuck('b', 'pack', 12), maxInput: 32 });
  expect(railHeld({ ...module, pack: { ...module.pack, series: 8 } }, 'b').misfit).toMatchObject({
    why: 'input',
    stands: 32,
  });
});

it('and not where a cell would have to give more than it may', () => {
  // 68 W through a boost from 5.6 V are 13 A and more; the cell may give 10 A.
  const asked = crossing(doc(2, 22, 25, 68), 'l', 2);
  expect(asked).toMatchObject({ way: 'not', held: { may: 10 } });
  expect(asked.held.asks).toBeGreaterThan(68 / 5.6);
  expect(crossing(doc(2, 22, 25, 68, 2), 'l', 2).way).toBe('boost');
});

it('where the limits of the one in use are too narrow, another of its kind rather than more of a kind than is needed', () => {
  const boost = behind(doc(4, 22, 25, 38), {
    ...defaultBoost('b', 'pack', 24),
    inputLimit: 4.2,
    maxInput: 22,
  });
  expect(crossing(boost, 'b', 4)).toMatchObject({ way: 'boost', edits: [] });
  const three = crossing(boost, 'b', 3);
  expect(three).toMatchObject({ way: 'boost', another: true });
  expect(three.edits.at(-1)!.value).toMatchObject({ kind: 'boost', grade: 'assumed' });
});

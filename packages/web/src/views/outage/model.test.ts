import { demoThreads } from '@mile-thread/core';
import { heldFrom, meeting, JOIN_WAYS, wayOf } from '@mile-thread/core/charging';
import { changeThread } from '@mile-thread/core/model';
import { describe, expect, it } from 'vitest';
import { removeNode } from '../../document/commands.ts';
import { byCycles, dragged, labelled, neededFor, strikes } from './model.ts';

const door = demoThreads().find((d) => d.name === 'Library door lock')!;

it('an outage stays within the timeline however it is dragged, to a quarter of an hour', () => {
  const own = { from: 10, hours: 4 };
  expect(dragged(own, 'whole', 3.1, 24)).toEqual({ from: 13, hours: 4 });
  expect(dragged(own, 'whole', 30, 24)).toEqual({ from: 20, hours: 4 });
  expect(dragged(own, 'whole', -30, 24)).toEqual({ from: 0, hours: 4 });
  expect(dragged(own, 'end', 30, 24)).toEqual({ from: 10, hours: 14 });
  expect(dragged(own, 'end', -30, 24)).toEqual({ from: 10, hours: 0.25 });
  // Its end stays where it is.
  expect(dragged(own, 'begin', 1.13, 24)).toEqual({ from: 11.25, hours: 2.75 });
  expect(dragged(own, 'begin', 30, 24)).toEqual({ from: 13.75, hours: 0.25 });
});

it('every way of joining is a valid thread that has that way', () => {
  for (const way of JOIN_WAYS) {
    const next = changeThread(door, meeting(door, way));
    expect(next.ok && wayOf(next.value.doc.charging!)).toBe(way);
  }
});

it('a hold curve read both ways', () => {
  const hold = { name: 'new' as const, soc: [1, 0.5, 0], seconds: [7200, 3600, 0] };
  expect(heldFrom(hold, 0.75)).toBeCloseTo(5400, 9);
  expect(neededFor(hold, 5400)).toBeCloseTo(0.75, 9);
  expect(neededFor(hold, 8000)).toBeUndefined();
  expect(heldFrom(hold, neededFor(hold, 1234)!)).toBeCloseTo(1234, 6);
});

it('a rail that is taken away takes the joint with it, to what it hung on', () => {
  const next = changeThread(door, removeNode(door, 'lock-rail'));
  expect(next.ok && next.value.doc.charging!.join!.at).toBe('pack');
});

it('labels of outages that would lie on each other step up, then aside', () => {
  const labels = [0, 2, 3, 3.5, 60, 99].map((at) => ({ at, wide: 5 }));
  expect(labelled(labels, 2)).toEqual([0, 1, undefined, undefined, 0, 0]);
  // Further apart they stand alike.
  expect(labelled(labels, 3).slice(0, 3)).toEqual([0, 1, 2]);
});

it('strikes stand on what the adapter gives, while it carries, and nowhere else', () => {
  const { x, y } = strikes([0, 1, 2, 3], [0.1, 0.1, 0, 0.3], { mean: 1, most: 7, volts: 12 }, 3);
  const at = (k: number): [number, number, number] => [x[3 * k]!, y[3 * k]!, y[3 * k + 1]!];
  const [, low, high] = at(0);
  expect(high! - low!).toBeCloseTo(6 / 12, 9);
  for (let k = 0; k < x.length / 3; k++) expect(at(k)[0] > 1 + 1e-9 && at(k)[0] < 2.999).toBe(false);
});

describe('lanes of a programme that repeats fast', () => {
  it('are laid together by cycles, cut where mains goes; the mean current, the least volts', () => {
    // Half an hour at 2 A, half an hour at 0; the second cycle is cut by mains that goes in its middle; then three skipped, and two at the end.
    const rows = {
      hours: [0, 0.5, 0.5, 1, 1, 1.5, 1.5, 2, 5, 5.5, 5.5, 6, 8],
      soc: [1, 0.9, 0.9, 0.9, 0.9, 0.8, 0.8, 0.8, 0.5, 0.4, 0.4, 0.4, 0.2],
      amps: [2, 2, 0, 0, 2, 2, 0, 0, 2, 2, 0, 0, 2],
      volts: [10, 10, 12, 12, 10, 10, 12, 12, 9, 9, 11, 11, 9],
    };
    const laid = byCycles(rows, { begins: [0, 1, 5], period: 1 }, [1.5]);
    expect(laid.hours).toEqual([0, 1, 1, 1.5, 1.5, 2, 5, 5, 6, 8]);
    expect(laid.amps).toEqual([1, 1, 2, 2, 0, 0, 0, 1, 1, 1]);
    expect(laid.volts).toEqual([10, 10, 10, 10, 12, 12, 12, 9, 9, 9]);
    expect(laid.soc).toEqual([1, 0.9, 0.9, 0.8, 0.8, 0.8, 0.5, 0.5, 0.4, 0.2]);
  });
});

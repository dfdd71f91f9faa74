import { demoThreads } from '@mile-thread/core';
import { changeThread } from '@mile-thread/core/model';
import { expect, it } from 'vitest';
import { removeNode } from '../../document/commands.ts';
import { dragged, heldFrom, meeting, neededFor, wayOf, WAYS } from './model.ts';

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
  for (const way of WAYS) {
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

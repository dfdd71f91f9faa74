import { expect, it } from 'vitest';
import { beginThread, useChargeNeedle, useNeedle, useOutageNeedle, useSelection } from './view.ts';

it('another thread begins with its needles at the start and nothing picked; the same one as it was left', () => {
  beginThread('a');
  for (const needle of [useNeedle, useOutageNeedle, useChargeNeedle]) {
    needle.getState().setEnd(7200);
    needle.getState().moveTo(3600);
  }
  useSelection.getState().select('lamp-rail');
  const stands = () => [useNeedle, useOutageNeedle, useChargeNeedle].map((n) => n.getState().time);
  beginThread('a');
  expect(stands()).toEqual([3600, 3600, 3600]);
  expect(useSelection.getState().selected).toBe('lamp-rail');
  beginThread('b');
  expect(stands()).toEqual([0, 0, 0]);
  expect(useSelection.getState().selected).toBeUndefined();
});

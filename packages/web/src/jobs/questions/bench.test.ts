import { demoThreads } from '@mile-thread/core';
import { ThinnedRows } from '@mile-thread/core/logs';
import { MOST_POINTS } from '@mile-thread/core/model';
import { expect, it } from 'vitest';
import { curveOf } from '../../views/bench/model.ts';
import { curvesOver } from './bench.ts';

it('of a day recorded twenty times a second every dip is kept, from the recording to what is drawn', () => {
  const door = demoThreads().find((d) => d.name === 'Library door lock')!;
  const recorded = new ThinnedRows(MOST_POINTS);
  // A tenth of a second down to 3 V, some nine times in the day.
  const dips: number[] = [];
  for (let k = 0; k < 1_728_000; k++) {
    const dip = k % 200_000 === 777;
    if (dip) dips.push((k * 0.05) / 3600);
    recorded.push([k * 0.05, (dip ? 3 : 4.15) - k * 3e-7, 0.3]);
  }
  expect(recorded.count).toBe(1_728_000);
  const recording = { id: 'r', threadId: 't', startedAt: 0 };
  const curve = curveOf({ recording, rows: [...recorded.rows], count: recorded.count, beingWritten: false });
  const [over] = curvesOver({ ...door, curves: [curve] }, 'once');
  const low = over!.hours.filter((_, k) => over!.logged[k]! < 3.2);
  // Those while the run it is laid over lasts.
  const met = dips.filter((h) => h <= over!.hours.at(-1)!);
  expect(met.length).toBeGreaterThan(5);
  expect(low).toHaveLength(met.length);
  low.forEach((h, k) => expect(h).toBeCloseTo(met[k]!, 3));
  expect(over!.hours.length).toBeLessThanOrEqual(1600);
});

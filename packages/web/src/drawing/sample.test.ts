import { demoThreads } from '@mile-thread/core';
import { readingOf, ROW, simulate } from '@mile-thread/core/solve';
import { expect, it } from 'vitest';
import { sampleRun } from './sample.ts';

const doc = demoThreads()[0]!;
const run = simulate(doc);
const reading = readingOf(run);

it('between two rows the needle is as far as the time is, nearer to the nearer one', () => {
  for (let row = 2; row < reading.last; row += 7) {
    const [from, to] = [reading.time(row), reading.time(row + 1)];
    if (!(to > from)) continue;
    for (const share of [0.1, 0.5, 0.9]) {
      const { soc, packVolts } = sampleRun(doc, run, from + share * (to - from));
      const mix = (column: number) =>
        (1 - share) * reading.at(row, column) + share * reading.at(row + 1, column);
      expect(soc).toBeCloseTo(mix(ROW.soc), 9);
      expect(packVolts).toBeCloseTo(mix(ROW.packVolts), 9);
    }
  }
});

it('a load below its range is low, above it high, and what the stages take and give balances', () => {
  const [load] = doc.loads;
  const at = (min: number, max: number) => {
    const other = { ...doc, loads: [{ ...load!, range: { min, max } }, ...doc.loads.slice(1)] };
    return sampleRun(other, run, run.usefulEnd.time / 2).loads.get(load!.id)!.state;
  };
  expect([at(20, 30), at(1, 30), at(1, 2)]).toEqual(['low', 'in', 'high']);
  const { flows } = sampleRun(doc, run, run.usefulEnd.time / 3);
  for (const { into, out } of flows.stages.values()) expect(into).toBeGreaterThan(out);
  expect(flows.pack.inside).toBeGreaterThan(flows.pack.terminals);
  expect(flows.pack.terminals).toBeGreaterThan(flows.pack.path);
});

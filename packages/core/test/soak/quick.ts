import fc from 'fast-check';
import { SharedPaths } from '../../src/plant/compile.ts';
import { quickLook, refusal, simulate, type ThreadDocument } from '../core.ts';
import { anyWhole } from '../everything.ts';

/**
 * A quick look against runs: random threads with everything in them. Arguments: how many, seed. Timed as candidates ask it: the first of a
 * path, then others of it with cells that hold more and more.
 */
const count = Number(process.argv[2] ?? 1000);
const seed = Number(process.argv[3] ?? 1);
const OTHERS = 8;

const cpu = () => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
};
const holding = (doc: ThreadDocument, by: number): ThreadDocument => {
  const { cell } = doc.pack;
  return { ...doc, pack: { ...doc.pack, cell: { ...cell, capacityAh: by * cell.capacityAh } } };
};
const hopeless = (doc: ThreadDocument): ThreadDocument => ({
  ...doc,
  loads: doc.loads.map((l) => ({ ...l, essential: true, range: { min: 900, max: 1000 } })),
});

const open: Record<string, number> = {};
const off: number[] = [];
const apart: number[] = [];
const outside: number[] = [];
const ms = { steady: [] as number[], programme: [] as number[], first: [] as number[], run: [] as number[] };
const refused: number[] = [];
let cut = 0;
for (const doc of fc.sample(anyWhole, { numRuns: count, seed })) {
  const shared = new SharedPaths();
  const t0 = cpu();
  const found = quickLook(doc, {}, shared);
  const t1 = cpu();
  const { usefulEnd, deadEnd } = simulate(doc, { rows: 0 });
  const t2 = cpu();
  if (found.kind === 'open') {
    open[found.why] = (open[found.why] ?? 0) + 1;
    continue;
  }
  ms.first.push(t1 - t0);
  ms.run.push(t2 - t1);
  const others = Array.from({ length: OTHERS }, (_, k) => holding(doc, 1 + (k + 1) / 100));
  const t3 = cpu();
  for (const other of others) quickLook(other, {}, shared);
  ms[doc.programme ? 'programme' : 'steady'].push((cpu() - t3) / OTHERS);
  const none = hopeless(doc);
  const t4 = performance.now();
  for (let k = 0; k < OTHERS; k++) refusal(none);
  refused.push((1000 * (performance.now() - t4)) / OTHERS);
  if (deadEnd.reason === 'unfinished') {
    cut++;
    continue;
  }
  const { time } = usefulEnd;
  if (time < found.earliest || time > found.latest) outside.push(Math.abs(found.likely / time - 1));
  // Within a minute a cycle is all of it.
  if (time <= 60) continue;
  off.push(Math.abs(found.likely / time - 1));
  apart.push((found.latest - found.earliest) / time);
}
const at = (values: number[], share: number) =>
  values.sort((a, b) => a - b)[Math.floor(share * (values.length - 1))] ?? 0;
const spread = (values: number[]) => ({
  half: at(values, 0.5),
  nine: at(values, 0.9),
  most: at(values, 0.99),
});
console.log(
  JSON.stringify({
    ...{ count, seed, open, cut, compared: count - cut - Object.values(open).reduce((a, b) => a + b, 0) },
    outside: outside.sort((a, b) => b - a),
    ...{
      off: spread(off),
      within: off.filter((x) => x <= 1e-3).length,
      long: off.length,
      apart: spread(apart),
    },
    ms: {
      first: spread(ms.first),
      run: spread(ms.run),
      steady: spread(ms.steady),
      programme: spread(ms.programme),
    },
    refused: spread(refused),
  }),
);

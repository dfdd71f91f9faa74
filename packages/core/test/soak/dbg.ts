import fc from 'fast-check';
import { anyWhole } from '../everything.ts';
import { demoThreads, simulate, compile, answersOf } from '../core.ts';
import { startAgain } from '../../src/plant/compile.ts';
import { quickLook, quickLookAt } from '../../src/run/quick/quickLook.ts';
const f = (s: number) => (s / 3600).toFixed(4);
const one = (doc: any, name: string, log: boolean) => {
  const t0 = performance.now();
  let q: any;
  for (let n = 0; n < (log ? 20 : 1); n++) q = quickLook(doc);
  const t1 = performance.now();
  const r = simulate(doc, { rows: 0 });
  const t2 = performance.now();
  const e = r.usefulEnd.time;
  const inside = q.kind === 'bounds' ? e >= q.earliest && e <= q.latest : undefined;
  if (log || inside === false)
    console.log(
      name,
      q.kind === 'bounds' ? `${f(q.earliest)} ${f(q.likely)} ${f(q.latest)}` : JSON.stringify(q),
      f(e),
      inside,
      q.kind === 'bounds' ? ((q.likely - e) / e).toExponential(1) : '',
      `${((t1 - t0) / (log ? 20 : 1)).toFixed(2)} ms / ${(t2 - t1).toFixed(2)}`,
      r.deadEnd.reason,
      r.usefulEnd.load?.id,
    );
  return { q, e, r, ms: t1 - t0 };
};
for (const d of demoThreads()) {
  const N = 30;
  const cpu = () => process.cpuUsage().user / 1000;
  let a = cpu();
  for (let n = 0; n < N; n++) compile(d as any);
  let b = cpu();
  const plants = Array.from({ length: N }, () => compile(d as any));
  let c = cpu();
  for (const p of plants) quickLookAt(p);
  let e = cpu();
  const w = [...Array(5).keys()].map(() => plants.length);
  for (let n = 0; n < 10; n++)
    for (const p of plants) {
      startAgain(p);
      quickLookAt(p);
    }
  let g = cpu();
  let st = 0;
  const sd = {
    ...d,
    programme: undefined,
    loads: d.loads.map((l: any) => ({ ...l, peaks: undefined })),
  } as any;
  const sp = compile(sd);
  answersOf(sp);
  let h = cpu();
  for (let n = 0; n < 50; n++) {
    startAgain(sp);
    answersOf(sp);
  }
  let i = cpu();
  for (let n = 0; n < 50; n++) {
    startAgain(sp);
    quickLookAt(sp);
  }
  let j = cpu();
  console.log(
    d.name,
    'compile',
    ((b - a) / N).toFixed(2),
    'cold',
    ((e - c) / N).toFixed(2),
    'warm',
    ((g - e) / N / 10).toFixed(3),
    'steady run warm',
    ((i - h) / 50).toFixed(3),
    'steady quick warm',
    ((j - i) / 50).toFixed(3),
    'draws',
    new Set((plants[0] as any) && []).size,
  );
}
for (const d of demoThreads()) one((d as any).doc ?? d, (d as any).name ?? '', true);
const count = Number(process.argv[2] ?? 200);
const tally: Record<string, number> = {};
const ms: number[] = [];
const off: number[] = [];
const gap: number[] = [];
let k = 0;
for (const doc of fc.sample(anyWhole, { numRuns: count, seed: Number(process.argv[3] ?? 1) })) {
  k++;
  const { q, e, r, ms: t } = one(doc, `#${k} ${doc.programme ? 'prog' : 'steady'}`, false);
  const key = q.kind === 'open' ? q.why : q.kind;
  tally[key] = (tally[key] ?? 0) + 1;
  if (key === 'unfinished' && process.env.UNF)
    console.log('UNF', k, t.toFixed(1), e / 3600, r.deadEnd.reason);
  if (q.kind === 'bounds' && r.deadEnd.reason !== 'unfinished') {
    ms.push(t);
    if (e > 60) {
      off.push(Math.abs(q.likely - e) / e);
      gap.push((q.latest - q.earliest) / e);
    }
    if (!(e >= q.earliest && e <= q.latest)) tally.outside = (tally.outside ?? 0) + 1;
  }
}
const q = (a: number[], p: number) => a.sort((x, y) => x - y)[Math.floor(p * (a.length - 1))];
console.log(
  tally,
  'ms',
  q(ms, 0.5),
  q(ms, 0.95),
  'off',
  q(off, 0.5),
  q(off, 0.9),
  q(off, 0.99),
  'gap',
  q(gap, 0.5),
  q(gap, 0.9),
);

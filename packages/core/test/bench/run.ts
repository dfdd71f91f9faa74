import {
  defaultBoost,
  defaultBuck,
  defaultBuckBoost,
  demoThreads,
  efficiencyMap,
  findings,
  partsFor,
  pchip,
  simulate,
  stageEnvelope,
  type StageParts,
  type ThreadDocument,
} from '../core.ts';
import { plainLoop } from './plainLoop.ts';

/** [ms] median of single calls after a warm-up. */
function median(call: () => unknown, warm: number, count: number): number {
  for (let k = 0; k < warm; k++) call();
  const times = Array.from({ length: count }, () => {
    const start = performance.now();
    call();
    return performance.now() - start;
  }).sort((a, b) => a - b);
  return times[count >> 1]!;
}

// The figures of the run-down are those of stated losses; parts have their own lines below.
const doc = demoThreads()[0]!;
const lamp = doc.stages[0]!;
if ('parts' in lamp && lamp.parts) lamp.parts.used = false;

/** Three switching stages in a tree, with stated losses or with parts. */
function three(parts: boolean): ThreadDocument {
  const both = { ...defaultBuckBoost('lamp-rail', 'pack', 9), inputLimit: 10, outputLimit: 2 };
  const buck = defaultBuck('camera-rail', 'pack', 5);
  const boost = { ...defaultBoost('logic-rail', 'camera-rail', 12), rectifierVolts: 0 };
  if (parts) {
    both.parts = partsFor(both, { low: 7, high: 12.6 }, 0.55) as StageParts as NonNullable<typeof both.parts>;
    buck.parts = partsFor(buck, { low: 7, high: 12.6 }, 0.8);
    boost.parts = partsFor(boost, { low: 5, high: 5 }, 0.08);
  }
  const loads = doc.loads.map((l) => (l.from === 'logic-rail' ? { ...l, range: { min: 11, max: 13 } } : l));
  return { ...doc, stages: [both, buck, boost], loads };
}
function sizing() {
  const stated = three(false);
  const real = three(true);
  const realRun = simulate(real);
  const range = { lowVolts: 7, highVolts: 13, leastAmps: 0.02, mostAmps: 2.2 };
  // In turn, call by call: the machine's own ups and downs then meet both alike.
  const times: [number[], number[]] = [[], []];
  for (let k = 0; k < 301; k++) {
    [stated, real].forEach((design, n) => {
      const start = performance.now();
      simulate(design);
      if (k > 80) times[n]!.push(performance.now() - start);
    });
  }
  const middle = (list: number[]) => list.sort((a, b) => a - b)[list.length >> 1]!;
  return {
    stated: middle(times[0]),
    parts: middle(times[1]),
    envelope: median(() => stageEnvelope(real, realRun, 'lamp-rail'), 40, 101),
    map: median(() => efficiencyMap(real.stages[0]!, range, 60, 25), 20, 51),
  };
}

const fine = { maxSocStep: 1 / 2000 };
const run = simulate(doc, fine);
const usual = simulate(doc);
const table = (soc: number[], values: number[]) => {
  const curve = pchip(soc, values);
  return Float64Array.from({ length: 1001 }, (_, k) => curve.at(k / 1000));
};
const ocv = table(doc.pack.cell.ocv.soc, doc.pack.cell.ocv.volts);
const r0 = table(doc.pack.cell.r0.soc, doc.pack.cell.r0.ohms);
const steps = run.series.count;

console.log(
  JSON.stringify({
    fine: { points: steps, ms: median(() => simulate(doc, fine), 60, 101), closure: run.ledger.closure },
    usual: {
      points: usual.series.count,
      ms: median(() => simulate(doc), 60, 201),
      closure: usual.ledger.closure,
    },
    endShift: Math.abs(usual.usefulEnd.time - run.usefulEnd.time) / run.usefulEnd.time,
    plain: { ms: median(() => plainLoop(ocv, r0, steps), 300, 401) },
    sizing: sizing(),
    checks: { ms: median(() => findings(doc, usual), 50, 101) },
  }),
);

import { demoThreads, findings, pchip, simulate } from '../../src/index.ts';
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

const doc = demoThreads()[0]!;
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
    checks: { ms: median(() => findings(doc, usual), 50, 101) },
  }),
);

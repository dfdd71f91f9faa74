import { parentPort, workerData } from 'node:worker_threads';
import { compile, demoThreads, findings, runPlant, type ThreadDocument } from '../core.ts';
import { SharedPaths } from '../../src/plant/compile.ts';

/**
 * One of two workers over alternatives of the demo thread with stated losses: packs, cells' health, set points and
 * efficiencies varied. Compiles, runs and checks each; reports every chunk.
 */
const { from, to } = workerData as { from: number; to: number };
const [base] = demoThreads();

function candidate(n: number): ThreadDocument {
  const doc = structuredClone(base!);
  const [lamp, camera] = doc.stages;
  if (lamp && 'parts' in lamp && lamp.parts) lamp.parts.used = false;
  doc.pack.series = 3 + (n % 2);
  doc.pack.parallel = 1 + (Math.floor(n / 2) % 4);
  if (camera?.kind === 'buck') {
    camera.outputVolts = 4.9 + 0.02 * (Math.floor(n / 8) % 11);
    if (camera.loss.basis === 'efficiency') camera.loss.efficiency = 0.86 + 0.001 * (Math.floor(n / 88) % 60);
  }
  return doc;
}

const CHUNK = 16;
const shared = new SharedPaths();
let ends = 0;
let found = 0;
for (let n = from; n < to; n++) {
  const doc = candidate(n);
  const run = runPlant(compile(doc, {}, shared));
  found += findings(doc, run, { actions: false }).length;
  ends += run.usefulEnd.time;
  if ((n - from + 1) % CHUNK === 0) parentPort!.postMessage({ done: n - from + 1, ends, found });
}
parentPort!.postMessage({ done: to - from, ends, found, last: true });

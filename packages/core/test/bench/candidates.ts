import { parentPort, workerData } from 'node:worker_threads';
import { compile, demoThreads, findings, runPlant, type Stage, type ThreadDocument } from '../core.ts';
import { SharedPaths } from '../../src/plant/compile.ts';

/** Candidates run in one go before they are handed over: a few at first, then more each time. */
const CHUNKS = { first: 4, growth: 4, most: 128 } as const;

/**
 * One of two workers over alternatives of the demo thread with stated losses: packs, cells' health, set points and
 * efficiencies varied. Compiles, runs and checks each; reports every chunk.
 */
const { from, to } = workerData as { from: number; to: number };
const [demo] = demoThreads() as [ThreadDocument];
const stages = demo.stages.map((s) =>
  'parts' in s && s.parts ? ({ ...s, parts: { ...s.parts, used: false } } as Stage) : s,
);

/** What is not varied is the same object in all of them, as an edit leaves it. Packs vary fastest: they share paths. */
function candidate(n: number): ThreadDocument {
  const { pack } = demo;
  return {
    ...demo,
    pack: { ...pack, series: 3 + (n % 2), parallel: 1 + (Math.floor(n / 2) % 4) },
    stages: variant(Math.floor(n / 8)),
  };
}

let last: { n: number; stages: Stage[] } | undefined;

function variant(n: number): Stage[] {
  if (last?.n === n) return last.stages;
  const efficiency = 0.86 + 0.001 * (Math.floor(n / 11) % 60);
  const outputVolts = 4.9 + 0.02 * (n % 11);
  const varied = stages.map((s) =>
    s.kind === 'buck' ? ({ ...s, outputVolts, loss: { ...s.loss, efficiency } } as Stage) : s,
  );
  last = { n, stages: varied };
  return varied;
}

function runAll(): void {
  const shared = new SharedPaths();
  let ends = 0;
  let found = 0;
  let size: number = CHUNKS.first;
  let chunk = 0;
  for (let n = from; n < to; n++) {
    const doc = candidate(n);
    const run = runPlant(compile(doc, {}, shared));
    found += findings(doc, run, { actions: false }).length;
    ends += run.usefulEnd.time;
    if (++chunk < size) continue;
    parentPort!.postMessage({ done: n - from + 1, ends, found });
    chunk = 0;
    size = Math.min(CHUNKS.most, CHUNKS.growth * size);
  }
  parentPort!.postMessage({ done: to - from, ends, found, last: true });
}

/** [ms] A worker of the application runs the demo threads while nothing is asked of it, some tenths of a second. */
const WARM = 400;

for (const until = performance.now() + WARM; performance.now() < until;) {
  for (const doc of demoThreads()) findings(doc, runPlant(compile(doc)));
}

// Loading and warming are not what is measured: it says when it is there, and waits to be asked, time and again.
parentPort!.on('message', runAll);
parentPort!.postMessage({ ready: true });

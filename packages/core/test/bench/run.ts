import { finish } from '../../src/numeric/finish.ts';
import { spawnSync } from 'node:child_process';
import { Worker } from 'node:worker_threads';
import { caseRuns } from '../../src/belief/cases.ts';
import { charge, holdField, holdTimes, joinsOf, LongLook, outage, randomYear } from '../../src/charging.ts';
import {
  answersOf,
  CELL_LIBRARY,
  compile,
  defaultBoost,
  defaultBuck,
  defaultBuckBoost,
  demoThreads,
  efficiencyMap,
  encodeThread,
  findings,
  partsFor,
  simulate,
  stageEnvelope,
  type Load,
  type StageParts,
  type ThreadDocument,
} from '../core.ts';

/**
 * Prints JSON. Arguments: `alone` for the run-down by itself in its process, `all` for everything; file of the candidates'
 * worker; the yardstick's program, where there is one.
 */
const [, , which, candidates, yardstick] = process.argv;

// The figures of the run-down are those of stated losses; parts have their own lines below.
const [doc] = demoThreads() as [ThreadDocument];
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

/** A sign on one LFP cell behind a buck-boost, under a programme of stretches with what it takes in each. */
function sign(stretches: readonly (readonly [seconds: number, amps: number])[]): ThreadDocument {
  const modes = stretches.slice(0, 12).map((_, k) => ({ id: `m${k}`, name: `Mode ${k}` }));
  const rail = defaultBuckBoost('rail', 'pack', 3.3);
  const stage = { ...rail, minInput: 1.8, loss: { ...rail.loss, quiescentCurrent: 8e-6 } };
  const draws = modes.map(({ id }, k) => ({ mode: id, value: stretches[k]![1] }));
  const load: Load = {
    ...{
      id: 'sign',
      name: 'Sign',
      from: 'rail',
      draw: 'current',
      current: 1,
      essential: true,
      grade: 'assumed',
    },
    draws,
    range: { min: 3.1, max: 3.5 },
  };
  const { protection, disconnect, ...pack } = doc.pack;
  void [protection, disconnect];
  return {
    ...doc,
    pack: { ...pack, cell: CELL_LIBRARY['26650-lfp']!, series: 1, parallel: 1 },
    stages: [stage],
    loads: [load],
    modes,
    programme: {
      segments: stretches.map(([seconds], k) => ({ mode: `m${k % 12}`, seconds })),
      after: 'repeat',
    },
  };
}

/** A cycle of ten minutes in four modes that lasts about a year; a day in sixty stretches, for about ninety. */
const year = sign([
  [588, 45e-6],
  [8, 5e-3],
  [3, 20e-3],
  [1, 60e-3],
]);
const days = sign(Array.from({ length: 60 }, (_, k) => [1440, 0.3e-3 * (1 + (k % 12) / 2)] as const));

const stated = three(false);
const real = three(true);
const run = simulate(doc);
const realRun = simulate(real);
const inputs = { lowVolts: 7, highVolts: 13, leastAmps: 0.02, mostAmps: 2.2 };

const byName = (name: string) => demoThreads().find((d) => d.name === name)!;
const sampler = byName('Lake water sampler');
const door = byName('Library door lock');
/** [s] */
const YEAR = 8766 * 3600;
/** An outage a month of mean length, at odd instants: elementary numbers of a fixed row. */
/** Kept for all its years, as the application keeps it while a hundred are gone through. */
const looked = new LongLook(door);
/** Mains that goes every other week. */
const often = { perYear: 26, half: 1.25, sixth: 3 };
const gone = Array.from({ length: 24 }, (_, k) => {
  const from = ((k + 0.37 + 0.5 * Math.sin(5 * k)) * YEAR) / 24.6;
  return { from, to: from + 3600 * (0.4 + 2.2 * Math.abs(Math.sin(3 * k + 1))) };
});

const ALONE: Record<string, () => unknown> = {
  own: () => simulate(doc),
  rows: () => simulate(doc, { rows: 2000 }),
  answers: () => answersOf(compile(doc)),
  compile: () => compile(doc),
};

const ALL: Record<string, () => unknown> = {
  ...ALONE,
  stated: () => simulate(stated),
  parts: () => simulate(real),
  checks: () => findings(doc, run),
  checksOnly: () => findings(doc, run, { actions: false }),
  checksParts: () => findings(real, realRun, { actions: false }),
  year: () => simulate(year),
  days: () => simulate(days),
  cases: () => caseRuns(stated),
  charge: () => charge(sampler),
  sources: () => [sampler.charging!.source, ...sampler.charging!.tries!].map((s) => charge(sampler, s)),
  mains: () => outage(door, gone, YEAR),
  chance: () => looked.over(randomYear(often, 1), YEAR, { rows: 0 }),
  hold: () => holdTimes(door),
  field: () => finish(holdField(door)),
  joins: () => finish(joinsOf(door)),
  envelope: () => stageEnvelope(real, realRun, 'lamp-rail'),
  map: () => efficiencyMap(real.stages[0]!, inputs, 60, 25),
};

const CALLS = which === 'alone' ? ALONE : ALL;

/** Calls that take long are made every so many rounds: the others have more to become warm in. */
const RARELY: Record<string, number> = {
  checks: 4,
  map: 12,
  year: 24,
  days: 24,
  cases: 4,
  sources: 4,
  mains: 24,
  chance: 24,
  hold: 24,
  field: 24,
  joins: 24,
};

interface Figure {
  best: number;
  median: number;
}

/**
 * Every call in turn, time and again, and the yardstick between: what the machine does besides meets all alike. Ratios
 * are of bests and of medians.
 */
function measure(rounds: number, warm: number): Record<string, Figure> & { yardstick?: Figure & Ends } {
  const times = new Map(Object.keys(CALLS).map((name) => [name, [] as number[]]));
  let yard: (Figure & Ends) | undefined;
  for (let round = 0; round < rounds; round++) {
    for (const [name, call] of Object.entries(CALLS)) {
      if (name in RARELY && round % RARELY[name]! !== 0) continue;
      const start = performance.now();
      call();
      if (round >= warm) times.get(name)!.push(performance.now() - start);
    }
    if (yardstick && round >= warm && (round - warm) % 120 === 0) yard = better(yard, askYardstick());
  }
  const figures = Object.fromEntries(
    [...times].map(([name, list]) => {
      list.sort((a, b) => a - b);
      return [name, { best: list[0]!, median: list[list.length >> 1]! }];
    }),
  );
  return yard ? Object.assign(figures, { yardstick: yard }) : figures;
}

interface Ends {
  end: number;
  closure: number;
  medians: number[];
}

function better(old: (Figure & Ends) | undefined, now: Figure & Ends): Figure & Ends {
  if (!old) return { ...now, medians: [now.median] };
  const medians = [...old.medians, now.median].sort((a, b) => a - b);
  return { ...now, best: Math.min(old.best, now.best), medians, median: medians[medians.length >> 1]! };
}

/** The design's numbers to the hand-written loop, its times back. */
function askYardstick(): Figure & Ends {
  const { pack } = compile(doc);
  const { ocv, r0, branches } = doc.pack.cell;
  const knots = [...pack.cell.knots];
  const on = (soc: number[], values: number[]) =>
    knots.map((s) => {
      const k = soc.findIndex((x) => Math.abs(x - s) < 1e-12);
      if (k < 0) throw new Error('the yardstick wants all curves on the same knots');
      return values[k]!;
    });
  const rows = [knots, on(ocv.soc, ocv.volts), on(r0.soc, r0.ohms)];
  rows.push(...branches.map((b) => on(b.soc, b.ohms)), ...branches.map((b) => on(b.soc, b.farads)));
  const input = [
    knots.length,
    ...rows.map((r) => r.join(' ')),
    [pack.charge, pack.seriesOhms, pack.quiescent].join(' '),
  ];
  const done = spawnSync(yardstick!, ['200'], { input: input.join('\n'), encoding: 'utf8' });
  if (done.status !== 0) throw new Error(`the yardstick ends with ${done.status}`);
  return JSON.parse(done.stdout) as Figure & Ends;
}

/** How often the candidates are asked for again, in the same workers. */
const AGAIN = 9;

/**
 * [ms] from asking two loaded workers until the first chunk of either, and until both are through: the first time, best
 * and median of all times. The yardstick is asked between.
 */
async function manyCandidates(count: number) {
  const half = count / 2;
  const workers = await Promise.all([0, half].map((from) => loadedWorker({ from, to: from + half })));
  const all: number[] = [];
  const first: number[] = [];
  let yard: (Figure & Ends) | undefined;
  for (let round = 0; round < AGAIN; round++) {
    if (yardstick) yard = better(yard, askYardstick());
    const start = performance.now();
    await Promise.all(
      workers.map(
        (worker) =>
          new Promise<void>((done) => {
            const heard = ({ last }: { last?: boolean }) => {
              first[round] ??= performance.now() - start;
              if (!last) return;
              worker.off('message', heard);
              done();
            };
            worker.on('message', heard);
            worker.postMessage('go');
          }),
      ),
    );
    all.push(performance.now() - start);
  }
  await Promise.all(workers.map((worker) => worker.terminate()));
  const sorted = [...all].sort((a, b) => a - b);
  return {
    first: first[0]!,
    once: all[0]!,
    all: { best: sorted[0]!, median: sorted[sorted.length >> 1]! },
    ...(yard ? { yardstick: yard } : {}),
  };
}

function loadedWorker(workerData: { from: number; to: number }): Promise<Worker> {
  return new Promise((done, fail) => {
    const worker = new Worker(candidates!, { workerData });
    worker.once('error', fail);
    worker.once('message', () => done(worker));
  });
}

if (which === 'alone') console.log(JSON.stringify(measure(2880, 1440)));
else {
  const figures = measure(1440, 720);
  const fine = simulate(doc, { maxSoc: 1 / 2000, bend: 1e-5, twist: 1e-6 });
  console.log(
    JSON.stringify({
      figures,
      demo: encodeThread(demoThreads()[0]!),
      rows: run.series.count,
      lasts: { year: simulate(year).usefulEnd.time / 86400, days: simulate(days).usefulEnd.time / 86400 },
      closure: run.ledger.closure,
      end: run.deadEnd.time,
      endShift: Math.abs(run.usefulEnd.time - fine.usefulEnd.time) / fine.usefulEnd.time,
      candidates: await manyCandidates(5000),
    }),
  );
}

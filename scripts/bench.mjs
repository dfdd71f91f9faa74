// `npm run bench`: measure, and write docs/benchmarks.md.
import { spawn, spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { bundle } from './bundle.mjs';
import { where, writePart } from './figures.mjs';
import { build, chromium, install, root } from './prepare.mjs';

install();
build();
if (!chromium()) process.exit(1);

const programs = await bundle({
  bench: 'packages/core/test/bench/run.ts',
  candidates: 'packages/core/test/bench/candidates.ts',
});
const byHand = yardstick() ?? '';
const measured = (which) =>
  JSON.parse(output(process.execPath, [programs.bench, which, programs.candidates, byHand]));
const alone = measured('alone');
const core = measured('all');
const browser = await inBrowser();

/** Builds the hand-written loop; undefined where there is no C compiler. */
function yardstick() {
  const program = join(root, '.cache/yardstick');
  const source = join(root, 'packages/core/test/bench/yardstick.c');
  const built = spawnSync('cc', ['-O3', '-march=native', source, '-lm', '-o', program]);
  return built.status === 0 ? program : undefined;
}

/** [ms] The command line on a demo thread, from start to end. */
function wholeProcess() {
  const shelf = join(root, '.cache/demo.thread.json');
  writeFileSync(shelf, core.demo);
  const times = Array.from({ length: 9 }, () => {
    const start = performance.now();
    output(process.execPath, ['packages/cli/bin/mile.js', 'run', shelf]);
    return performance.now() - start;
  }).sort((a, b) => a - b);
  return { best: times[0], median: times[4] };
}

async function inBrowser() {
  const port = 4329;
  const server = spawn(process.execPath, ['--import', 'tsx', 'packages/server/src/main.ts'], {
    cwd: root,
    env: { ...process.env, PORT: String(port) },
    stdio: 'ignore',
  });
  try {
    for (let k = 0; k < 50; k++) {
      const up = await fetch(`http://localhost:${port}/health`).then(
        (r) => r.ok,
        () => false,
      );
      if (up) break;
      await new Promise((done) => setTimeout(done, 200));
    }
    return JSON.parse(
      output(process.execPath, ['--import', 'tsx', 'e2e/bench/browser.ts', `http://localhost:${port}`]),
    );
  } finally {
    server.kill();
  }
}

function output(command, args) {
  const done = spawnSync(command, args, { cwd: root, encoding: 'utf8' });
  if (done.status !== 0) throw new Error(`${args.join(' ')}: ${done.stderr}`);
  return done.stdout.trim().split('\n').pop();
}

const ms = (v) => `${v.toPrecision(3)} ms`;
const { figures: f, candidates } = core;
const { trips, checks, sizes, frames, stageFrames, keys, loads, firsts, large, sampler, sign, draws, logs } =
  browser;
const { explained, live } = browser;
const kB = (bytes) => `${Math.round(bytes / 1000)} kB`;
const whole = wholeProcess();
const both = ({ best, median }) => `${ms(best)}, ${ms(median)}`;
const timesC = (a, c) => `${(a.best / c.best).toFixed(2)}, ${(a.median / c.median).toFixed(2)}`;
const line = (what, { best, median }, aim = '', c = f.yardstick) => {
  const ratio = c ? timesC({ best, median }, c) : '';
  return `| ${what} | ${ms(best)} | ${ms(median)} | ${ratio} | ${aim} |`;
};

writePart(
  'bench',
  `${where('bench')}
Calls in turn after a warm-up, best and median of each; ratios to the hand-written loop in C, asked between them: best to best, median to median. The design is the demo thread Tide-pool microscope with stated losses: a measured buck-boost, a buck, and a linear stage behind it. The first table is of a process that does nothing else, the second of one that does everything in turn: other designs before it cost a run some of what the compiler knew of it.

| what | best | median | × C | aim |
| --- | --- | --- | --- | --- |
${alone.yardstick ? line('the same run-down by hand in C, 2,000 steps', alone.yardstick, '', alone.yardstick) : '| no C compiler here | | | | |'}
${line(`run-down, its own ${core.rows} rows, idle draw included`, alone.own, '≤ 0.7 ms best, ≤ 2.5 × C', alone.yardstick)}
${line('the same with 2,000 rows', alone.rows, '≤ 1.1 ms best', alone.yardstick)}
${line('its answers alone', alone.answers, '', alone.yardstick)}
${line('of that, compiling', alone.compile, '', alone.yardstick)}

| what, everything in turn | best | median | × C | aim |
| --- | --- | --- | --- | --- |
${f.yardstick ? line('by hand in C', f.yardstick) : '| no C compiler here | | | | |'}
${line('run-down, its own rows', f.own)}
${line('the same with 2,000 rows', f.rows)}
${line('three switching stages, stated losses', f.stated)}
${line('three switching stages with parts', f.parts, '≤ 1.8 ms best')}
${line('all checks, stated losses', f.checksOnly, '≤ 0.15 ms')}
${line('all checks, parts', f.checksParts, '≤ 0.5 ms')}
${line('all checks, stated losses, ways out tried before they are offered', f.checks)}
${line('sizing envelope of a four-switch stage over its run', f.envelope, '≤ 10 ms')}
${line(`a cycle of ten minutes in four modes, for ${Math.round(core.lasts.year)} days`, f.year, '≤ 30 ms')}
${line(`a day in sixty stretches, for ${Math.round(core.lasts.days)} days`, f.days, '≤ 30 ms')}
${line('cases side by side: usual, cold, hot, aged, aged and cold', f.cases, '≤ 100 ms')}
${line('a full charge of the sampler, its load on', f.charge, '≤ 3 ms')}
${line('four sources side by side', f.sources, '≤ 20 ms')}
${line('a year of 24 outages at their true instants', f.mains, '≤ 300 ms')}
${line('a random year of about 26 outages by a long look, behind the first', f.chance, '≤ 15 ms')}
${line('hold times over charge: new, aged, cold', f.hold)}
${line('hold times over charge and nine ages', f.field, '≤ 200 ms')}
${line('four ways of joining side by side', f.joins)}
${line('its efficiency map, 60 × 60 points and the limit line', f.map, '≤ 30 ms')}

| what | measured | aim |
| --- | --- | --- |
| 5,000 candidates with stated losses, compiled, run and checked in two workers as the application keeps them, best and median of 9 in the same workers${candidates.yardstick ? `; × C, asked between` : ''} | ${ms(candidates.all.best)}, ${ms(candidates.all.median)}${candidates.yardstick ? `; ${timesC(candidates.all, candidates.yardstick)}` : ''} | ≤ 3 s |
| of those the first time, by workers that are loaded and warm from some tenths of a second of demo runs | ${ms(candidates.once)} | |
| their first chunk, that first time | ${ms(candidates.first)} | ≤ 150 ms |
| useful end against a run of steps fifty times as short | ${core.endShift.toExponential(1)} | 1e-5 |
| energy ledger closes to | ${core.closure.toExponential(1)} | 1e-9 |
${f.yardstick ? `| end by hand, which does not meet it but steps across it and knows no self-discharge, against this | ${(f.yardstick.end / core.end - 1).toExponential(1)} | |\n` : ''}| everything the Stage view asks the worker for, after an edit, median of ${sizes.count} | ${ms(sizes.median)} (worst ${ms(sizes.worst)}) | |
| worker round trip after an edit, median of ${trips.count - 2} | ${ms(trips.median)} (worst ${ms(trips.worst)}) | ≤ 15 ms |
| of that, the worker itself | ${ms(trips.itself)} | |
| the first of all, a thread opened as soon as the shelf shows it, best and median of 3 | ${both(firsts)} | ≤ 200 ms |
| the same of a sampler for four days, cycle by cycle; of a sign for five months | ${ms(sampler.median)} (worst ${ms(sampler.worst)}); ${ms(sign.median)} (worst ${ms(sign.worst)}) | ≤ 100 ms |
| the checks of that run after it, ways out tried | ${ms(checks.median)} (worst ${ms(checks.worst)}) | |
| key pressed to answers painted, median of ${keys.count} | ${ms(keys.median)} (worst ${ms(keys.worst)}) | ≤ 80 ms |
| first useful picture of a thread, cold, over the wire | ${kB(loads.bytes)} (all of it ${kB(loads.allBytes)}) | ≤ 420 kB |
| the same, time; the frame before it | ${ms(loads.picture)}; ${ms(loads.skeleton)} | ≤ 1 s |
| shelf of 200 threads, best and median of 3: cards in sight answered; again once kept | ${both(large.cards)}; ${both(large.again)} | ≤ 1 s |
| a click on it answered; all exported | ${both(large.click)}; ${both(large.exportAll)} | ≤ 0.1, ≤ 1 s |
| \`mile run\` on a demo thread, whole process, best and median of 9 | ${ms(whole.best)}, ${ms(whole.median)} | ≤ 0.4 s |
| two logs of 20,000 lines read and fitted to a cell in the worker, the first time and again | ${logs.map(ms).join(', ')} | ≤ 1 s |
| 2,000 draws of a demo thread with parts, in the two workers of the application, the first time and again | ${draws.map(ms).join(', ')} | ≤ 3 s |
| 30 readings and a curve of 5,000 points explained on a thread of three stages, three times | ${explained.map(ms).join(', ')} | ≤ 2 s |
| frame while ${live.readings.toFixed(0)} readings a second are recorded and drawn, median of ${live.count} | ${ms(live.median)} (95 % ${ms(live.p95)}, worst ${ms(live.worst)}) | 20 readings, 16.7 ms |
| frame of the Stage view while its needle is dragged, median of ${stageFrames.count} | ${ms(stageFrames.median)} (95 % ${ms(stageFrames.p95)}, worst ${ms(stageFrames.worst)}) | 16.7 ms |
| frame while the needle is dragged, median of ${frames.count} | ${ms(frames.median)} (95 % ${ms(frames.p95)}, worst ${ms(frames.worst)}) | 16.7 ms |

The loop in C is written for this one design: no events, modes of others, limits, holds or statuses, and it does not say when it is wrong. The ratio is the price of those.
`,
);

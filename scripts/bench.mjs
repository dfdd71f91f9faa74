// `npm run bench`: measure, and write docs/benchmarks.md.
import { spawn, spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { build as viteBuild } from 'vite';
import { build, chromium, install, root } from './prepare.mjs';

install();
build();
if (!chromium()) process.exit(1);

// Bundled as the application is, so that no loader's helpers are measured.
await viteBuild({
  configFile: false,
  root,
  logLevel: 'error',
  build: { ssr: 'packages/core/test/bench/run.ts', outDir: '.cache/bench', target: 'node20', minify: false },
  ssr: { noExternal: true },
});
const node = JSON.parse(output(process.execPath, [join(root, '.cache/bench/run.js')]));

const port = 4329;
const server = spawn(process.execPath, ['--import', 'tsx', 'packages/server/src/main.ts'], {
  cwd: root,
  env: { ...process.env, PORT: String(port) },
  stdio: 'ignore',
});
let browser;
try {
  for (let k = 0; k < 50; k++) {
    const up = await fetch(`http://localhost:${port}/health`).then(
      (r) => r.ok,
      () => false,
    );
    if (up) break;
    await new Promise((done) => setTimeout(done, 200));
  }
  browser = JSON.parse(
    output(process.execPath, ['--import', 'tsx', 'e2e/bench/browser.ts', `http://localhost:${port}`]),
  );
} finally {
  server.kill();
}

function output(command, args) {
  const done = spawnSync(command, args, { cwd: root, encoding: 'utf8' });
  if (done.status !== 0) throw new Error(`${args.join(' ')}: ${done.stderr}`);
  return done.stdout.trim().split('\n').pop();
}

const ms = (v) => `${v.toPrecision(3)} ms`;
const { fine, usual, plain, checks, endShift, sizing } = node;
const { trips, sizes, frames, stageFrames } = browser;
const text = `# Benchmarks

Written by \`npm run bench\` on ${new Date().toISOString().slice(0, 10)}; ${cpus().length} cores (${cpus()[0].model.trim()}), Node ${process.version}.
Medians after a warm-up. The design is the demo thread Tide-pool microscope: a measured buck-boost, a buck, and a linear stage behind it.

| what | measured | aim |
| --- | --- | --- |
| run-down, three stages, ${fine.points} stored points | ${ms(fine.ms)} | ≤ 1 ms |
| the same per point | ${((1000 * fine.ms) / fine.points).toPrecision(3)} µs | |
| plain loop of the same arithmetic, ${fine.points} steps | ${ms(plain.ms)} | |
| ratio to the plain loop | ${(fine.ms / plain.ms).toFixed(1)} | ≤ 3 (to C) |
| run-down as the application runs it, ${usual.points} points | ${ms(usual.ms)} | |
| its end against the finer run | ${(100 * endShift).toExponential(1)} % | |
| energy ledger closes to | ${usual.closure.toExponential(1)} (${fine.closure.toExponential(1)} finer) | 1e-6 |
| all checks of one run | ${ms(checks.ms)} | |
| run-down of three switching stages, stated losses | ${ms(sizing.stated)} | |
| the same with real parts | ${ms(sizing.parts)}, ${(sizing.parts / sizing.stated).toFixed(2)} × | ≤ 3 × |
| sizing envelope of a four-switch stage over its run | ${ms(sizing.envelope)} | ≤ 10 ms |
| its efficiency map, 60 × 60 points and the limit line | ${ms(sizing.map)} | ≤ 30 ms |
| everything the Stage view asks the worker for, after an edit, median of ${sizes.count} | ${ms(sizes.median)} (worst ${ms(sizes.worst)}) | |
| worker round trip after an edit, median of ${trips.count - 2} | ${ms(trips.median)} (worst ${ms(trips.worst)}, first of all ${ms(trips.first)}) | ≤ 100 ms |
| frame of the Stage view while its needle is dragged, median of ${stageFrames.count} | ${ms(stageFrames.median)} (95 % ${ms(stageFrames.p95)}, worst ${ms(stageFrames.worst)}) | 16.7 ms |
| frame while the needle is dragged, median of ${frames.count} | ${ms(frames.median)} (95 % ${ms(frames.p95)}, worst ${ms(frames.worst)}) | 16.7 ms |

The plain loop takes three fixed turns of a naive iteration a step, knows no events, modes, limits or ledger by element, and does not say when it is wrong: the ratio is the price of those.
`;
writeFileSync(join(root, 'docs/benchmarks.md'), text);
console.log(text);

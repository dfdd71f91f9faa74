// `npm test`: install what is missing (Chromium too), then type check, lint, import walls, unit and journeys.
// Runs everything even when an early step fails, and ends with one plain line: N passed, N failed.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { chromium, install, root } from './prepare.mjs';

install();
const results = join(root, '.cache');
mkdirSync(results, { recursive: true });

let passed = 0;
let failed = 0;

/** A step that is one check by itself; each of them keeps one core busy, so they run side by side. */
function check(name, args) {
  return new Promise((done) => {
    const child = spawn('npm', ['run', '--silent', ...args], { cwd: root });
    let said = '';
    child.stdout.on('data', (data) => (said += data));
    child.stderr.on('data', (data) => (said += data));
    child.on('close', (status) => {
      const ok = status === 0;
      if (ok) passed++;
      else failed++;
      console.log(`\n── ${name}\n${said}${name}: ${ok ? '1 passed, 0 failed' : '0 passed, 1 failed'}`);
      done();
    });
  });
}

/** Build what is to be tested; without it there is nothing to test. */
function built() {
  return new Promise((done) => {
    const code = "import('./scripts/prepare.mjs').then(({ build }) => build())";
    const child = spawn(process.execPath, ['-e', code], { cwd: root, stdio: 'inherit' });
    child.on('close', (status) => (status === 0 ? done() : process.exit(status ?? 1)));
  });
}

/** A step that counts its own tests into a JSON file. */
function suite(name, command, args, env, file, read) {
  console.log(`\n── ${name}`);
  rmSync(file, { force: true });
  const done = spawnSync(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } });
  const count = existsSync(file) ? read(JSON.parse(readFileSync(file, 'utf8'))) : { passed: 0, failed: 1 };
  if (done.status !== 0 && count.failed === 0) count.failed = 1;
  passed += count.passed;
  failed += count.failed;
  console.log(`${name}: ${count.passed} passed, ${count.failed} failed`);
}

// The build is what the suites start from, and one more thing that keeps a core busy.
await Promise.all([
  built(),
  check('type check', ['typecheck']),
  check('lint and format', ['lint']),
  check('import walls', ['walls']),
]);
const unitFile = join(results, 'unit.json');
// Files in another order each day: one that leaves something behind is found some day. Say the day's number to have its order again.
const order = process.env.ORDER ?? new Date().toISOString().slice(0, 10).replaceAll('-', '');
suite(
  `unit tests, in the order ${order}`,
  'npx',
  [
    'vitest',
    'run',
    '--sequence.shuffle.files',
    `--sequence.seed=${order}`,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${unitFile}`,
  ],
  {},
  unitFile,
  (r) => ({
    passed: r.numPassedTests,
    failed: r.numFailedTests + (r.success ? 0 : r.numFailedTests ? 0 : 1),
  }),
);
if (chromium()) {
  const file = join(results, 'e2e.json');
  suite(
    'end-to-end tests',
    'npx',
    ['playwright', 'test', '--config', 'e2e/playwright.config.ts', '--reporter=list,json'],
    { PLAYWRIGHT_JSON_OUTPUT_FILE: file },
    file,
    ({ stats }) => ({ passed: stats.expected, failed: stats.unexpected + stats.flaky }),
  );
} else failed++;

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed > 0 ? 1 : 0);

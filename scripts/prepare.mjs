// What `npm start` and `npm test` share: install what is missing, build when sources are newer than the build.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { join } from 'node:path';

export const root = fileURLToPath(new URL('..', import.meta.url));
const modules = join(root, 'node_modules');
const stamp = join(modules, '.mile-lock');

/** Run a command with its output shown; end with its code when it fails. */
export function run(command, args, options = {}) {
  const done = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (done.status !== 0) process.exit(done.status ?? 1);
}

/** Install the packages when they are missing or the lock has changed since. */
export function install() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (installed(lock)) return;
  // Two commands at once: the second waits for the first, as long as that lives.
  const busy = join(root, '.installing');
  while (!taken(busy)) spawnSync(process.execPath, ['-e', 'setTimeout(() => {}, 500)']);
  try {
    if (!installed(lock)) fetchPackages(lock);
  } finally {
    rmSync(busy, { force: true });
  }
}

function installed(lock) {
  return existsSync(stamp) && readFileSync(stamp, 'utf8') === lock;
}

/** Put this process's mark, unless one that lives has put its own. */
function taken(file) {
  try {
    writeFileSync(file, String(process.pid), { flag: 'wx' });
    return true;
  } catch {
    const other = Number(existsSync(file) ? readFileSync(file, 'utf8') : 0);
    if (!alive(other)) rmSync(file, { force: true });
    return false;
  }
}

function alive(pid) {
  try {
    return pid > 0 && process.kill(pid, 0);
  } catch (error) {
    return error.code === 'EPERM';
  }
}

function fetchPackages(lock) {
  console.log('Installing packages (once; about two minutes) …');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(stamp, lock);
}

/** Build the application and the command line when any source is newer than the build. */
export function build() {
  const built = ['packages/web/dist/index.html', 'packages/cli/dist/mile.js'].map((f) => join(root, f));
  const since = Math.min(...built.map((f) => (existsSync(f) ? statSync(f).mtimeMs : 0)));
  const sources = ['packages/core/src', 'packages/web', 'packages/cli/src', 'package-lock.json'];
  if (sources.every((path) => newest(join(root, path)) <= since)) return;
  console.log('Building the application …');
  run('npm', ['run', '--silent', 'build']);
}

function newest(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return readdirSync(path)
    .filter((name) => name !== 'dist' && name !== 'node_modules')
    .reduce((latest, name) => Math.max(latest, newest(join(path, name))), 0);
}

/** Whether Chromium is there for journeys, pictures and benchmarks: from Debian when we may install it, otherwise say what to do. */
export function chromium() {
  const path = process.env.CHROMIUM ?? '/usr/bin/chromium';
  if (existsSync(path)) return true;
  if (process.getuid?.() === 0 && existsSync('/usr/bin/apt-get')) {
    console.log('Installing Chromium …');
    const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    spawnSync('apt-get', ['update', '-qq'], { stdio: 'inherit', env });
    spawnSync('apt-get', ['install', '-y', '-qq', 'chromium'], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env,
    });
  }
  if (existsSync(path)) return true;
  console.error(
    'Chromium is needed here. Install it (Debian: sudo apt-get install chromium), or name one: CHROMIUM=/path/to/chromium',
  );
  return false;
}

#!/usr/bin/env node
// The built program; from the sources while they are newer, as in development.
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const here = fileURLToPath(new URL('..', import.meta.url));
const built = join(here, 'dist/mile.js');

function newest(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return readdirSync(path).reduce((latest, name) => Math.max(latest, newest(join(path, name))), 0);
}

const sources = [join(here, 'src'), join(here, '../core/src')];
if (existsSync(built) && sources.every((path) => newest(path) <= statSync(built).mtimeMs)) {
  await import(new URL('../dist/mile.js', import.meta.url).href);
} else {
  // Node 20 does not load TypeScript: tsx does, with the package's own settings whatever the working directory.
  const { register } = await import('tsx/esm/api');
  register({ tsconfig: join(here, 'tsconfig.json') });
  await import('../src/program.ts');
}

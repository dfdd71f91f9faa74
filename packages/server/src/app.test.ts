import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { expect, it } from 'vitest';
import { createApp } from './app.ts';
import { isLocal } from './local.ts';
import { portOf } from './port.ts';

const folder = mkdtempSync(join(tmpdir(), 'mile-'));
mkdirSync(join(folder, 'assets'));
writeFileSync(join(folder, 'index.html'), '<title>Mile Thread</title>');
writeFileSync(join(folder, 'assets/a-1.js'), '1');
writeFileSync(join(folder, 'assets/worker-1.js'), '1');
writeFileSync(join(folder, 'sw.js'), '1');
const served = createApp(relative(process.cwd(), folder));
const app = {
  request: (path: string, host = 'localhost:4173') => served.request(path, { headers: { host } }),
};

it('answers health, serves the application for every view, and 404 for a missing file', async () => {
  expect(await (await app.request('/health')).json()).toEqual({ status: 'ok' });
  for (const path of ['/', '/thread/x/path'])
    expect(await (await app.request(path)).text()).toContain('Mile Thread');
  expect((await app.request('/assets/none.js')).status).toBe(404);
  expect((await app.request('/..%2f..%2fetc/passwd')).status).not.toBe(500);
});

it('sends a policy that lets nothing leave the machine, and caches only hashed files', async () => {
  const page = await app.request('/');
  const policy = page.headers.get('Content-Security-Policy')!;
  expect(policy).toContain("default-src 'self'");
  expect(policy).toContain("script-src 'self';");
  expect(policy).not.toMatch(/unsafe-eval|https?:|\*/);
  expect(page.headers.get('X-Content-Type-Options')).toBe('nosniff');
  expect(page.headers.get('Cache-Control')).toBeNull();
  const part = (await app.request('/assets/a-1.js')).headers;
  expect(part.get('Cache-Control')).toContain('immutable');
  expect(part.get('X-Content-Type-Options')).toBe('nosniff');
  // A worker's policy is its own, a script's that of the page.
  expect(part.get('Content-Security-Policy')).toBeNull();
  for (const worker of ['/assets/worker-1.js', '/sw.js'])
    expect((await app.request(worker)).headers.get('Content-Security-Policy'), worker).toBe(policy);
});

it('answers to names of this machine alone', async () => {
  for (const host of ['evil.example', 'evil.example:4173', 'localhost.evil.example', '192.168.0.4', '']) {
    expect((await app.request('/', host)).status, host).toBe(421);
  }
  for (const host of ['localhost', '127.0.0.1:80', '[::1]:4173', 'LOCALHOST:1'])
    expect(isLocal(host)).toBe(true);
  expect(isLocal(undefined)).toBe(false);
});

it('never leaves its folder, whatever the path', async () => {
  writeFileSync(join(folder, '../mile-secret.txt'), 'secret');
  const up = ['..', '%2e%2e', '.%2e', '..%00', '%252e%252e', '..%c0%af'];
  const between = ['/', '%2f', '\\', '%5c', '//'];
  const paths = up.flatMap((u) => between.map((b) => `${u}${b}mile-secret.txt`));
  for (const path of [...paths, ...paths.map((p) => `assets/../${p}`), `${'a/'.repeat(5000)}x`, '%', '%zz']) {
    const answer = await app.request(`/${path}`);
    expect(answer.status, path).toBeLessThan(500);
    expect(await answer.text(), path).not.toContain('secret');
  }
});

it('answers two thousand requests, fifty at a time', async () => {
  const paths = ['/', '/thread/x/path', '/assets/a-1.js', '/none.js', '/health'];
  const expected = [200, 200, 200, 404, 200];
  let next = 0;
  const one = async () => {
    for (let k = next++; k < 2000; k = next++) {
      const answer = await app.request(paths[k % paths.length]!);
      expect(answer.status).toBe(expected[k % paths.length]);
      await answer.arrayBuffer();
    }
  };
  await Promise.all(Array.from({ length: 50 }, one));
});

it('takes a port or says it is none', () => {
  expect(['', undefined, '8080', '65535'].map(portOf)).toEqual([4173, 4173, 8080, 65535]);
  expect(['0', '65536', 'abc', '-1', '1e3', '80.5'].map(portOf)).toEqual(Array(6).fill(undefined));
});

import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { expect, it } from 'vitest';
import { createApp } from './app.ts';

const folder = mkdtempSync(join(tmpdir(), 'mile-'));
mkdirSync(join(folder, 'assets'));
writeFileSync(join(folder, 'index.html'), '<title>Mile Thread</title>');
writeFileSync(join(folder, 'assets/a-1.js'), '1');
const app = createApp(relative(process.cwd(), folder));

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
  expect((await app.request('/assets/a-1.js')).headers.get('Cache-Control')).toContain('immutable');
});

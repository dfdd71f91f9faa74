// Not the journeys' own test: a part of the page that cannot be had is an error in the console.
import { expect, test } from '@playwright/test';
import { serve } from '@hono/node-server';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { createApp } from '../../packages/server/src/app.ts';
import { openShelf, openThread, ready, stageReady, typeOver } from '../pages/app.ts';

test('a view of a build that is gone: told, reloaded, and what was typed is kept', async ({
  browser,
  baseURL,
}) => {
  const context = await browser.newContext({ baseURL: baseURL!, serviceWorkers: 'block' });
  const page = await context.newPage();
  await openThread(page, 'Tide-pool microscope');
  await typeOver(page, 'Cells in parallel', '2');
  await ready(page);
  await page.route('**/assets/StageView*.js', (route) => route.abort());
  await page.getByRole('link', { name: /^Sizing/ }).click();
  await expect(page.getByText('This view is not there any more')).toBeVisible();
  await page.unroute('**/assets/StageView*.js');
  await page.getByRole('button', { name: 'Reload' }).click();
  await stageReady(page);
  await page.getByRole('link', { name: /^Path/ }).click();
  await ready(page);
  await expect(page.getByRole('button', { name: /^Cells in parallel: 2P/ })).toBeVisible();
  await context.close();
});

/** The built application again, as if a day later: another page under the same address. */
function rebuild(folder: string): void {
  const page = join(folder, 'index.html');
  writeFileSync(
    page,
    readFileSync(page, 'utf8').replace('<html lang="en"', '<html lang="en" data-build="2"'),
  );
  const worker = join(folder, 'sw.js');
  const listed = /(url:"index\.html",revision:")[^"]*/;
  writeFileSync(worker, readFileSync(worker, 'utf8').replace(listed, '$1second'));
  for (const name of ['index.html', 'sw.js'])
    for (const end of ['br', 'gz']) rmSync(join(folder, `${name}.${end}`));
}

test('a newer build is told, and taken on a click; the thread is as it was', async ({ browser }) => {
  const folder = mkdtempSync(join(tmpdir(), 'mile-build-'));
  cpSync(join(import.meta.dirname, '../../packages/web/dist'), folder, { recursive: true });
  const { fetch } = createApp(relative(process.cwd(), folder));
  const server = serve({ fetch, port: 0, hostname: '127.0.0.1' });
  try {
    await new Promise((done) => server.once('listening', done));
    const baseURL = `http://localhost:${(server.address() as AddressInfo).port}`;
    const context = await browser.newContext({ baseURL, serviceWorkers: 'allow' });
    const page = await context.newPage();
    await openShelf(page);
    await page.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
    await ready(page);
    await typeOver(page, 'Cells in parallel', '2');
    await ready(page);
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => {}));
    rebuild(folder);
    // With the old build kept for offline, a plain reload still shows it, and finds the new one.
    await page.reload();
    await expect(page.getByText('A newer Mile Thread is ready')).toBeVisible();
    await page.getByRole('button', { name: 'Use it now' }).click();
    await expect(page.locator('html[data-build="2"]')).toBeAttached();
    await ready(page);
    await expect(page.getByRole('button', { name: /^Cells in parallel: 2P/ })).toBeVisible();
    await context.close();
  } finally {
    server.close();
    rmSync(folder, { recursive: true, force: true });
  }
});

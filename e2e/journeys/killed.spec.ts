import { chromium, type Page } from '@playwright/test';
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { browserOptions } from '../fixtures/browser.ts';
import { expect, test } from '../fixtures/test.ts';
import { ready, typeOver } from '../pages/app.ts';

const { executablePath, args } = browserOptions.launchOptions;

/** A browser of its own with a profile on disk, that can be killed. */
async function browserOn(profile: string) {
  const own = [...args, '--headless', '--window-size=1280,800', '--remote-debugging-port=0'];
  const process = spawn(executablePath, [...own, `--user-data-dir=${profile}`, 'about:blank'], {
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  const gone = new Promise((done) => process.once('exit', done));
  const address = await new Promise<string>((done, fail) => {
    let said = '';
    process.stderr.on('data', (text: Buffer) => {
      said += text.toString();
      const found = /ws:\/\/\S+/.exec(said);
      if (found) done(found[0]);
    });
    process.once('exit', () => fail(new Error(said)));
  });
  const browser = await chromium.connectOverCDP(address);
  const page: Page = browser.contexts()[0]!.pages()[0]!;
  return {
    page,
    kill: async () => {
      process.kill('SIGKILL');
      await gone;
    },
  };
}

test('the browser killed the moment an edit is said to be saved: the edit is kept', async ({ baseURL }) => {
  const profile = mkdtempSync(join(tmpdir(), 'mile-'));
  try {
    let address = baseURL!;
    for (const cells of [1, 2]) {
      const { page, kill } = await browserOn(profile);
      await page.goto(address);
      if (address === baseURL) await page.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
      // As the killed one before it left it.
      await expect(page.getByRole('button', { name: `Cells in parallel: ${cells}P` })).toBeVisible();
      await ready(page);
      address = page.url();
      if (cells < 2) {
        await typeOver(page, 'Cells in parallel', String(cells + 1));
        await expect(page.getByRole('status')).toContainText(`revision ${cells}`);
        await expect(page.getByRole('status')).toContainText('saved');
      }
      await kill();
    }
  } finally {
    // Its helpers die a little later, and write until then; what one of them leaves is the system's to clear away.
    try {
      rmSync(profile, { recursive: true, force: true, maxRetries: 5, retryDelay: 200 });
    } catch {
      /* nothing of the application is in question */
    }
  }
});

import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { expect, test } from '../fixtures/test.ts';
import { openView, ready } from '../pages/app.ts';
import { connect, part } from '../pages/bench.ts';

/** A thread's bench, its stand-ins connected. */
async function connected(page: Page): Promise<void> {
  await openView(page, 'Tide-pool microscope', 'bench');
  await connect(page);
}

test('what is on at the bench has its stop on every page, and is not left without a question', async ({
  page,
}) => {
  await connected(page);
  const load = part(page, 'Instruments').getByRole('article', { name: 'Load' });
  await load.getByRole('button', { name: /^Load, set amps/ }).click();
  await load.getByRole('textbox').fill('2');
  await load.getByRole('textbox').press('Enter');
  await load.getByRole('button', { name: /off/ }).click();
  const stop = page.getByRole('button', { name: /^Stop: Load on, 2/ });
  await expect(stop).toBeVisible();
  // Another view of the thread is no leaving.
  await page.keyboard.press('2');
  await ready(page);
  await expect(stop).toBeVisible();
  await page.getByRole('link', { name: 'Shelf' }).click();
  const question = page.getByRole('dialog', { name: /Load on, 2/ });
  await question.getByRole('button', { name: 'Stay' }).click();
  await expect(page).toHaveURL(/path$/);
  await page.getByRole('link', { name: 'Shelf' }).click();
  await question.getByRole('button', { name: 'Leave it on' }).click();
  await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible();
  await expect(stop).toBeVisible();
  await page.getByRole('link', { name: 'Cells' }).click();
  await expect(page).toHaveURL(/cells$/);
  await expect(stop).toBeVisible();
  // The page itself asks, too; where it goes all the same, everything goes off.
  const asked = page.waitForEvent('dialog');
  const reload = page.reload();
  const dialog = await asked;
  expect(dialog.type()).toBe('beforeunload');
  await dialog.accept();
  await reload;
  await expect(stop).toHaveCount(0);
});

test('a recording belongs to the tab that writes it: another neither takes nor drops it, until that tab is gone', async ({
  page,
}) => {
  await connected(page);
  await page.getByRole('button', { name: 'Record a run-down' }).click();
  await expect(page.getByText(/recording [2-9]\d readings/)).toBeVisible();
  const other = await page.context().newPage();
  await other.goto(page.url());
  await expect(other.getByText(/being recorded in another tab/)).toBeVisible();
  await expect(other.getByRole('button', { name: 'throw it away' })).toHaveCount(0);
  // Its tab goes without a word.
  await page.close();
  await expect(other.getByRole('button', { name: 'lay it over the run' })).toBeVisible();
  await other.getByRole('button', { name: 'throw it away' }).click();
  await expect(other.getByRole('button', { name: 'lay it over the run' })).toHaveCount(0);
});

test('a browser that refuses storage, or workers, gets words', async ({ browser, baseURL }) => {
  const refused = async (script: string) => {
    const context = await browser.newContext({ baseURL: baseURL! });
    await context.addInitScript(script);
    const page = await context.newPage();
    await page.goto('/');
    return page;
  };
  const denied = `{ throw new DOMException('denied here', 'SecurityError'); }`;
  const bare = await refused(`Object.defineProperty(globalThis, 'indexedDB', { get() ${denied} })`);
  await expect(bare.getByText('Nothing can be kept in this browser')).toBeVisible();
  await bare.context().close();
  const alone = await refused(`globalThis.Worker = class { constructor() ${denied} }`);
  await alone.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
  await expect(alone.getByText(/does not let the page work in the background/)).toBeVisible();
  await alone.context().close();
});

test('tables too large to be tables are refused in words, and the page goes on', async ({ page }) => {
  await openView(page, 'Tide-pool microscope', 'bench');
  const folder = mkdtempSync(join(tmpdir(), 'mile-'));
  const drop = async (name: string, text: string) => {
    writeFileSync(join(folder, name), text);
    await page.locator('.bench-view input[type=file]').first().setInputFiles(join(folder, name));
  };
  try {
    await expect(page.getByRole('heading', { name: 'Measuring plan' })).toBeVisible();
    await drop('large.csv', `id,read\n${'idle,1 mA\n'.repeat(2_100_000)}`);
    await expect(page.getByText(/large\.csv has \d+ MB; 20 MB at most are read/)).toBeVisible();
    await drop('long.csv', `id,read\nidle,${'1'.repeat(10_000_000)}\n`);
    await expect(page.getByText(/a line is longer than 100,000 characters/)).toBeVisible();
    await drop('many.csv', `id,read\n${'idle,1 mA\n'.repeat(300_000)}`);
    await expect(page.getByText(/more than 5,000 lines/)).toBeVisible();
    // One that cannot be is told and does not take the others with it.
    await drop('one.csv', 'id,read\nidle,1e300 A\nopen:pack,-12.3 V\nopen:cell,4.1 V\n');
    await expect(page.getByText(/wrong way round/)).toBeVisible();
    await expect(page.locator('[data-answer=done] b')).toHaveText(/^1 of/);
  } finally {
    rmSync(folder, { recursive: true });
  }
});

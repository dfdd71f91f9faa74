// Not the journeys' own test: a part of the page that cannot be had is an error in the console.
import { expect, test } from '@playwright/test';
import { openThread, ready, stageReady, typeOver } from '../pages/app.ts';

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

import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '../fixtures/test.ts';
import { answer, openShelf, openThread, ready, typeOver } from '../pages/app.ts';

test('a reload keeps the thread, and undo still works after it', async ({ page }) => {
  await openThread(page, 'Tide-pool microscope');
  const before = await answer(page, 'lasts').textContent();
  await typeOver(page, 'Cells in parallel', '2');
  await expect(answer(page, 'lasts')).not.toHaveText(before!);
  await ready(page);
  const changed = await answer(page, 'lasts').textContent();
  await page.reload();
  await ready(page);
  await expect(answer(page, 'lasts')).toHaveText(changed!);
  await page.keyboard.press('Control+z');
  await expect(answer(page, 'lasts')).toHaveText(before!);
});

test('two tabs: the other one is told and shows the newest; a deleted thread is not written over', async ({
  page,
  context,
}) => {
  await openThread(page, 'Tide-pool microscope');
  const other = await context.newPage();
  await other.goto(page.url());
  await ready(other);
  await typeOver(page, 'Cells in parallel', '3');
  await expect(other.getByText('Changed in another tab')).toBeVisible();
  await expect(other.getByRole('button', { name: /^Cells in parallel: 3P/ })).toBeVisible();

  await openShelf(page);
  await page.getByRole('button', { name: 'More for Tide-pool microscope' }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(page.locator('[data-thread="Tide-pool microscope"]')).toHaveCount(0);
  await typeOver(other, 'Cells in parallel', '4');
  const dialog = other.getByRole('dialog');
  await expect(dialog).toContainText('deleted in another tab');
  await dialog.getByRole('button', { name: 'Keep mine as a copy' }).click();
  await expect(page.locator('[data-thread="Tide-pool microscope, from this tab"]')).toHaveCount(1);
});

test('full storage is said plainly and the change stays on screen', async ({ page }) => {
  await openThread(page, 'Tide-pool microscope');
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('no room', 'QuotaExceededError');
    };
  });
  await typeOver(page, 'Cells in parallel', '2');
  await expect(page.getByText('The browser has no room left')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Cells in parallel: 2P/ })).toBeVisible();
});

test('works offline after the first load', async ({ page, context }) => {
  await openShelf(page);
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready;
  });
  await page.reload();
  await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true);
  await context.setOffline(true);
  await page.reload();
  await expect(page.locator('.card-lasts')).toHaveCount(2);
  await page.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
  await ready(page);
  await context.setOffline(false);
});

test('no serious accessibility finding on the shelf, the path and its inspector', async ({ page }) => {
  const serious = async () => {
    const { violations } = await new AxeBuilder({ page }).analyze();
    return violations
      .filter((v) => v.impact === 'serious' || v.impact === 'critical')
      .map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`);
  };
  await openShelf(page);
  await expect(page.locator('.card-lasts')).toHaveCount(2);
  expect(await serious()).toEqual([]);
  await openThread(page, 'Tide-pool microscope');
  expect(await serious()).toEqual([]);
  await page.getByRole('slider').press('End');
  await page.locator('[data-knot=lamp-rail]').click();
  expect(await serious()).toEqual([]);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Pack: 3 cells/ }).click();
  expect(await serious()).toEqual([]);
});

import { expect, test } from '../fixtures/test.ts';
import { answer, downloaded, importText, openShelf, openThread, ready, typeOver } from '../pages/app.ts';

test('first start brings the demo threads, once', async ({ page }) => {
  await openShelf(page);
  await expect(page.locator('.shelf-card-lasts')).toHaveCount(5);
  await expect(page.locator('[data-thread="Tide-pool microscope"] .shelf-card-lasts')).toHaveText(
    /4\sh\s1\d\smin.*need\s4\sh/,
  );
  await expect(page.locator('[data-thread="Lake water sampler"] .shelf-card-finding')).toContainText(
    /on the shelf; 30\sdays are wanted/,
  );
  await page.reload();
  await expect(page.locator('.shelf-card-lasts')).toHaveCount(5);
});

test('a thread from nothing: a few numbers give a path that runs', async ({ page }) => {
  await openShelf(page);
  await page.getByRole('button', { name: 'New thread' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Gate counter');
  await dialog.getByLabel('Load volts').fill('12');
  await dialog.getByLabel('Load current').fill('abc');
  await dialog.getByLabel('Works from').fill('11,4');
  await dialog.getByLabel('Works up to').fill('12.6 V');
  await dialog.getByLabel('Must last').fill('6 h 30 min');
  await dialog.getByRole('button', { name: 'Start' }).click();
  await expect(dialog.getByText('is not a number in A')).toBeVisible();
  await dialog.getByLabel('Load current').fill('350m');
  await dialog.getByRole('button', { name: 'Start' }).click();
  await ready(page);
  await expect(page.locator('[data-knot=stage-1]')).toContainText('boost');
  await expect(page.locator('[data-answer=lasts]')).toContainText('need 6 h 30 min');
  await expect(page.locator('[data-answer=lasts]')).toHaveClass(/met/);
});

test('export, delete with undo, delete, import: the same thread comes back', async ({ page }) => {
  await openThread(page, 'Tide-pool microscope');
  await typeOver(page, 'Camera, power', '2.4');
  await ready(page);
  const lasts = await answer(page, 'lasts').textContent();
  const file = await downloaded(page, () => page.getByRole('button', { name: 'Export' }).click());
  expect(file.name).toBe('tide-pool-microscope.thread.json');

  await openShelf(page);
  const card = page.locator('[data-thread="Tide-pool microscope"]');
  const remove = async () => {
    await page.getByRole('button', { name: 'More for Tide-pool microscope' }).click();
    await page.getByRole('menuitem', { name: 'Delete' }).click();
    await expect(card).toHaveCount(0);
  };
  await remove();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(card).toHaveCount(1);
  await remove();
  await importText(page, file.name, file.text);
  await expect(card).toHaveCount(1);
  await page.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
  await ready(page);
  await expect(answer(page, 'lasts')).toHaveText(lasts!);
  const again = await downloaded(page, () => page.getByRole('button', { name: 'Export' }).click());
  expect(again.text).toBe(file.text);
});

test('a broken file gets a message that says where, and the shelf stays as it was', async ({ page }) => {
  const dismiss = async () => {
    // A click while the dialog is still opening is swallowed by its animation.
    await expect(async () => {
      const ok = page.getByRole('button', { name: 'OK' });
      if ((await ok.count()) > 0) await ok.click({ timeout: 1000 });
      await expect(page.getByRole('dialog')).toHaveCount(0, { timeout: 1500 });
    }).toPass({ timeout: 15_000 });
  };
  await openShelf(page);
  await importText(page, 'half.thread.json', '{"format":"mile-thread","version":1,"name":"Ha');
  await expect(page.getByRole('dialog')).toContainText('half.thread.json could not be read');
  await expect(page.getByRole('dialog')).toContainText('not JSON');
  await dismiss();

  await page.getByRole('button', { name: 'More for Lake water sampler' }).click();
  const file = await downloaded(page, () => page.getByRole('menuitem', { name: 'Export' }).click());
  const bad = JSON.parse(file.text);
  bad.pack.series = 10000;
  bad.pack.cell.capacityAh = -2;
  await importText(page, 'odd.thread.json', JSON.stringify(bad));
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('pack.series: given 10000; allowed: a whole number from 1 to 200');
  await expect(dialog).toContainText('pack.cell.capacityAh: given -2');
  await dismiss();

  await importText(page, 'newer.thread.json', JSON.stringify({ ...JSON.parse(file.text), version: 10 }));
  await expect(page.getByRole('dialog')).toContainText('newer Mile Thread');
  await dismiss();
  await expect(page.locator('.shelf-card-lasts')).toHaveCount(5);
});

test('the whole shelf goes into one file and comes back; duplicate and rename', async ({ page }) => {
  await openShelf(page);
  const all = await downloaded(page, () => page.getByRole('button', { name: 'Export all' }).click());
  await importText(page, all.name, all.text);
  await expect(page.locator('.shelf-card-lasts')).toHaveCount(10);
  await page.getByRole('button', { name: 'More for Lake water sampler' }).first().click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  const copy = page.locator('[data-thread="Lake water sampler, copy"]');
  await expect(copy).toHaveCount(1);
  await copy.getByRole('button', { name: /^Name of the thread/ }).click();
  await copy.getByRole('textbox').fill('Pond sampler');
  await copy.getByRole('textbox').press('Enter');
  await expect(page.locator('[data-thread="Pond sampler"]')).toHaveCount(1);
});

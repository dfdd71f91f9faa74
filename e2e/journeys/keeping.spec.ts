import type { Page } from '@playwright/test';
import { expect, test } from '../fixtures/test.ts';
import {
  answer,
  openCopy,
  downloaded,
  goToStage,
  openShelf,
  openThread,
  ready,
  typeOver,
} from '../pages/app.ts';
import { flaws } from '../pages/flaws.ts';

test('two tabs: the other one is told and shows the newest; a deleted thread is not written over', async ({
  page,
}) => {
  await openThread(page, 'Tide-pool microscope');
  const other = await page.context().newPage();
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

test.describe(() => {
  test.use({ serviceWorkers: 'allow' });
  test('works offline after the first load', async ({ page }) => {
    await openShelf(page);
    await page.evaluate(async () => {
      await navigator.serviceWorker.ready;
    });
    await page.reload();
    await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true);
    await page.context().setOffline(true);
    await page.reload();
    await expect(page.locator('.shelf-card-lasts')).toHaveCount(5);
    await page.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
    await ready(page);
    await page.context().setOffline(false);
  });
});

test('no serious accessibility finding on the shelf, the path and its inspector', async ({ page }) => {
  await openShelf(page);
  await expect(page.locator('.shelf-card-lasts')).toHaveCount(5);
  expect(await flaws(page)).toEqual([]);
  await page.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
  await ready(page);
  expect(await flaws(page)).toEqual([]);
  await page.getByRole('slider').press('End');
  await page.locator('[data-knot=lamp-rail]').click();
  expect(await flaws(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Pack: 3 cells/ }).click();
  expect(await flaws(page)).toEqual([]);
});

/** Another tab's write that this one has not heard of yet: past what tells them of each other. */
async function writtenElsewhere(page: Page, parallel: number): Promise<void> {
  await page.evaluate(async (cells) => {
    const answered = <T>(request: IDBRequest<T>) =>
      new Promise<T>((done) => (request.onsuccess = () => done(request.result)));
    const db = await answered(indexedDB.open('mile-thread'));
    const writing = db.transaction('threads', 'readwrite');
    const store = writing.objectStore('threads');
    const row = await answered(store.get(location.pathname.split('/')[2]!));
    row.doc.pack.parallel = cells;
    store.put({ ...row, token: `elsewhere ${cells}` });
    await new Promise((done) => (writing.oncomplete = done));
    db.close();
  }, parallel);
}

test('notes are kept at a pause, and a rename on the shelf reaches the open thread', async ({ page }) => {
  await openThread(page, 'Tide-pool microscope');
  await page.getByRole('textbox', { name: 'Notes' }).fill('decided: two lamps');
  await expect(page.getByRole('status')).toContainText('revision 1');
  await page.reload();
  await ready(page);
  await expect(page.getByRole('textbox', { name: 'Notes' })).toHaveValue('decided: two lamps');
  const shelf = await page.context().newPage();
  await openShelf(shelf);
  const card = shelf.locator('[data-thread="Tide-pool microscope"]');
  await card.getByRole('button', { name: /^Name of the thread/ }).click();
  await card.getByRole('textbox').fill('Rock pools');
  await card.getByRole('textbox').press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Rock pools');
});

test('what could not be kept is not left without a question', async ({ page }) => {
  await openThread(page, 'Tide-pool microscope');
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('no room', 'QuotaExceededError');
    };
  });
  await typeOver(page, 'Cells in parallel', '2');
  await expect(page.getByText('The browser has no room left').first()).toBeVisible();
  await page.getByRole('link', { name: 'Mile Thread' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Your last change is not kept');
  await dialog.getByRole('button', { name: 'Stay and try again' }).click();
  await expect(page.getByRole('button', { name: /^Cells in parallel: 2P/ })).toBeVisible();
});

test('damaged and newer rows are shown as such, offered as they are, and keep nothing else out', async ({
  page,
}) => {
  await openShelf(page);
  await expect(page.locator('.shelf-card-lasts')).toHaveCount(5);
  await page.evaluate(async () => {
    const open = indexedDB.open('mile-thread');
    const db = await new Promise<IDBDatabase>((done) => (open.onsuccess = () => done(open.result)));
    const writing = db.transaction('threads', 'readwrite');
    const store = writing.objectStore('threads');
    const row = { createdAt: 0, changedAt: 1, head: 0 };
    store.put({
      ...row,
      id: 'a',
      token: 'a',
      name: 'Damaged',
      doc: { format: 'mile-thread', version: 1, pack: 7 },
    });
    store.put({ ...row, id: 'b', token: 'b', name: 'Newer', doc: { format: 'mile-thread', version: 99 } });
    await new Promise((done) => (writing.oncomplete = done));
    db.close();
  });
  await page.reload();
  await expect(page.locator('.shelf-card-lasts')).toHaveCount(7);
  await expect(page.locator('[data-thread=Newer]')).toContainText('newer Mile Thread');
  await page.getByRole('button', { name: 'More for Damaged' }).click();
  const file = await downloaded(page, () => page.getByRole('menuitem', { name: 'Export as it is' }).click());
  expect(JSON.parse(file.text)).toEqual({ format: 'mile-thread', version: 1, pack: 7 });
  await page.locator('[data-thread=Newer]').getByRole('link', { name: 'See what is wrong' }).click();
  await expect(page.getByText('Newer cannot be read')).toBeVisible();
});

test('a database that does not answer is told after a while', async ({ page }) => {
  await page.clock.install();
  await page.addInitScript(() => {
    IDBFactory.prototype.open = () => ({}) as IDBOpenDBRequest;
  });
  await page.goto('/');
  await page.clock.runFor(6000);
  await expect(page.getByText('storage does not answer')).toBeVisible();
});

test.describe('where others have been', () => {
  test.use({ together: true });

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

  test('a change that meets another tab’s: both stay where the places differ, else the person chooses', async ({
    page,
  }) => {
    await openThread(page, 'Tide-pool microscope');
    await writtenElsewhere(page, 3);
    await typeOver(page, 'Ring lamp, current', '400m');
    await expect(page.getByText('both changes are in this version')).toBeVisible();
    await expect(page.getByRole('button', { name: /^Cells in parallel: 3P/ })).toBeVisible();
    await expect(page.getByRole('button', { name: /^Ring lamp, current: 400/ })).toBeVisible();

    await ready(page);
    await writtenElsewhere(page, 5);
    await typeOver(page, 'Cells in parallel', '2');
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('changed in another tab');
    await expect(page.getByRole('button', { name: /^Cells in parallel: 2P/ })).toBeVisible();
    await dialog.getByRole('button', { name: 'Put mine over it' }).click();
    await ready(page);
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('button', { name: /^Cells in parallel: 5P/ })).toBeVisible();
  });

  test('a thread that never starts says why in every view; names are text everywhere', async ({ page }) => {
    await openCopy(page, 'Over <a href="x">it</a>', (doc) => {
      const [lamp] = doc.loads;
      delete lamp!.current;
      Object.assign(lamp!, { from: 'pack', draw: 'power', power: 900, range: { min: 5, max: 14 } });
      doc.stages[0]!.name = '<a href="x">rail</a>';
    });
    await expect(page.getByText('Nothing runs: pack collapses at the first instant')).toBeVisible();
    const nonsense = async () => {
      expect(await page.locator('body').innerText()).not.toMatch(/NaN|undefined|Infinity/);
      await expect(page.locator('a[href=x]')).toHaveCount(0);
    };
    await nonsense();
    await goToStage(page, 'Camera rail');
    await expect(page.getByText('Nothing runs: pack collapses at the first instant')).toBeVisible();
    await nonsense();
  });

  test('names with markup stay words inside a chart', async ({ page }) => {
    await openCopy(page, 'Marked', (doc) => {
      for (const s of doc.stages) s.name = `<a href="x">${s.name}</a>`;
    });
    await ready(page);
    await expect(page.locator('.charts-band-names')).toContainText('<a href');
    await expect(page.locator('.charts-run-area a')).toHaveCount(0);
  });
});

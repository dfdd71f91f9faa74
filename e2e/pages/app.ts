import { expect, type Locator, type Page } from '@playwright/test';

/** Hands for the journeys: they know only what is on the screen. */

export async function openShelf(page: Page): Promise<void> {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible();
}

export async function openThread(page: Page, name: string): Promise<void> {
  await openShelf(page);
  await page.getByRole('link', { name: `Open ${name}` }).click();
  await ready(page);
}

/** The path is drawn, its run computed, and the last change kept. */
export async function ready(page: Page): Promise<void> {
  await expect(page.locator('.answers-answers')).toBeVisible();
  await expect(page.locator('.answers-answers.answers-stale')).toHaveCount(0);
  await expect(page.locator('.charts-run-plot .main-svg').first()).toBeAttached();
  await expect(page.getByRole('status').filter({ hasText: /^saved/ })).toBeVisible();
}

/** From any view of a thread to one of its stages. */
export async function goToStage(page: Page, stage: string): Promise<void> {
  await page
    .getByRole('navigation', { name: 'Views of this thread' })
    .getByRole('link', { name: 'Sizing' })
    .click();
  await page
    .getByRole('navigation', { name: 'Stages of this thread' })
    .getByRole('link', { name: stage })
    .click();
}

/** A stage of a thread, sized. */
export async function openStage(page: Page, thread: string, stage: string): Promise<void> {
  await openThread(page, thread);
  await goToStage(page, stage);
  await stageReady(page);
}

/** The stage is sized, its map drawn, and the last change kept. */
export async function stageReady(page: Page): Promise<void> {
  await expect(page.locator('.stage-stage-view .answers-answers')).toBeVisible();
  await expect(page.locator('.answers-answers.answers-stale')).toHaveCount(0);
  await expect(page.locator('.charts-map-plot .main-svg').first()).toBeAttached();
  await expect(page.getByRole('status').filter({ hasText: /^saved/ })).toBeVisible();
}

export function answer(page: Page, name: string): Locator {
  return page.locator(`[data-answer=${name}] b`);
}

/** Type over the value whose label begins so. */
export async function typeOver(page: Page, label: string, text: string): Promise<void> {
  await page
    .getByRole('button', { name: new RegExp(`^${label}.*Edit$`) })
    .first()
    .click();
  const input = page.getByRole('textbox', { name: new RegExp(`^${label}`) });
  await input.fill(text);
  await input.press('Enter');
  // Taken, or refused beside the field.
  await expect(input.and(page.locator(':not([aria-invalid=true])'))).toHaveCount(0);
}

/** Choose in an Ant Design select. */
export async function choose(page: Page, label: string, option: string): Promise<void> {
  await page.getByRole('combobox', { name: label }).press('Enter');
  await page.locator('.ant-select-item-option').filter({ hasText: option }).first().click();
}

/** Put a text onto the shelf as a file. */
export async function importText(page: Page, name: string, text: string): Promise<void> {
  await page
    .locator('input[type=file]')
    .setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
}

/** Take the file that a click hands out. */
export async function downloaded(
  page: Page,
  click: () => Promise<void>,
): Promise<{ name: string; text: string }> {
  const [download] = await Promise.all([page.waitForEvent('download'), click()]);
  const chunks: Buffer[] = [];
  for await (const chunk of await download.createReadStream()) chunks.push(chunk as Buffer);
  return { name: download.suggestedFilename(), text: Buffer.concat(chunks).toString('utf8') };
}

/** As much of a thread file as the journeys change. */
export interface ThreadFile {
  name: string;
  stages: ({ id: string; name: string; kind: string } & Record<string, unknown>)[];
  loads: ({ current?: number } & Record<string, unknown>)[];
}

/** A demo thread as data, changed, on the shelf under another name. */
export async function changedCopy(
  page: Page,
  name: string,
  change: (doc: ThreadFile) => void,
): Promise<void> {
  await page.getByRole('button', { name: 'More for Tide-pool microscope' }).click();
  const file = await downloaded(page, () => page.getByRole('menuitem', { name: 'Export' }).click());
  const doc = JSON.parse(file.text) as ThreadFile;
  doc.name = name;
  change(doc);
  await importText(page, 'x.thread.json', JSON.stringify(doc));
  await expect(page.locator('.shelf-card').filter({ hasText: name })).toHaveCount(1);
}

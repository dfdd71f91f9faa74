import { expect, type Locator, type Page } from '@playwright/test';
import { lay, laidThread, type LaidThread } from '../fixtures/laid.ts';
import { isTogether } from '../fixtures/test.ts';

/** Hands for the journeys: they know only what is on the screen. */

export async function openShelf(page: Page): Promise<void> {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible();
}

/** A demo thread's path, by its address. */
export async function openThread(page: Page, name: string): Promise<void> {
  await openView(page, name, 'path');
  await ready(page);
}

/** A view of a demo thread, by its address; what it answers is waited for by who asks it. */
export async function openView(page: Page, name: string, view: string): Promise<void> {
  if (isTogether(page)) return openRow(page, laidThread(name), view);
  if (page.url() === 'about:blank') await lay(page);
  await page.goto(`/thread/${laidThread(name).id}/${view}`);
  await kept(page);
}

/** Lay a thread as a new one and open a view of it; where the application is loaded, without loading it anew. */
async function openRow(page: Page, row: LaidThread, view: string): Promise<void> {
  const id = crypto.randomUUID();
  // What was read of a row is known by its token.
  await lay(page, { ...row, id, token: crypto.randomUUID() });
  const address = `/thread/${id}/${view}`;
  if (await page.locator('#root > *').count()) {
    // By a place where nothing is: what is seen afterwards is of no other thread.
    await goWithin(page, '/nowhere');
    await expect(page.getByRole('heading', { name: 'Nothing is here' })).toBeVisible();
    await closeDialogs(page);
    await goWithin(page, address);
  } else await page.goto(address);
  await kept(page);
}

/** What the journey before left open over everything. */
async function closeDialogs(page: Page): Promise<void> {
  const open = page.getByRole('dialog');
  if ((await open.count()) === 0) return;
  await page.keyboard.press('Escape');
  await expect(open).toHaveCount(0);
}

/** As a step back or forth in the browser's history goes. */
async function goWithin(page: Page, address: string): Promise<void> {
  await page.evaluate((address) => {
    history.pushState(null, '', address);
    dispatchEvent(new PopStateEvent('popstate', { state: null }));
  }, address);
}

/** The last change of the thread on screen is written. */
async function kept(page: Page): Promise<void> {
  await expect(page.getByRole('status').filter({ hasText: /^saved/ })).toBeVisible();
}

/** The path is drawn, its run computed, and the last change kept. */
export async function ready(page: Page): Promise<void> {
  await expect(page.locator('.answers-answers')).toBeVisible();
  await expect(page.locator('.answers-answers.answers-stale')).toHaveCount(0);
  await expect(page.locator('.charts-run-plot .main-svg').first()).toBeAttached();
  await kept(page);
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
  await openView(page, thread, 'needs');
  await goToStage(page, stage);
  await stageReady(page);
}

/** The stage is sized, its map drawn, and the last change kept. */
export async function stageReady(page: Page): Promise<void> {
  await expect(page.locator('.stage-stage-view .answers-answers')).toBeVisible();
  await expect(page.locator('.answers-answers.answers-stale')).toHaveCount(0);
  await expect(page.locator('.charts-map-plot .main-svg').first()).toBeAttached();
  await kept(page);
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
  goals: { hours: number };
  stages: ({ id: string; name: string; kind: string } & Record<string, unknown>)[];
  loads: ({ current?: number } & Record<string, unknown>)[];
}

/** A demo thread, changed and under another name, laid into the browser and opened at a view. */
export async function openCopy(
  page: Page,
  name: string,
  change: (doc: ThreadFile) => void,
  view = 'path',
): Promise<void> {
  const doc = structuredClone(laidThread('Tide-pool microscope').doc) as ThreadFile;
  doc.name = name;
  change(doc);
  await openRow(page, { ...laidThread('Tide-pool microscope'), name, doc }, view);
}

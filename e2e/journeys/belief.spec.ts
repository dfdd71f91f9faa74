import { expect, test } from '../fixtures/test.ts';
import { answer, openCopy, openView, ready, typeOver } from '../pages/app.ts';
import { flaws } from '../pages/flaws.ts';

test.use({ together: true });

test('how sure the end is: cancelled half way, gone on with, what to measure, a tolerance, the answer as a range', async ({
  page,
}) => {
  // Thousands of runs: of one rail and its load, so that they are quick.
  await openCopy(
    page,
    'Lamp alone',
    (doc) => {
      doc.goals.hours = 6.5;
      doc.loads = doc.loads.slice(0, 1);
      doc.stages = doc.stages.filter((s) => s.id === doc.loads[0]!.from);
    },
    'run',
  );
  const cases = page.getByRole('region', { name: 'What if' });
  await expect(cases.locator('[data-case]')).toHaveCount(7);
  await expect(cases.locator('[data-case=cold]')).toContainText('✕');
  await cases.getByRole('button', { name: 'Work out the range' }).click();
  await expect(cases.getByText(/\d+ of 2000 draws, so far/)).toBeVisible();
  await cases.getByRole('button', { name: 'Cancel' }).click();
  await expect(cases.getByText(/After \d+ of 2000 draws it/)).toBeVisible();
  await cases.getByRole('button', { name: 'Work out the range' }).click();
  await cases.getByRole('button', { name: 'Show it in the answers' }).click({ timeout: 120_000 });
  await expect(answer(page, 'lasts').locator('..')).toContainText(/likely \d\sh.*to \d\sh/);
  await expect(cases.locator('[data-case=worst]')).toContainText(/to \d\sh/);

  const measure = page.getByRole('region', { name: 'What to measure' });
  const first = measure.locator('li').first();
  await expect(first).toHaveAttribute('data-figure', 'cells.capacity');
  await expect(first).toContainText('One discharge at 0.2 C');
  await typeOver(page, 'Cells, capacity, tolerance', '400');
  await expect(page.getByRole('alert')).toContainText('beyond that the figure could as well be nothing');
  await page.keyboard.press('Escape');
  // Known exactly, it moves nothing: another figure is then the first.
  await typeOver(page, 'Cells, capacity, tolerance', '0');
  await expect(first).not.toHaveAttribute('data-figure', 'cells.capacity', { timeout: 120_000 });
  await expect(measure).toContainText('Taken as exactly known, moving nothing: Cells, capacity');
  await measure.getByText('How far a figure may be off by its grade').click();
  await typeOver(page, 'Tolerance of claimed figures', '400');
  await expect(page.getByRole('alert')).toContainText('beyond that the figure could as well be nothing');
  await page.keyboard.press('Escape');
  expect(await flaws(page, { within: '.run-run-parts > :last-child', from: 'minor' })).toEqual([]);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(answer(page, 'lasts').locator('..')).not.toContainText('likely');
});

test('the cold typed, cells that warm themselves, and what ends where', async ({ page }) => {
  await openView(page, 'Tide-pool microscope', 'run');
  const cold = page.locator('[data-case=cold] > b');
  const usual = page.locator('[data-case=usual] > b');
  await expect(cold).toContainText('h');
  const before = await cold.textContent();
  await typeOver(page, 'Coldest air', '-15');
  await expect(cold).not.toHaveText(before!);
  const room = await usual.textContent();
  await typeOver(page, 'Usual air', '-10');
  await expect(usual).not.toHaveText(room!);
  await page.keyboard.press('2');
  await ready(page);
  const still = await answer(page, 'lasts').textContent();
  await page.keyboard.press(']');
  await page.getByRole('button', { name: 'as the air, add' }).click();
  // Their own heat takes them out of the cold, and they last longer.
  await expect(answer(page, 'lasts')).not.toHaveText(still!);
  await page.keyboard.press('4');
  await expect(answer(page, 'warmth')).toContainText('-10.0 °C to');
});

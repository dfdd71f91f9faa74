import { expect, test } from '../fixtures/test.ts';
import { answer, openThread, ready, typeOver } from '../pages/app.ts';
import { flaws } from '../pages/flaws.ts';

test.use({ together: true });

test('groups that differ: the weakest ends the run and is named, as a case and in the pack; a gauge from its own curve', async ({
  page,
}) => {
  await openThread(page, 'Tide-pool microscope');
  const before = await answer(page, 'lasts').textContent();
  await page.getByRole('button', { name: /^Pack: 3 cells/ }).click();
  const shape = page.getByRole('region', { name: 'Its shape' });
  await expect(shape).toContainText(/Takes, in one layer\s*40\smm × 40\smm × 67\smm/);
  await expect(shape).toContainText('9,600 mAh');
  await shape.getByRole('button', { name: 'none, add' }).click();
  await expect(shape).toContainText(/Takes, in one layer\s*52\smm × 40\smm × 7\d\smm/);
  await typeOver(page, 'Protection board, length', '90');
  await expect(shape).toContainText(/Takes, in one layer\s*92\smm/);
  await shape.getByRole('button', { name: 'Remove Protection board' }).click();
  // A rested cell's volts are read as a charge.
  await typeOver(page, 'Pack, Charge at the start', '3.7 V');
  await expect(
    page.getByRole('button', { name: /^Pack, Charge at the start: 5[23](\.\d+)?\s%/ }),
  ).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(answer(page, 'lasts')).toHaveText(before!);
  const groups = page.getByRole('region', { name: 'Groups in series' });
  await typeOver(page, 'Group 2, charge held', '88');
  await expect(groups.locator('[data-group="2"]')).toContainText(/✕ ends at 2\.\d+\sV/);
  await expect(answer(page, 'lasts')).not.toHaveText(before!);
  await typeOver(page, 'Group 3, charge at the start', '60');
  await expect(groups.locator('[data-group="3"]')).toContainText(/✕ ends at/);
  await typeOver(page, 'Group 3, charge held', '900');
  await expect(groups.getByRole('alert')).toContainText('Allowed: 5 % to 300 %.');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await ready(page);

  await page.getByRole('button', { name: 'none, work one out' }).click();
  const gauge = page.getByRole('region', { name: 'Level gauge' });
  await expect(gauge.getByRole('row')).toHaveCount(5);
  await expect(gauge.getByRole('row').nth(3)).toContainText(/50\s%.*V.*mV/);
  await typeOver(page, 'Level 1', '30');
  await expect(gauge.getByRole('row').nth(1)).toContainText(/25\s%/);
  await expect(gauge.getByRole('row').nth(2)).toContainText(/30\s%/);
  await gauge.getByText('Its parts').click();
  await gauge.getByRole('switch', { name: 'Level gauge, Lit always' }).click();
  await expect(gauge).toContainText('and lights 2');
  expect(await flaws(page, { within: '.side-side', from: 'minor' })).toEqual([]);
  await page.getByRole('button', { name: 'close' }).click();
  await expect(page.getByText(/level lights take 2.0\smA all the time/)).toBeVisible();
  await page.getByRole('button', { name: 'Light them at a press' }).click();
  await expect(page.getByText(/level lights take/)).toHaveCount(0);
  await expect(page.getByText(/weakest, group 2, ends the run/)).toBeVisible();
});

test('unlike cells side by side: who gives what, and what flows when they are joined', async ({ page }) => {
  await openThread(page, 'Tide-pool microscope');
  await page.getByRole('button', { name: /^Pack: 3 cells/ }).click();
  await typeOver(page, 'Pack, Parallel', '2');
  await page.getByRole('button', { name: 'all alike, or not?' }).click();
  const beside = page.getByRole('region', { name: 'Cells side by side' });
  await expect(beside).toContainText(/Most of one: odd, other\s*\d+\smA, \d+\smA/);
  await expect(page.getByRole('region', { name: 'Groups in series' })).toHaveCount(0);
  await typeOver(page, 'Odd cells, charge at the start', '40');
  await expect(beside).toContainText(/Furthest apart\s*60\s% of the charge/);
  await page.getByRole('button', { name: 'close' }).click();
  await expect(page.getByText(/flow from the fuller into the emptier at once/)).toBeVisible();
  await page.keyboard.press('4');
  await expect(page.locator('[data-case]')).toHaveCount(7);
  await expect(page.locator('[data-case=later]')).toContainText(/after 2\syears of this use/);
  await typeOver(page, 'Later, years', '8');
  await expect(page.locator('[data-case=later]')).toContainText('✓');
});

import { expect, test } from '../fixtures/test.ts';
import { answer, openThread, openView, typeOver } from '../pages/app.ts';
import { flaws } from '../pages/flaws.ts';

test.use({ together: true });

async function toCharging(page: import('@playwright/test').Page, name: string): Promise<void> {
  await openView(page, name, 'charge');
  await drawn(page);
}

async function drawn(page: import('@playwright/test').Page): Promise<void> {
  await expect(page.locator('.charge-view .answers-answers')).toBeVisible();
  await expect(page.locator('.charts-run-plot .main-svg').first()).toBeAttached();
}

test('another contract before a charger whose limit sits at its input: the current changes, the warning comes', async ({
  page,
}) => {
  await openThread(page, 'Tide-pool microscope');
  await page.getByRole('link', { name: /unplugged$/ }).click();
  await drawn(page);
  await expect(answer(page, 'full')).toHaveText(/2\sh 5\d\smin/);
  const checks = page.getByRole('region', { name: 'Checks of the charge' });
  await expect(checks).toContainText('Nothing keeps its 3 groups even');
  const board = page.getByRole('region', { name: 'The way from the source to the pack' });
  await page.getByRole('slider', { name: 'Needle' }).press('Home');
  await expect(board).toContainText(/1\.\d+\sA a cell/);
  const contracts = page.getByRole('radiogroup', { name: 'Contract asked for' });
  await contracts.getByRole('radio', { name: /^12\.0/ }).click();
  await expect(checks).toContainText(/The source's 12\.0\sV go straight through it/);
  await expect(page.getByRole('link', { name: /Charging.*danger/ })).toBeVisible();
  // What goes past the step-up is more than the source gives: it lets go.
  await expect(board).toContainText('source lets go');
  await page.keyboard.press('Control+z');
  await expect(checks).not.toContainText('straight through');
  // Sources side by side: one is put in with a click, and out again.
  const sources = page.getByRole('region', { name: 'Sources side by side' });
  await sources.getByRole('button', { name: 'Charge from USB-C 5 V, 15 W' }).click();
  await expect(answer(page, 'full')).toHaveText(/4\sh 5\d\smin/);
  await page.keyboard.press('Control+z');
  await expect(answer(page, 'full')).toHaveText(/2\sh 5\d\smin/);
  await sources.getByRole('button', { name: 'try a source' }).click();
  await page.getByRole('menuitem', { name: 'Bench supply' }).click();
  await expect(sources.getByRole('button', { name: 'Charge from Bench supply' })).toBeVisible();
  await sources.getByRole('button', { name: 'Remove Bench supply' }).click();
  await expect(sources.getByRole('button', { name: 'Charge from Bench supply' })).toHaveCount(0);
});

test('a programming resistor, where it stops, a charge that never ends and its cure', async ({ page }) => {
  await toCharging(page, 'Lake water sampler');
  const dial = page.getByRole('region', { name: 'Charge current by its resistor' });
  await expect(dial).toContainText('no turn passes');
  await typeOver(page, 'Current wanted', '2.4');
  await expect(page.getByRole('button', { name: /^Charge current: 2\.4\sA/ })).toBeVisible();
  await dial.getByRole('slider').press('ArrowRight');
  await expect(page.getByRole('button', { name: /^Charge current: 2\.4\d+\sA/ })).toBeVisible();
  // What cannot be is refused at its place.
  await typeOver(page, 'Fixed resistor', '0').catch(() => {});
  await expect(dial.getByRole('alert')).toContainText('from 1');
  await page.keyboard.press('Escape');
  const stop = page.getByRole('region', { name: 'Where the charge stops' });
  await expect(stop).toContainText('mV of room at worst');
  await stop.getByRole('button', { name: 'not trimmed' }).click();
  await expect(stop).toContainText('mV over at worst');
  const checks = page.getByRole('region', { name: 'Checks of the charge' });
  await expect(checks).toContainText(/It may charge to 4\.\d+\sV a cell/);
  // Its divider is then what is built: another pair brings it down.
  await checks.getByRole('button', { name: /^Set it to .* by .* over / }).click();
  await expect(stop).toContainText('mV of room at worst');

  // What waits takes more than the current it is to end at: it never does.
  await typeOver(page, 'Control, Ends below', '10m');
  await expect(answer(page, 'full')).toHaveText('never');
  await expect(checks).toContainText('With the loads on it never ends');
  await checks.getByRole('button', { name: 'Keep them off while charging' }).click();
  await expect(answer(page, 'full')).toHaveText(/\d\sh/);
  await expect(page.getByRole('radio', { name: 'off' })).toHaveAttribute('aria-checked', 'true');
  expect(await flaws(page, { within: '.charge-view' })).toEqual([]);
});

test('a thread without a charger is given one; the needle moves the board; a name is typed', async ({
  page,
}) => {
  await openView(page, 'Street-puppet servos', 'charge');
  await expect(page.getByRole('heading', { name: 'What will charge it?' })).toBeVisible();
  await page.getByRole('button', { name: /USB-C 20 V/ }).click();
  await expect(answer(page, 'full')).toHaveText(/\d/);
  const board = page.getByRole('region', { name: 'The way from the source to the pack' });
  const needle = page.getByRole('slider', { name: 'Needle' });
  await needle.press('Home');
  const early = await board.textContent();
  await needle.press('End');
  await expect(board).not.toHaveText(early!);
  await page.locator('body').press('p');
  await typeOver(page, 'Charge begins at, per cent', '30');
  await expect(page.getByRole('button', { name: /^Charge begins at, per cent: 30/ })).toBeVisible();
  await page.setViewportSize({ width: 390, height: 844 });
  await expect(page.getByRole('region', { name: 'The charge over time' })).toBeVisible();
  const wide = await page.evaluate(() => document.documentElement.scrollWidth);
  expect(wide).toBeLessThanOrEqual(390);
  await page.getByRole('button', { name: 'Take the charger away' }).click();
  await expect(page.getByRole('heading', { name: 'What will charge it?' })).toBeVisible();
});

test('a current by the table of a sheet, volts by a divider of a series: both write back', async ({
  page,
}) => {
  await toCharging(page, 'Lake water sampler');
  const dial = page.getByRole('region', { name: 'Charge current by its resistor' });
  await dial.getByRole('button', { name: 'by a table' }).click();
  await typeOver(page, 'Line 2, current', '9 A');
  // More current with more resistance is no table.
  await expect(page.getByRole('alert').filter({ hasText: 'less current' }).first()).toBeVisible();
  await page.keyboard.press('Escape');
  const before = await page.getByRole('button', { name: /^Current wanted/ }).textContent();
  await typeOver(page, 'Line 2, current', '2.5 A');
  await expect(page.getByRole('button', { name: /^Current wanted/ })).not.toHaveText(before!);
  await dial.getByRole('button', { name: 'by K ÷ R' }).click();
  await expect(page.getByRole('button', { name: /^K of the chip/ })).toBeVisible();

  const stops = page.getByRole('region', { name: 'Where the charge stops' });
  const was = await stops.locator('summary').textContent();
  await stops.locator('summary').click();
  await stops.getByRole('button', { name: 'Use' }).first().click();
  await expect(stops.locator('summary')).toHaveText(/^Set by \d+.*Ω over/);
  await expect(stops.locator('summary')).not.toHaveText(was!);
  await expect(page.getByRole('button', { name: /^Volts it charges to: 16\.[4-7]/ })).toBeVisible();
});

test('packs side by side on one source, cells emptied too far, groups apart as the charge leaves them', async ({
  page,
}) => {
  await openThread(page, 'Lake water sampler');
  await expect(answer(page, 'fullIn')).toHaveText(/4\sh/);
  await answer(page, 'fullIn').getByRole('link').click();
  const packs = page.getByRole('region', { name: 'Packs on this source' });
  await packs.getByRole('button', { name: '+ a pack' }).click();
  await expect(packs.getByRole('listitem')).toHaveCount(2);
  await expect(packs).toContainText('together they ask');
  await typeOver(page, 'Pack 2 begins at, per cent', '90');
  await expect(packs.getByRole('listitem').nth(1)).toContainText('90');
  await packs.getByRole('button', { name: 'Take pack 2 off' }).click();
  await expect(packs.getByRole('listitem')).toHaveCount(0);

  await typeOver(page, 'Charge begins at, per cent', '1.6 V');
  const checks = page.getByRole('region', { name: 'Checks of the charge' });
  await expect(checks).toContainText('below the');
  await page.keyboard.press('Control+z');

  await page.keyboard.press('2');
  await page
    .getByRole('button', { name: /^Pack: / })
    .first()
    .click();
  await typeOver(page, 'Group 2, charge held', '95');
  await page.keyboard.press('5');
  const groups = page.getByRole('region', { name: 'Groups as the charge leaves them' });
  await expect(groups.getByRole('listitem')).toHaveCount(4);
});

import { expect, test } from '../fixtures/test.ts';
import { answer, openView, typeOver } from '../pages/app.ts';
import { flaws } from '../pages/flaws.ts';

test.use({ together: true });

test('an outage is drawn out until the door drops; a cell more, and it holds; who carries when the boost stands above', async ({
  page,
}) => {
  await openView(page, 'Library door lock', 'outage');
  await expect(answer(page, 'dark')).toHaveText('never');
  const long = page.getByRole('group', { name: /^Outage 4, 11\sh 30\smin/ });
  const grip = (await long.locator('i').nth(1).boundingBox())!;
  await page.mouse.move(grip.x + 2, grip.y + 8);
  await page.mouse.down();
  await page.mouse.move(grip.x + 40, grip.y + 8, { steps: 4 });
  await page.mouse.move(grip.x + 64, grip.y + 8, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('group', { name: /^Outage 4, 2[3-6]\sh/ })).toBeVisible();
  await expect(answer(page, 'dark')).toHaveText(/\d\sh|\d\smin/);
  const checks = page.getByRole('region', { name: 'Checks over the timeline' });
  await expect(checks).toContainText('The loads are dropped for');
  await expect(page.locator('[data-who=nobody]')).toHaveAttribute('title', /^✕ nobody, /);

  await page.keyboard.press('2');
  await page.getByRole('button', { name: /^Pack: 1 cells/ }).click();
  await typeOver(page, 'Pack, Parallel', '4');
  await page.keyboard.press('7');
  await expect(answer(page, 'dark')).toHaveText('never');
  await expect(checks).not.toContainText('The loads are dropped for');

  // What is asked of the adapter: the managed path lets the charger give way.
  await checks.getByRole('button', { name: 'Let the charger give way' }).click();
  await expect(page.getByRole('radio', { name: /^Managed path/ })).toHaveAttribute('aria-checked', 'true');
  await page.keyboard.press('Control+z');
  await typeOver(page, 'Volts of the battery’s side', '12.6');
  await expect(checks).toContainText('The battery feeds although mains is there');
  await checks.getByRole('button', { name: /^Set it to 11/ }).click();
  await expect(checks).not.toContainText('The battery feeds although mains is there');
  await page.getByRole('radio', { name: /^On the battery bus/ }).click();
  await expect(answer(page, 'dip')).toHaveText('no dip');
  expect(await flaws(page, { within: '.outage-view' })).toEqual([]);
});

test('a thread without mains begins with a week; outages by keys; what cannot be is refused', async ({
  page,
}) => {
  await openView(page, 'Street-puppet servos', 'outage');
  await expect(page.getByRole('heading', { name: 'What feeds it while there is mains?' })).toBeVisible();
  await page.getByRole('button', { name: 'Adapter 12 V 2 A' }).click();
  const first = page.getByRole('group', { name: /^Outage 1, 8\sh/ });
  await first.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByRole('group', { name: /^Outage 1, 8\sh 15\smin/ })).toBeVisible();
  await typeOver(page, 'Outage 1, length', '0').catch(() => {});
  await expect(page.getByRole('alert').filter({ hasText: 'Allowed' })).toBeVisible();
  await page.keyboard.press('Escape');
  const lane = (await page.getByRole('group', { name: 'Mains', exact: true }).boundingBox())!;
  await page.mouse.move(lane.x + 60, lane.y + 12);
  await page.mouse.down();
  await page.mouse.move(lane.x + 80, lane.y + 12, { steps: 3 });
  await page.mouse.move(lane.x + 60 + lane.width / 14, lane.y + 12, { steps: 3 });
  await page.mouse.up();
  // A fourteenth of a week.
  await expect(page.getByRole('group', { name: /^Outage 1, (11|12)\sh/ })).toBeVisible();
  await page.getByRole('group', { name: 'Mains', exact: true }).dblclick({ position: { x: 30, y: 12 } });
  await expect(page.getByRole('group', { name: /^Outage 3/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('group', { name: /^Outage 3/ })).toHaveCount(0);
  await page.getByRole('group', { name: /^Outage 1/ }).focus();
  await page.keyboard.press('Delete');
  await expect(page.getByRole('group', { name: /^Outage 2/ })).toHaveCount(0);
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test('random years: worked out, stopped, laid into the timeline; what recurs; hold times by age; from one transfer to the next', async ({
  page,
}) => {
  await openView(page, 'Library door lock', 'outage');
  const years = page.getByRole('region', { name: 'A hundred random years' });
  await typeOver(page, 'Half longer than', '12 h');
  await expect(page.getByRole('alert').filter({ hasText: 'Allowed' })).toBeVisible();
  await page.keyboard.press('Escape');
  await typeOver(page, 'One in six longer than', '30 h');
  await typeOver(page, 'Half longer than', '12 h');
  // So many that there is time to stop it.
  await typeOver(page, 'Outages a year', '150');
  await expect(years.getByRole('button', { name: /^Outages a year: 150/ })).toBeVisible();
  await expect(years.locator('[data-state=drops]').first()).toBeVisible();
  await years.getByRole('button', { name: 'stop' }).click();
  await years.getByRole('button', { name: 'go on' }).click();
  const year = years.getByRole('button', { name: /^Year 3: \d+ outages, the longest/ });
  const told = (await year.getAttribute('title'))!;
  await year.click();
  await expect(page.getByRole('group', { name: /^Outage \d+,/ })).toHaveCount(
    Number(/(\d+) outages/.exec(told)![1]),
  );
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('group', { name: /^Outage \d+,/ })).toHaveCount(5);

  const lanes = page.getByRole('region', { name: 'The timeline of mains' });
  await lanes.getByRole('button', { name: '+ one that recurs' }).click();
  await typeOver(page, 'Recurring, lasts', '30');
  await expect(page.getByRole('alert').filter({ hasText: 'Allowed' })).toBeVisible();
  await page.keyboard.press('Escape');
  // Seven days and the five drawn, of which one is met.
  await expect(
    page.getByRole('region', { name: 'Recharge against the gap after' }).getByRole('listitem'),
  ).toHaveCount(11);
  await lanes.getByRole('button', { name: 'Nothing recurs' }).click();

  const needle = lanes.getByRole('slider');
  const before = await needle.getAttribute('aria-valuenow');
  await page.keyboard.press(']');
  await expect(needle).not.toHaveAttribute('aria-valuenow', before!);
  await page.keyboard.press('[');
  await expect(needle).toHaveAttribute('aria-valuenow', before!);

  await page.getByRole('radio', { name: 'by age' }).click();
  await expect(page.getByRole('figure', { name: 'Hold time over charge and age' })).toBeVisible();
  // Each way of joining says what it costs.
  await expect(page.getByRole('radio', { name: /^On the battery bus.*never full/ })).toBeVisible();
  await expect(page.getByRole('radio', { name: /^Ideal diodes.*drops 14\smV/ })).toBeVisible();
});

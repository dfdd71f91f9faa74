import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '../fixtures/test.ts';
import { answer, downloaded, openThread, typeOver } from '../pages/app.ts';

test('a day of samples from nothing: modes, times and draws typed and dragged, all undone', async ({
  page,
}) => {
  await openThread(page, 'Tide-pool microscope');
  const steady = await answer(page, 'lasts').textContent();
  await page.keyboard.press('1');
  await expect(page.getByRole('region', { name: 'What the loads do' })).toBeVisible();
  await page.getByRole('button', { name: /^Give it modes/ }).click();
  // A minute in eleven: the pack lasts many times as long.
  await expect(answer(page, 'lasts')).toContainText('44');
  await typeOver(page, 'Rest, lasts', '34 min 30 s');
  await expect(page.getByRole('button', { name: 'Rest, lasts: 35 min. Edit' })).toBeVisible();
  await typeOver(page, 'Ring lamp in Work', '200m');
  await expect(page.getByRole('button', { name: 'Ring lamp in Work: 200 mA. Edit' })).toBeVisible();
  await page.getByRole('button', { name: '+ mode' }).click();
  await expect(page.getByRole('button', { name: 'Name of the mode: Mode 3. Edit' })).toBeVisible();
  await typeOver(page, 'Cycles wanted', '40');
  await expect(page.getByRole('region', { name: 'Wants' })).toContainText('to spare');

  const edge = page.getByRole('slider', { name: 'Work, how long' });
  const box = (await edge.boundingBox())!;
  await page.mouse.move(box.x + 4, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x + 64, box.y + 12, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: /^Work, lasts: (1[0-9]{2}|[2-9]) / })).toBeVisible();
  const top = page.getByRole('slider', { name: 'Ring lamp in Work, height' });
  await top.focus();
  await page.keyboard.press('Shift+ArrowUp');
  await expect(page.getByRole('button', { name: 'Ring lamp in Work: 300 mA. Edit' })).toBeVisible();
  expect(
    (await new AxeBuilder({ page }).analyze()).violations.filter(
      (v) => v.impact === 'serious' || v.impact === 'critical',
    ),
  ).toEqual([]);

  for (let k = 0; k < 7; k++) await page.keyboard.press('Control+z');
  await expect(page.getByText('every load is on all the time')).toBeVisible();
  await expect(answer(page, 'lasts')).toHaveText(steady!);
});

test('which pack reaches a rail: why not is said, a crossing is taken and undone', async ({ page }) => {
  await openThread(page, 'Lake water sampler');
  await page.keyboard.press('1');
  const reach = page.getByRole('region', { name: 'Which pack reaches which rail' });
  await reach.getByRole('button', { name: /^Pump rail from 1S/ }).hover();
  await expect(reach).toContainText('24.0 V from 2.75 V is 8.7 times as much');
  await reach.getByRole('button', { name: /^Pump rail from 6S: only buck-boost/ }).click();
  await expect(reach.getByRole('columnheader', { name: /^6S/ })).toHaveClass('taken');
  // Two stages that took 16.8 V: the one that was swapped is another part, the other is found.
  await expect(page.getByRole('link', { name: /^Path.*danger/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(reach.getByRole('columnheader', { name: /^4S/ })).toHaveClass('taken');
});

test('a stretch without length is refused beside it, and the drawing stays', async ({ page }) => {
  await openThread(page, 'Lake water sampler');
  await page.keyboard.press('1');
  await page.getByRole('button', { name: /^Drip, lasts/ }).click();
  const input = page.getByRole('textbox', { name: /^Drip, lasts/ });
  await input.fill('0');
  await input.press('Enter');
  await expect(page.getByRole('alert')).toContainText('Allowed');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Drip, lasts: 15.0 s. Edit' })).toBeVisible();
});

test('the run-down: energy by mode, the account, and every row as CSV', async ({ page }) => {
  await openThread(page, 'Lake water sampler');
  await page.keyboard.press('4');
  const modes = page.getByRole('table', { name: 'By mode' });
  await expect(modes.getByRole('row', { name: /^Fill/ })).toContainText('61.3');
  // Held alone, the pump at full power runs as long as the thread did without modes.
  await expect(modes.getByRole('row', { name: /^Rinse/ })).toContainText(/3\sh\s39\smin/);
  await expect(page.getByRole('region', { name: 'Where every watt-hour went' })).toContainText('of 148');
  const file = await downloaded(page, () => page.getByRole('button', { name: 'CSV of every row' }).click());
  const lines = file.text.trim().split('\r\n');
  expect(file.name).toBe('lake-water-sampler.csv');
  expect(lines[0]).toContain(',Pump rail out (V),');
  const times = lines.slice(1).map((l) => Number(l.split(',')[0]));
  expect(times.every((t, k) => k === 0 || t >= times[k - 1]!)).toBe(true);
  expect(times.at(-1)! / 86400).toBeGreaterThan(4);
  expect(
    (await new AxeBuilder({ page }).analyze()).violations.filter(
      (v) => v.impact === 'serious' || v.impact === 'critical',
    ),
  ).toEqual([]);
});

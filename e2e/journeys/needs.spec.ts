import type { Page } from '@playwright/test';
import { expect, test } from '../fixtures/test.ts';
import { answer, downloaded, openShelf, openThread, openView, ready, typeOver } from '../pages/app.ts';
import { flaws } from '../pages/flaws.ts';

test.use({ together: true });

async function rename(page: Page, mode: string, to: string): Promise<void> {
  await page.getByRole('button', { name: `Name of the mode: ${mode}. Edit` }).click();
  const input = page.getByRole('textbox', { name: 'Name of the mode' });
  await input.fill(to);
  await input.press('Enter');
}

test('the day of a sampler from nothing: typed and dragged; a start that trips the board, mended; all undone', async ({
  page,
}) => {
  await openShelf(page);
  await page.getByRole('button', { name: 'New thread' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Pond sampler');
  await dialog.getByLabel('Load volts').fill('24');
  await dialog.getByLabel('Load current').fill('1.6');
  await dialog.getByLabel('Works from').fill('22');
  await dialog.getByLabel('Works up to').fill('25');
  await dialog.getByLabel('Must last').fill('24 h');
  await dialog.getByRole('button', { name: 'Start' }).click();
  await ready(page);
  const steady = await answer(page, 'lasts').textContent();
  await page.keyboard.press('1');
  await expect(page.getByText('every load is on all the time')).toBeVisible();

  await page.getByRole('button', { name: /^Give it modes/ }).click();
  await typeOver(page, 'Rest, lasts', '34 min 30 s');
  await expect(page.getByRole('button', { name: 'Rest, lasts: 35 min. Edit' })).toBeVisible();
  await rename(page, 'Work', 'Rinse');
  await typeOver(page, 'Rinse, lasts', '25');
  await page.getByRole('button', { name: '+ mode' }).click();
  await rename(page, 'Mode 3', 'Fill');
  await page.getByRole('button', { name: 'Move this stretch of Fill earlier' }).click();
  await typeOver(page, 'Load 1 in Fill', '1.1');
  // The unit that is typed says what is kept constant.
  await typeOver(page, 'Load 1 in Fill', '26 W');
  await expect(page.getByRole('button', { name: 'Load 1 in Fill: 26.0 W. Edit' })).toBeVisible();
  await typeOver(page, 'Cycles wanted', '40');
  const wants = page.getByRole('region', { name: 'Wants' });
  await expect(wants).toContainText('to spare');
  const heads = page.locator('.needs-stretch-words');
  await expect(heads).toHaveText([/^Rinse/, /^Fill/, /^Rest/]);

  const edge = page.getByRole('slider', { name: 'Rinse, how long' });
  const box = (await edge.boundingBox())!;
  await page.mouse.move(box.x + 4, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x + 44, box.y + 12, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: /^Rinse, lasts: (4|5|6)\d\.\d s/ })).toBeVisible();

  // The pump starts with nearly twice its current, which a small board does not stand.
  await page.getByRole('button', { name: 'Add a peak of Load 1' }).click();
  await typeOver(page, 'Load 1, peak, times', '1.8');
  await typeOver(page, 'Load 1, peak, lasts', '300m');
  await expect(page.locator('.needs-peak')).toContainText('69.1 W for');
  await page.keyboard.press('2');
  await ready(page);
  await page.keyboard.press(']');
  await page.keyboard.press(']');
  await typeOver(page, 'Protection, Trip current', '2.5');
  await expect(answer(page, 'lasts')).toHaveText('0 s');
  const trip = page.locator('[data-finding="trip:protection"]');
  await expect(trip).toContainText('Load 1 is at its peak then');
  await trip.getByRole('button', { name: /^Use a board that trips at/ }).click();
  await expect(trip).toHaveCount(0);
  await expect(answer(page, 'lasts')).not.toHaveText('0 s');

  const undo = page.getByRole('button', { name: 'Undo' });
  while (await undo.isEnabled()) await page.keyboard.press('Control+z');
  await expect(answer(page, 'lasts')).toHaveText(steady!);
  await page.keyboard.press('1');
  await expect(page.getByText('every load is on all the time')).toBeVisible();
});

test('by keyboard alone: modes, draws, times, a peak, the wait', async ({ page }) => {
  await openThread(page, 'Tide-pool microscope');
  await page.keyboard.press('1');
  const enter = async (name: string | RegExp) => {
    await page.getByRole('button', { name }).first().focus();
    await page.keyboard.press('Enter');
  };
  const type = async (label: string, text: string) => {
    await enter(new RegExp(`^${label}.*Edit$`));
    await page.keyboard.press('Control+a');
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
    // Taken, and the focus back where it was: the next key would go elsewhere.
    await expect(page.getByRole('button', { name: new RegExp(`^${label}.*Edit$`) }).first()).toBeFocused();
  };
  await enter(/^Give it modes/);
  await type('Aim, lasts', '2 min');
  await type('Ring lamp in Aim', '60m');
  await page.getByRole('slider', { name: 'Ring lamp in Film, height' }).focus();
  await page.keyboard.press('Shift+ArrowUp');
  await expect(page.getByRole('button', { name: 'Ring lamp in Film: 825 mA. Edit' })).toBeVisible();
  await enter('Add a peak of Camera');
  await type('Camera, peak, lasts', '50m');
  await enter('Wish for the wait');
  await expect(page.getByRole('region', { name: 'Wants' })).toContainText('short by');
  expect(await flaws(page)).toEqual([]);
  const undo = page.getByRole('button', { name: 'Undo' });
  while (await undo.isEnabled()) await page.keyboard.press('Control+z');
  await expect(page.getByText('every load is on all the time')).toBeVisible();
});

test('which pack reaches a rail: why not is said, a crossing is taken and undone', async ({ page }) => {
  await openView(page, 'Lake water sampler', 'needs');
  const reach = page.getByRole('region', { name: 'Which pack reaches which rail' });
  await reach.getByRole('button', { name: /^Pump rail from 1S/ }).hover();
  await expect(reach).toContainText(/Peristaltic pump .* of the 22\.0\sV it needs/);
  await reach.getByRole('button', { name: /^Pump rail from 7S: only buck-boost/ }).click();
  await expect(reach.getByRole('columnheader', { name: /^7S/ })).toHaveClass('reach-taken');
  // Two stages that took 16.8 V: the one that was swapped is another part, the other is found.
  await expect(page.getByRole('link', { name: /^Path.*danger/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(reach.getByRole('columnheader', { name: /^4S/ })).toHaveClass('reach-taken');
});

test('a stretch without length is refused beside it, and the drawing stays', async ({ page }) => {
  await openView(page, 'Lake water sampler', 'needs');
  await page.getByRole('button', { name: /^Drip, lasts/ }).click();
  const input = page.getByRole('textbox', { name: /^Drip, lasts/ });
  await input.fill('0');
  await input.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'Allowed' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Drip, lasts: 15.0 s. Edit' })).toBeVisible();
});

test('the run-down: energy by mode, the account, and every row as CSV', async ({ page }) => {
  await openView(page, 'Lake water sampler', 'run');
  const modes = page.getByRole('table', { name: 'By mode' });
  await expect(modes.getByRole('row', { name: /^Fill/ })).toContainText('60.9');
  // Held alone, the pump at full power runs as long as the thread did without modes.
  await expect(modes.getByRole('row', { name: /^Rinse/ })).toContainText(/3\sh\s39\smin/);
  // The thread unrolled: its largest loss is open, l goes on along the thread, a click opens another.
  const account = page.getByRole('region', { name: 'Where every watt-hour went' });
  await expect(account).toContainText('of 148');
  await expect(account).toContainText(/conversion 25\.4\sWh/);
  await page.keyboard.press('l');
  await expect(account.getByRole('button', { name: /^Lost in Logger rail/, pressed: true })).toBeVisible();
  await account.getByRole('button', { name: /^Lost in Cells/ }).click();
  await expect(account).toContainText('self-discharge');
  const file = await downloaded(page, () => page.getByRole('button', { name: 'CSV of every row' }).click());
  const lines = file.text.trim().split('\r\n');
  expect(file.name).toBe('lake-water-sampler.csv');
  expect(lines[0]).toContain(',Pump rail out (V),');
  const times = lines.slice(1).map((l) => Number(l.split(',')[0]));
  expect(times.every((t, k) => k === 0 || t >= times[k - 1]!)).toBe(true);
  expect(times.at(-1)! / 86400).toBeGreaterThan(4);
  const lanes = page.getByRole('region', { name: 'Run-down over time' });
  const svg = await downloaded(page, () => lanes.getByRole('button', { name: /as SVG$/ }).click());
  expect(svg.name).toBe('lake-water-sampler-run-down.svg');
  expect(svg.text).toMatch(/^<svg[^]*<\/svg>$/);
  const png = await downloaded(page, () => lanes.getByRole('button', { name: /as PNG$/ }).click());
  expect(png.text.slice(1, 4)).toBe('PNG');
  // The worst instants, one after the other: the needle stands at the start of the pump.
  await page.keyboard.press('w');
  await expect(page.getByRole('slider', { name: /^Needle/ })).toHaveAttribute('aria-valuetext', /Rinse/);
  await expect(page.getByRole('region', { name: 'One cycle at the needle' })).toContainText('lowest');
  await expect(page.getByRole('table', { name: 'Worst instants' })).toContainText(
    'Peristaltic pump at its peak',
  );
  await expect(page.getByRole('table', { name: 'Cut where' })).toContainText('before Pump rail');
  expect(await flaws(page)).toEqual([]);
});

test('a room three millimetres too low is said, and a millimetre more than that is enough; by air', async ({
  page,
}) => {
  await openView(page, 'Tide-pool microscope', 'needs');
  const wants = page.getByRole('region', { name: 'Wants' });
  await wants.getByRole('button', { name: 'any', exact: true }).click();
  await expect(wants).toContainText('✓ fits');
  // Three cells of 18.5 by 65.2 mm side by side, a millimetre of wrap around them.
  await typeOver(page, 'Room, length', '70');
  await typeOver(page, 'Room, width', '60 mm');
  await typeOver(page, 'Room, height', '17,5');
  await expect(wants).toContainText(/✕ short by 3\smm in its height/);
  await expect(page.locator('.room-room.room-small')).toBeVisible();
  await typeOver(page, 'Room, height', '20.6');
  await expect(wants).toContainText('✓ fits');
  await wants.getByRole('switch', { name: 'Carried by air' }).click();
  await expect(wants).toContainText(/✓ 3\d\.\d\sWh/);
});

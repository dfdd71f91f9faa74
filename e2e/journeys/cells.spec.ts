import { readFileSync } from 'node:fs';
import { expect, test } from '../fixtures/test.ts';
import { answer, openThread, ready, typeOver } from '../pages/app.ts';
import { flaws } from '../pages/flaws.ts';

/** A log of the reference cases as a semicolon and decimal-comma file. */
function log(name: string, change: (text: string) => string = (t) => t) {
  const file = new URL(`../../packages/core/test/reference/logs/${name}.csv`, import.meta.url);
  const text = readFileSync(file, 'utf8')
    .replace(/,/g, ';')
    .replace(/(\d)\.(\d)/g, '$1,$2');
  return { name: `${name}.csv`, mimeType: 'text/csv', buffer: Buffer.from(change(text)) };
}

test('logs of two discharges become a cell, which is used in a thread and taken back', async ({ page }) => {
  await openThread(page, 'Tide-pool microscope');
  const before = await answer(page, 'lasts').textContent();
  await page.goto('/cells');
  const files = page.locator('input[type=file]');
  await files.setInputFiles(log('H9-TWO-1_low'));
  const logs = page.getByRole('region', { name: 'Dropped logs' });
  await expect(logs.getByRole('alert')).toContainText('one alone cannot tell resistance');
  // A heading nobody could guess: told, and said by hand.
  await files.setInputFiles(log('H9-TWO-1_high', (t) => t.replace('I (mA)', 'channel 3')));
  await expect(logs.getByRole('alert')).toContainText('column of current');
  await logs.getByRole('combobox', { name: 'H9-TWO-1_high.csv, current in' }).press('Enter');
  await page.locator('.ant-select-item-option').filter({ hasText: 'mA' }).last().click();
  await expect(logs).toContainText('2.562 Ah');
  await expect(logs).toContainText(/59\.8\smΩ/);
  await expect(logs.getByRole('alert')).toHaveCount(0);
  await logs.getByRole('button', { name: /^Name of the cell/ }).click();
  await logs.getByRole('textbox', { name: 'Name of the cell' }).fill('Bench cell 7');
  await logs.getByRole('textbox', { name: 'Name of the cell' }).press('Enter');
  await logs.getByRole('button', { name: 'Keep as a cell' }).click();
  await expect(logs).toHaveCount(0);

  const list = page.getByRole('region', { name: 'Cells', exact: true });
  await list.getByRole('button', { name: 'Bench cell 7, measured, your own' }).click();
  await expect(page.locator('[data-answer^="own:"]')).toContainText('Bench cell 7');
  await page.getByRole('button', { name: 'Use Bench cell 7 in a thread' }).click();
  await page.getByRole('menuitem', { name: 'Tide-pool microscope' }).click();
  const changes = page.getByRole('dialog').getByRole('row').filter({ hasText: 'Lasts' });
  await expect(changes).toContainText(before!);
  await expect(page.getByRole('dialog')).toContainText(/Its figures aretypicalmeasured/);
  await page.getByRole('button', { name: 'Use it there' }).click();
  await ready(page);
  await expect(answer(page, 'lasts')).not.toHaveText(before!);
  await page.getByRole('button', { name: /^Pack: 3 cells/ }).click();
  await expect(page.getByRole('complementary')).toContainText('Bench cell 7');
  await expect(page.getByRole('complementary')).toContainText('The cell’s figures, measured');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(answer(page, 'lasts')).toHaveText(before!);
});

test('cells side by side at a current and in an air; nothing serious by axe', async ({ page }) => {
  await page.goto('/cells');
  const list = page.getByRole('region', { name: 'Cells', exact: true });
  const energy = page.locator('[data-answer="18650-energy"]');
  await expect(energy).toContainText(/\d\sWh/);
  const usual = await energy.textContent();
  await page.getByRole('button', { name: /^Air around them.*Edit$/ }).click();
  await page.getByRole('textbox', { name: /^Air around them/ }).fill('-10');
  await page.getByRole('textbox', { name: /^Air around them/ }).press('Enter');
  await expect(energy).not.toHaveText(usual!);
  await page.getByRole('button', { name: /^Current of each cell.*Edit$/ }).click();
  await page.getByRole('textbox', { name: /^Current of each cell/ }).fill('2 C');
  await page.getByRole('textbox', { name: /^Current of each cell/ }).press('Enter');
  await expect(page.getByRole('button', { name: 'Current of each cell: 2 C. Edit' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Find cells' }).fill('lfp');
  await expect(list.getByRole('listitem')).toHaveCount(3);
  // Faded while they are of the current before.
  await expect(page.locator('.answers-answers.answers-stale')).toHaveCount(0);
  expect(await flaws(page, { from: 'moderate' })).toEqual([]);
});

test('a cell of one’s own: copied, its figures typed over, given out and taken in again, removed and brought back', async ({
  page,
}) => {
  await page.goto('/cells');
  await page.getByRole('button', { name: 'Copy 18650 energy 3.2 Ah as your own' }).click();
  const list = page.getByRole('region', { name: 'Cells', exact: true });
  const name = '18650 energy 3.2 Ah, own';
  await list.getByRole('button', { name: `${name}, typical, your own` }).click();
  await page.getByRole('button', { name: `Change the figures of ${name}` }).click();
  const figures = page.getByRole('region', { name: `Figures of ${name}` });
  const energy = page.locator('[data-answer^="own:"]');
  await expect(energy).toContainText(/\d\sWh/);
  const before = await energy.textContent();
  await typeOver(page, `${name}, Capacity`, '2.5');
  await expect(energy).not.toHaveText(before!);
  await typeOver(page, `${name}, End volts`, '5');
  await expect(figures.getByRole('alert')).toContainText('damage ≤ end < full volts');
  await page.keyboard.press('Escape');
  await typeOver(page, 'Volts of a cell at rest', '4.1');
  await expect(page.getByRole('row').filter({ hasText: name })).toContainText(/9\d % full/);

  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export own cells' }).click();
  await page.getByRole('menuitem', { name: 'as CSV, a line a cell' }).click();
  const path = await (await download).path();
  await figures.getByRole('button', { name: 'Take back' }).click();
  await expect(energy).toHaveText(before!);
  await page.getByRole('button', { name: `Remove ${name}` }).click();
  await expect(list.getByRole('button', { name: `${name}, typical, your own` })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(list.getByRole('button', { name: `${name}, typical, your own` })).toBeVisible();

  // What was given out has the charge typed; taken in again it stands for the one of that name.
  await page.locator('input[type=file]').setInputFiles(path);
  await expect(page.getByText('1 cell kept')).toBeVisible();
  await expect(energy).not.toHaveText(before!);
  const broken = {
    name: 'x.json',
    mimeType: 'application/json',
    buffer: Buffer.from('[{"format":"mile-cell"}]'),
  };
  await page.locator('input[type=file]').setInputFiles(broken);
  await expect(page.getByRole('dialog')).toContainText('x.json could not be read');
  await page.getByRole('button', { name: 'OK' }).click();

  // It can be begun with, and is in the pack's own list.
  await page.goto('/');
  await page.getByRole('button', { name: 'New thread' }).click();
  await page.getByRole('combobox', { name: 'Cell' }).click();
  await expect(page.locator('.ant-select-item-option').first()).toContainText(name);
});

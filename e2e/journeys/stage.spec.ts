import { expect, test } from '../fixtures/test.ts';
import { answer, downloaded, openStage, openThread, ready, stageReady, typeOver } from '../pages/app.ts';
import { flaws } from '../pages/flaws.ts';

test.use({ together: true });

test('size a boost from nothing to real parts, and see the run-down change', async ({ page }) => {
  await openThread(page, 'Lake water sampler');
  const before = await answer(page, 'lasts').textContent();
  await page.locator('[data-knot=pump-rail]').click();
  await page.getByRole('link', { name: /^Size this stage/ }).click();
  await expect(page.getByText('No parts yet')).toBeVisible();
  await page.getByRole('button', { name: 'Fill with parts' }).click();
  await stageReady(page);
  const table = page.getByRole('table', { name: 'Parts over the run' });
  await expect(table.getByRole('row', { name: /^Inductor, peak/ })).toContainText('empty end');
  await expect(page.locator('.stage-waveforms svg')).toBeVisible();
  await expect(page.getByRole('figure', { name: /^Efficiency of Pump rail/ })).toBeVisible();

  // A worse winding costs efficiency at once; the change can be taken back.
  const good = await answer(page, 'efficiency').textContent();
  const lasts = await answer(page, 'lasts').textContent();
  await typeOver(page, 'Inductor, resistance', '180m');
  await expect(answer(page, 'efficiency')).not.toHaveText(good!);
  await expect(answer(page, 'lasts')).not.toHaveText(lasts!);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(answer(page, 'efficiency')).toHaveText(good!);

  // What cannot be is refused beside the value.
  await typeOver(page, 'Inductor, inductance', '-4u7');
  await expect(page.getByRole('alert')).toContainText('Allowed: a number from');
  await page.keyboard.press('Escape');

  await page.getByRole('link', { name: /^Path/ }).click();
  await ready(page);
  await expect(answer(page, 'lasts')).not.toHaveText(before!);
});

test('a divider from E96 sets the output, an inductor from the list is fitted', async ({ page }) => {
  await openStage(page, 'Tide-pool microscope', 'Lamp rail');
  const pairs = page.getByRole('table', { name: 'Divider pairs' });
  await expect(pairs.getByRole('row', { name: /69k8 \/ 6k81/ })).toContainText('in use');
  await typeOver(page, 'Volts to set', '8.8');
  const first = pairs.getByRole('row').nth(1);
  await expect(first).toContainText(/8\.(79|80)\d V/);
  const gives = (await first.getByRole('cell').nth(0).textContent())!;
  await first.getByRole('button', { name: 'Use' }).click();
  await stageReady(page);
  await expect(page.locator('.stage-stage-head h2')).toContainText(
    `${Number(parseFloat(gives).toPrecision(3)).toFixed(2)}`,
  );
  await expect(first).toContainText('in use');

  await page.getByRole('tab', { name: 'Inductor' }).click();
  const offered = page.getByRole('table', { name: 'Inductors of the list' }).getByRole('row').nth(1);
  const value = (await offered.getByRole('rowheader').textContent())!;
  await offered.getByRole('button', { name: 'Use' }).click();
  await expect(page.getByRole('button', { name: /^Inductor, inductance/ })).toHaveText(value);
});

test('a pasted table: the impossible reading is refused, the odd one marked, the rest counts', async ({
  page,
}) => {
  await openStage(page, 'Tide-pool microscope', 'Camera rail');
  const before = await answer(page, 'efficiency').textContent();
  await page.getByRole('tab', { name: 'Readings' }).click();
  await page.getByRole('button', { name: 'Paste a table…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog
    .getByRole('textbox')
    .fill(
      'Vin;Iout (mA);eff\n8,5;100;84\n8,5;500;86\n12;100;82\n12;300;60\n12;500;87\n12;900;104\n12;1000;88',
    );
  await expect(dialog.getByText('line 7: an efficiency of 104 %')).toBeVisible();
  await expect(dialog.getByText(/12\.0\sV, 300\smA: loses/)).toBeVisible();
  await expect(dialog.getByRole('figure')).toBeVisible();
  await dialog.getByRole('button', { name: 'Take 6 readings' }).click();
  await stageReady(page);
  await expect(answer(page, 'efficiency')).not.toHaveText(before!);
  await expect(page.locator('[data-answer=efficiency]')).toContainText('from the readings');
});

test('a listing above its chip is a finding', async ({ page }) => {
  await openThread(page, 'Lake water sampler');
  await page.locator('[data-knot=pump-rail]').dblclick();
  await stageReady(page);
  await page.getByRole('tab', { name: 'Limits' }).click();
  await page
    .getByRole('region', { name: 'What the listing says' })
    .getByRole('button', { name: '+ figures' })
    .click();
  await typeOver(page, 'Pump rail, listing, Output power', '60');
  await page
    .getByRole('region', { name: 'What the chip’s data sheet says' })
    .getByRole('button', { name: '+ figures' })
    .click();
  await page
    .getByRole('region', { name: 'What the chip’s data sheet says' })
    .getByRole('button', { name: /Output power.*Edit/ })
    .click();
  await page.getByRole('textbox', { name: /Output power/ }).fill('40');
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: /^Path/ }).click();
  await ready(page);
  await expect(page.locator('[data-finding="listing:pump-rail"]')).toContainText(
    'its listing and its chip disagree',
  );
});

test('needle, netlist, records, keyboard; nothing serious by axe', async ({ page }) => {
  await openStage(page, 'Tide-pool microscope', 'Lamp rail');
  const deed = page.locator('.stage-stage-head p');
  await expect(deed).toContainText('steps down');
  await page.getByRole('slider', { name: 'Needle' }).press('End');
  await expect(deed).toContainText(/steps up|all four switches/);
  await page
    .getByRole('row', { name: /^Inductor, ripple/ })
    .getByRole('button', { name: 'full pack' })
    .click();
  await expect(deed).toContainText('steps down');

  const circuit = await downloaded(page, () => page.getByRole('button', { name: 'Netlist' }).click());
  expect(circuit.name).toBe('tide-pool-microscope-lamp-rail.cir');
  expect(circuit.text).toContain('.tran');

  await page.getByRole('button', { name: 'S1: all figures' }).click();
  await expect(page.getByRole('tab', { name: 'Part' })).toHaveAttribute('aria-selected', 'true');
  await typeOver(page, 'Lamp rail, s1, On-resistance', '30m');
  await stageReady(page);

  await page.getByRole('tab', { name: 'Records' }).click();
  await page.getByRole('textbox', { name: 'Name of the record' }).fill('Lamp rail as built');
  await page.getByRole('button', { name: 'Keep this stage as a record' }).click();
  const own = page.getByRole('table', { name: 'Own records' });
  await expect(own.getByRole('row', { name: /Lamp rail as built/ })).toBeVisible();
  await page.getByRole('button', { name: 'Export own records' }).hover();
  const csv = await downloaded(page, () => page.getByRole('menuitem', { name: 'as CSV' }).click());
  await own.getByRole('button', { name: 'Remove Lamp rail as built' }).click();
  await expect(own).toHaveCount(0);
  await page
    .getByLabel('Stage records to import')
    .setInputFiles({ name: csv.name, mimeType: 'text/csv', buffer: Buffer.from(csv.text) });
  await own.getByRole('button', { name: 'Use Lamp rail as built' }).click();
  await stageReady(page);

  // Number keys go through the views, [ and ] through the stages.
  await page.locator('.stage-stage-head h2').click();
  await page.keyboard.press(']');
  await expect(page.locator('.stage-stage-head h2')).toContainText('Camera rail');
  await page.keyboard.press('2');
  await ready(page);
  await page.keyboard.press('3');
  await stageReady(page);
  await expect(page.locator('.stage-stage-head h2')).toContainText('Lamp rail');

  expect(await flaws(page)).toEqual([]);
});

import { expect, test } from '../fixtures/test.ts';
import { answer, openStage, openThread, openView, stageReady, typeOver } from '../pages/app.ts';

test.use({ together: true });

test('heat in each air, a filter that rings and is damped, copper and fuse, edges from the gate', async ({
  page,
}) => {
  await openStage(page, 'Tide-pool microscope', 'Lamp rail');
  const tab = (name: string) => page.getByRole('tab', { name, exact: true }).click();

  await tab('Heat');
  const heat = page.getByRole('table', { name: 'Hottest part in each air' });
  await expect(heat.getByRole('row')).toHaveCount(4);
  const warmest = heat.getByRole('row', { name: /^warmest air/ }).getByRole('cell');
  const before = parseFloat((await warmest.nth(2).textContent())!);
  await typeOver(page, 'Surroundings, Air, warmest', '55');
  await expect(warmest.first()).toHaveText('55 °C');
  // As much hotter as the air is, and what its heat adds.
  await expect
    .poll(async () => parseFloat((await warmest.nth(2).textContent())!))
    .toBeGreaterThan(before + 10);
  await expect(page.getByText(/A burn hurts from about 60 °C/)).toBeVisible();

  await tab('Filter');
  await page.getByRole('button', { name: 'Add a filter' }).click();
  await stageReady(page);
  const facts = page.getByRole('tabpanel', { name: 'Filter' });
  await expect(facts.getByText(/^rings at|^quiet at/)).toBeVisible();
  await typeOver(page, 'Lamp rail, filter, ESR', '1m');
  await typeOver(page, 'Lamp rail, filter, Winding', '1m');
  await expect(facts.getByText('rings at')).toBeVisible();
  await facts.getByRole('button', { name: /^Damp it: / }).click();
  await expect(facts.getByText('quiet at')).toBeVisible();
  await facts.getByRole('button', { name: 'Remove the filter' }).click();
  await expect(facts.getByRole('button', { name: 'Add a filter' })).toBeVisible();

  await tab('Copper');
  const wires = page.getByRole('table', { name: 'Wire and trace' });
  const output = wires.getByRole('row', { name: /^Output/ });
  await expect(output).toContainText(/AWG \d+ or thicker/);
  const gauge = async () => Number(/AWG (\d+)/.exec((await output.textContent())!)![1]);
  const thin = await gauge();
  await typeOver(page, 'Length one way', '2');
  // Ten times as far takes a tenth of the resistance a metre.
  await expect.poll(gauge).toBeLessThan(thin - 5);
  await output.getByRole('button', { name: 'Choose' }).click();
  await expect(output.getByRole('button', { name: 'Chosen' })).toBeVisible();

  await page.getByRole('button', { name: 'S1: all figures' }).click();
  await page.getByText('Edge times from the gate').click();
  await typeOver(page, 'Gate resistor', '20');
  await typeOver(page, 'Gate to drain', '0').catch(() => {});
  await expect(page.getByRole('alert').filter({ hasText: /from .*F to 100/ })).toBeVisible();
});

test('the needle goes to a mode by its name; phases of a charge add up to it', async ({ page }) => {
  await openThread(page, 'Lake water sampler');
  const modes = page.getByRole('group', { name: 'Mode at the needle' }).getByRole('button');
  const names = await modes.allTextContents();
  expect(names.length).toBeGreaterThan(1);
  for (const name of names.slice(0, 2)) {
    await modes.filter({ hasText: name }).first().click();
    await expect(modes.filter({ hasText: name }).first()).toHaveAttribute('aria-pressed', 'true');
  }

  await openView(page, 'Tide-pool microscope', 'charge');
  const phases = page.getByRole('region', { name: 'Phases of the charge' }).locator('tbody tr');
  await expect(phases.first()).toBeVisible();
  const rows = await phases.locator('td').evaluateAll((cells) => cells.map((c) => c.textContent!));
  // Eight columns: the state of charge rises from phase to phase, each keeps less than it takes.
  const share = (k: number) => Number.parseFloat(rows[8 * k + 2]!);
  for (let k = 1; k < rows.length / 8; k++) expect(share(k)).toBeGreaterThanOrEqual(share(k - 1));
  for (let k = 0; k < rows.length / 8; k++) expect(Number.parseFloat(rows[8 * k + 5]!)).toBeLessThan(100);
});

test('the dip of a transfer by its capacitor; two people at odds, and one of them taken', async ({
  page,
}) => {
  await openView(page, 'Library door lock', 'outage');
  const dip = page.getByRole('region', { name: 'The dip at a transfer' });
  await expect(dip.locator('b')).toContainText('✓');
  const deep = async () => Number.parseFloat((await dip.locator('b').textContent())!);
  const before = await deep();
  await typeOver(page, 'Capacitance', '100u');
  await expect.poll(deep).toBeLessThan(before);
  await expect(dip.locator('b')).toContainText('✕');
  await page.keyboard.press('Control+z');
  await expect(dip.locator('b')).toContainText('✓');

  await openView(page, 'Tide-pool microscope', 'bench');
  await page.getByText('Two people at odds').click();
  const take = page.getByRole('button', { name: /: take / }).first();
  await take.click();
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
  await page.keyboard.press('Control+z');
  await expect(
    answer(page, 'off')
      .or(page.getByRole('heading', { name: 'Measuring plan' }))
      .first(),
  ).toBeVisible();
});

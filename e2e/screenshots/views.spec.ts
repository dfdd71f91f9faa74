import { expect, test } from '../fixtures/test.ts';
import { goToStage, typeOver } from '../pages/app.ts';

const FOLDER = new URL('../../docs/screenshots/', import.meta.url).pathname;

test('shelf', async ({ page }) => {
  await page.goto('/');
  await expect(page.locator('.shelf-card-lasts')).toHaveCount(5);
  await page.screenshot({ path: `${FOLDER}shelf.png` });
});

test('cells', async ({ page }) => {
  await page.goto('/cells');
  await expect(page.locator('.charts-lines-plot .main-svg').first()).toBeVisible();
  await page.mouse.move(1, 1);
  await page.waitForTimeout(800);
  await page.screenshot({ path: `${FOLDER}cells.png` });
});

test('path', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
  await expect(page.locator('.charts-run-plot .main-svg').first()).toBeVisible();
  await page.locator('[data-finding="under-volts:camera"]').getByText('Move needle there').click();
  await page.waitForTimeout(300);
  await page.screenshot({ path: `${FOLDER}path.png` });
  await page.locator('[data-knot=camera-rail]').click();
  await page.waitForTimeout(400);
  await page.screenshot({ path: `${FOLDER}path-stage-selected.png` });
});

test('stage', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
  await goToStage(page, 'Lamp rail');
  await expect(page.locator('.charts-map-plot .main-svg').first()).toBeVisible();
  const slider = page.getByRole('slider', { name: 'Needle' });
  await slider.press('End');
  for (let k = 0; k < 20; k++) await slider.press('ArrowLeft');
  await page.waitForTimeout(500);
  await page.screenshot({ path: `${FOLDER}stage.png` });
  await page.getByRole('link', { name: 'Camera rail' }).click();
  await page.getByRole('button', { name: 'Fill with parts' }).click();
  await page.getByRole('tab', { name: 'Inductor' }).click();
  await expect(page.locator('.charts-lines-plot .main-svg').first()).toBeVisible();
  await page.waitForTimeout(500);
  await page.screenshot({ path: `${FOLDER}stage-buck.png` });
});

test('path on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/');
  await page.getByRole('link', { name: 'Open Lake water sampler' }).click();
  await expect(page.locator('.charts-run-plot .main-svg').first()).toBeVisible();
  await page.waitForTimeout(300);
  await page.screenshot({ path: `${FOLDER}path-narrow.png` });
});

test('needs and run-down', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Open Lake water sampler' }).click();
  await expect(page.locator('.charts-run-plot .main-svg').first()).toBeVisible();
  await page.keyboard.press('1');
  await page.getByRole('button', { name: /^Pump rail from 6S/ }).hover();
  await page.waitForTimeout(500);
  await page.screenshot({ path: `${FOLDER}needs.png` });
  await page.keyboard.press('2');
  await expect(page.locator('.charts-run-plot .main-svg').first()).toBeVisible();
  await page.waitForTimeout(300);
  await page.keyboard.press('w');
  await page.waitForTimeout(300);
  await page.screenshot({ path: `${FOLDER}path-worst.png` });
});

test('run-down', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Open Ferry-stop timetable' }).click();
  await expect(page.locator('.charts-run-plot .main-svg').first()).toBeVisible();
  await page.keyboard.press('4');
  await expect(page.getByRole('region', { name: 'By mode' })).not.toContainText('…');
  await expect(page.locator('.charts-lines-plot .main-svg').first()).toBeVisible();
  await page.getByRole('slider', { name: /^Needle/ }).focus();
  for (let k = 0; k < 6; k++) await page.keyboard.press('Shift+ArrowRight');
  await page.waitForTimeout(900);
  await page.screenshot({ path: `${FOLDER}run.png` });
  await page.getByRole('region', { name: 'Where every watt-hour went' }).scrollIntoViewIfNeeded();
  await page.mouse.move(1, 1);
  await page.waitForTimeout(400);
  await page.screenshot({ path: `${FOLDER}run-account.png` });
});

test('what if and what to measure', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
  await expect(page.locator('.charts-run-plot .main-svg').first()).toBeVisible();
  await page.keyboard.press('4');
  await page.getByRole('button', { name: 'Work out the range' }).click();
  await page.getByRole('button', { name: 'Show it in the answers' }).click({ timeout: 60_000 });
  await expect(page.locator('[data-answer=lasts]')).toContainText('likely');
  await page.waitForTimeout(500);
  await page.screenshot({ path: `${FOLDER}run-range.png` });
});

test('needs and run-down on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/');
  await page.getByRole('link', { name: 'Open Lake water sampler' }).click();
  await expect(page.locator('.charts-run-plot .main-svg').first()).toBeVisible();
  await page.mouse.move(1, 1);
  await page.keyboard.press('1');
  await page.waitForTimeout(500);
  await page.screenshot({ path: `${FOLDER}needs-narrow.png` });
  await page.keyboard.press('4');
  await page.waitForTimeout(900);
  await page.screenshot({ path: `${FOLDER}run-narrow.png` });
});

test('the pack', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 1320 });
  await page.goto('/');
  await page.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
  await page.getByRole('button', { name: /^Pack: 3 cells/ }).click();
  await page.getByRole('button', { name: 'none, work one out' }).click();
  await typeOver(page, 'Group 2, charge held', '88');
  await expect(page.locator('[data-group="2"]')).toContainText('✕ ends at');
  await expect(page.getByRole('region', { name: 'Level gauge' }).getByRole('row')).toHaveCount(5);
  await page.mouse.move(1, 1);
  await page.waitForTimeout(500);
  await page.screenshot({ path: `${FOLDER}pack.png` });
});

test('charging and outage', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Open Lake water sampler' }).click();
  await expect(page.locator('.charts-run-plot .main-svg').first()).toBeVisible();
  await page.keyboard.press('5');
  await expect(
    page.getByRole('region', { name: 'Sources side by side' }).locator('.sources-card'),
  ).toHaveCount(4);
  await page.mouse.move(1, 1);
  await page.waitForTimeout(900);
  await page.screenshot({ path: `${FOLDER}charging.png` });
  await page.goto('/');
  await page.getByRole('link', { name: 'Open Library door lock' }).click();
  await expect(page.locator('.charts-run-plot .main-svg').first()).toBeVisible();
  await page.keyboard.press('7');
  await expect(page.locator('[data-answer=holds]')).toBeVisible();
  await expect(page.locator('[data-answer=dark]')).toContainText('in 100 random years');
  await page.mouse.move(1, 1);
  await page.waitForTimeout(900);
  await page.screenshot({ path: `${FOLDER}outage.png` });
});

test('the bench', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
  await expect(page.locator('.charts-run-plot .main-svg').first()).toBeVisible();
  await page.keyboard.press('9');
  const plan = page.getByRole('region', { name: 'Measuring plan' });
  const bench = page.getByRole('region', { name: 'Instruments' });
  await page.getByRole('button', { name: /^Number of the hidden truth.*Edit$/ }).click();
  const number = page.getByRole('textbox', { name: 'Number of the hidden truth' });
  await number.fill('22');
  await number.press('Enter');
  await bench.getByRole('button', { name: 'Connect the stand-ins' }).click();
  await expect(bench.getByRole('article', { name: 'Meter' })).toContainText(/\d\sV/);
  await plan.getByRole('button', { name: 'seen', exact: true }).click();
  for (const name of [
    /The pack, open/,
    /Lamp rail, set/,
    /Camera rail, set/,
    /Logic rail, set/,
    /Idle/,
    /Film/,
  ]) {
    const row = plan.getByRole('listitem').filter({ hasText: name }).first();
    await row.getByRole('button', { name: /^Read/ }).click();
    await expect(row.locator('strong')).toBeVisible();
  }
  await page.getByRole('button', { name: 'Record a run-down' }).click();
  await expect(page.getByText(/recorded .* rows/)).toBeVisible();
  const explains = page.getByRole('region', { name: 'What explains the readings' });
  await expect(explains.getByRole('progressbar')).toHaveCount(0);
  await expect(explains.getByRole('listitem').first()).toBeVisible();
  await plan.getByRole('textbox', { name: /^Camera rail, set point/ }).focus();
  await page.locator('.bench-scroll').evaluate((e) => e.scrollTo(0, 0));
  await page.mouse.move(1, 1);
  await page.waitForTimeout(900);
  await page.screenshot({ path: `${FOLDER}bench.png` });
  await bench.getByRole('button', { name: 'Load it in steps' }).click();
  await expect(page.getByRole('button', { name: /points as its measured table/ })).toBeVisible();
  const cells = Array.from({ length: 7 }, (_, k) => [
    k + 1,
    3.38 - ((k * 5) % 7) * 0.02,
    28 + k,
    k === 4 ? 41 : 3,
  ]);
  const grading = page.getByRole('region', { name: 'Cell grading' });
  await grading.locator('input[type=file]').setInputFiles({
    name: 'cells.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(['cell,capacity Ah,R mΩ,lost mV', ...cells.map((c) => c.join(','))].join('\n')),
  });
  await grading.getByRole('button', { name: 'Match them' }).click();
  await grading.getByRole('button', { name: /^Cell 5/ }).click();
  await expect(grading.getByText(/mAh apart/)).toBeVisible();
  await page.locator('.bench-scroll').evaluate((e) => e.scrollTo(0, 9999));
  await page.waitForTimeout(4000);
  await page.screenshot({ path: `${FOLDER}bench-instruments.png` });
});

import { expect, test } from '../fixtures/test.ts';
import { answer, openThread, openView, typeOver } from '../pages/app.ts';
import { flaws } from '../pages/flaws.ts';

test.use({ together: true });

test('the plan by keyboard, in order: a set point that is off is found before the load hangs on it; milliamperes are asked about; all is kept', async ({
  page,
}) => {
  await openThread(page, 'Library door lock');
  await page.keyboard.press('9');
  const plan = page.getByRole('region', { name: 'Measuring plan' });
  await expect(answer(page, 'done')).toHaveText(/^0 of \d+/);
  await plan.getByRole('button', { name: 'seen', exact: true }).click();
  await expect(answer(page, 'done')).toHaveText(/^1 of/);
  const type = async (text: string) => {
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
  };
  const blank = (name: RegExp) => plan.getByRole('textbox', { name });
  await expect(blank(/^The pack, open/)).toBeFocused();
  await type('4.17');
  await expect(blank(/^Lock rail, set point/)).toBeFocused();
  await type('nonsense');
  await expect(plan.getByRole('alert')).toBeVisible();
  await blank(/^Lock rail, set point/).fill('');
  await type('12.9 V');
  await expect(plan.getByText(/✕ 900.*over/)).toBeVisible();
  await expect(answer(page, 'off')).toHaveText('1');
  await expect(blank(/^Idle current/)).toBeFocused();
  await type('2.5');
  await expect(plan.getByRole('alert')).toContainText('A thousand times off');
  await plan.getByRole('button', { name: /^2.500\smA/ }).click();
  await expect(answer(page, 'done')).toHaveText(/^4 of/);

  // Two of one thing that cannot both be true: told, and both stay.
  await blank(/^Lock rail, set point/).fill('11.9');
  await page.keyboard.press('Enter');
  await expect(answer(page, 'odds')).toHaveText('1');
  await blank(/^Lock rail, set point/).focus();
  const step = page.getByRole('region', { name: 'Step: Lock rail, set point' });
  await expect(step.getByRole('listitem')).toHaveCount(2);
  await step
    .getByRole('button', { name: /^Take reading/ })
    .first()
    .click();
  await expect(page.locator('[data-answer=odds]')).toHaveCount(0);
  await typeOver(page, 'Accuracy of reading', '5');
  // What is said to be saved is there after a reload, the last of seven changes too.
  await expect(page.getByRole('status').filter({ hasText: 'revision' })).toHaveText(/^saved.*revision 7/);
  await page.reload();
  await expect(answer(page, 'done')).toHaveText(/^4 of/);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(answer(page, 'odds')).toHaveText('1');
  expect(await flaws(page, { within: '.bench-view' })).toEqual([]);
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test('a run-down that ends early: which figure explains it, taken over in one change, and undone; a far miss takes nothing', async ({
  page,
}) => {
  await openView(page, 'Tide-pool microscope', 'bench');
  const plan = page.getByRole('region', { name: 'Measuring plan' });
  const read = async (name: RegExp, text: string) => {
    await plan.getByRole('textbox', { name }).first().fill(text);
    await page.keyboard.press('Enter');
  };
  await read(/^Pack current, Aim/, '0.26');
  await read(/^Run-down/, '4:06');
  const explains = page.getByRole('region', { name: 'What explains the readings' });
  await expect(explains).toContainText('Lasts 4');
  await expect(explains.getByRole('listitem').first()).toContainText('capacity');
  await explains.getByRole('button', { name: /into the design$/ }).click();
  await page.keyboard.press('2');
  await expect(answer(page, 'lasts')).toHaveText(/^4\sh (5|6|7|8)\smin/);
  await page.keyboard.press('Control+z');
  await expect(answer(page, 'lasts')).toHaveText(/^4\sh 18\smin/);
  await page.keyboard.press('9');
  // The plan goes out, is filled in elsewhere, and comes back: what cannot be read is told, the rest is there.
  await page
    .getByRole('region', { name: 'Measuring plan' })
    .locator('input[type=file]')
    .setInputFiles({
      name: 'plan.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('id,read\nidle,4.1 mA\nnowhere,3\n'),
    });
  await expect(page.getByText(/plan.csv: line 3/)).toBeVisible();
  await expect(answer(page, 'done')).toHaveText(/^3 of/);
  await read(/^Run-down/, '1:10');
  await expect(explains).toContainText('would have to be further off');
  await expect(explains.getByRole('button', { name: /into the design$/ })).toBeDisabled();
});

import type { Page } from '@playwright/test';
import { expect, test } from '../fixtures/test.ts';
import { answer, openCopy, openView } from '../pages/app.ts';
import { connect, part } from '../pages/bench.ts';
import { flaws } from '../pages/flaws.ts';

/** [min] Width of the range in which the run-down is predicted. */
async function rangeOf(page: Page): Promise<number> {
  const text = (await page.locator('[data-answer=predicted] em').textContent())!;
  const [low, high] = [...text.matchAll(/(\d+)\sh(?:\s(\d+)\smin)?/g)].map(
    (m) => 60 * Number(m[1]) + Number(m[2] ?? 0),
  );
  return high! - low!;
}

test('the plan on stand-ins: a set point that is wrong is found before a load hangs on it, a run-down recorded, capacity explains the miss, the range narrows', async ({
  page,
}) => {
  // One rail that is turned to 5.4 V; cells that are not well known.
  await openCopy(
    page,
    'Practice',
    (doc) => {
      Object.assign(doc, {
        belief: { own: [{ figure: 'cells.capacity', tolerance: 0.3, distribution: 'normal' }] },
      });
    },
    'bench',
  );
  await connect(page, 22);
  const plan = part(page, 'Measuring plan');
  const read = async (name: RegExp) => {
    await plan.getByRole('button', { name }).first().click();
    await expect(part(page, 'Instruments').getByRole('alert')).toHaveCount(0);
  };
  await plan.getByRole('button', { name: 'seen', exact: true }).click();
  await read(/^Read The pack, open now/);
  await expect(answer(page, 'done')).toHaveText(/^2 of/);
  for (const rail of ['Lamp', 'Camera', 'Logic']) {
    const row = plan.getByRole('listitem').filter({ hasText: `${rail} rail, set point` });
    await row.getByRole('button', { name: /^Read/ }).click();
    await expect(row.locator('strong')).toBeVisible();
  }
  await expect(answer(page, 'off')).toHaveText('1');
  // Eight per cent: 5.4 V where 5 V belongs.
  const wrong = plan.locator('li[data-verdict=off]');
  await expect(wrong).toContainText('Camera rail, set point');
  await expect(wrong.locator('strong')).toHaveText(/^5\.(39|40|41)/);
  await wrong.getByRole('textbox').click();
  await page.getByRole('button', { name: /^Trim it to 5/ }).click();
  await expect(answer(page, 'off')).toHaveText('none');
  await read(/^Read Pack current, Film/);
  await expect(answer(page, 'done')).toHaveText(/^6 of/);

  const lasts = (await answer(page, 'predicted').textContent())!;
  const wide = await rangeOf(page);
  // At the speed offered, hours in half a minute: faster, a machine that is busy for a second misses an hour.
  await page.getByRole('button', { name: 'Record a run-down' }).click();
  // It ends by itself as the board opens, and lies over the run.
  await expect(page.getByText(/recorded .* rows/)).toBeVisible();
  await expect(answer(page, 'logged')).toHaveText(/h/);
  const explains = part(page, 'What explains the readings');
  await expect(explains.getByRole('listitem').first()).toContainText('Cells, capacity');
  await expect(answer(page, 'explained')).toHaveText(/^9\d|^100/);
  await explains.getByRole('button', { name: /into the design$/ }).click();
  // Taken over, it is what is predicted, and known better.
  await expect(explains).toContainText('is in the design since');
  await expect(answer(page, 'predicted')).not.toHaveText(lasts);
  expect(await rangeOf(page)).toBeLessThan(wide / 3);
  await page.keyboard.press('Control+z');
  await expect(answer(page, 'predicted')).toHaveText(lasts);
  expect(await flaws(page, { within: '.bench-view' })).toEqual([]);
});

test('the connection is pulled: output off, nothing recorded lost; what was recorded is there after a reload', async ({
  page,
}) => {
  const sockets: { role: string; close(): Promise<void> }[] = [];
  await page.routeWebSocket(/standins/, (ws) => {
    const server = ws.connectToServer();
    const close = async () => {
      // The page's end first: what it would still send has nowhere to go.
      await ws.close();
      await server.close();
    };
    sockets.push({ role: ws.url().split('/').at(-1)!, close });
  });
  await openView(page, 'Tide-pool microscope', 'bench');
  await connect(page);
  const load = part(page, 'Instruments').getByRole('article', { name: 'Load' });
  await load.getByRole('button', { name: /^Load, set amps/ }).click();
  await load.getByRole('textbox').fill('0.2');
  await load.getByRole('textbox').press('Enter');
  await load.getByRole('button', { name: /off/ }).click();
  await expect(load).toContainText('on');
  await expect(page.getByRole('button', { name: /^Stop: Load on/ })).toBeVisible();
  // Beyond what its cells and board may give it is not even asked.
  await load.getByRole('button', { name: /^Load, set amps/ }).click();
  await load.getByRole('textbox').fill('19');
  await load.getByRole('textbox').press('Enter');
  await expect(part(page, 'Instruments').getByRole('alert')).toContainText('above the limit');
  await sockets.find((s) => s.role === 'load')!.close();
  await expect(load).toContainText('The connection is gone; what it had on is off.');
  await expect(load.getByRole('button', { name: /off/ })).toBeVisible();

  await page.getByRole('button', { name: 'Record a run-down' }).click();
  await expect(page.getByText(/recording \d{2,} readings/)).toBeVisible();
  await sockets.find((s) => s.role === 'meter')!.close();
  await expect(page.getByText(/^Recorded \d/)).toBeVisible();
  await page.reload();
  const kept = page.locator('p').filter({ hasText: /^Recorded \d/ });
  await expect(kept).toContainText(/\d\d readings/);
  await kept.getByRole('button', { name: 'lay it over the run' }).click();
  await expect(page.getByText(/stopped before its end/)).toBeVisible();
  await expect(kept).toHaveCount(0);
});

/** A run-down as three loggers would write it. */
function dialects(): { name: string; text: string }[] {
  const at = (k: number) => ({ s: k * 60, v: 12.4 - k * 0.015 - (k > 230 ? (k - 230) * 0.12 : 0), a: 0.66 });
  const rows = Array.from({ length: 255 }, (_, k) => at(k));
  const comma = (v: number, n: number) => v.toFixed(n).replace('.', ',');
  const clock = (s: number) => new Date(1000 * s).toISOString().slice(11, 19);
  return [
    {
      name: 'meter.csv',
      text: ['time_s,U_V,I_A', ...rows.map((r) => `${r.s},${r.v.toFixed(3)},${r.a}`)].join('\n'),
    },
    {
      name: 'logger.csv',
      text: [
        'Zeit [min];Spannung [mV];Strom [mA]',
        ...rows.map((r) => `${comma(r.s / 60, 2)};${comma(1000 * r.v, 1)};${comma(1000 * r.a, 1)}`),
      ].join('\r\n'),
    },
    {
      name: 'load.txt',
      text: [
        '# load 3',
        'hh:mm:ss\tfirst\tsecond',
        ...rows.map((r) => `${clock(r.s)}\t${r.a} A\t${r.v.toFixed(3)} V`),
      ].join('\n'),
    },
  ];
}

test('three dialects of a log: two by their headings, one whose columns a person says; all lie on each other', async ({
  page,
}) => {
  await openView(page, 'Tide-pool microscope', 'bench');
  const curves = part(page, 'Curves');
  const drop = (file: { name: string; text: string }) =>
    curves
      .locator('input[type=file]')
      .setInputFiles({ name: file.name, mimeType: 'text/csv', buffer: Buffer.from(file.text) });
  const [meter, logger, load] = dialects();
  await drop(meter!);
  await expect(curves.getByText('meter.csv · 255 rows')).toBeVisible();
  await drop(logger!);
  await expect(curves.getByText('logger.csv · 255 rows')).toBeVisible();
  await drop(load!);
  const ask = curves.getByRole('group', { name: 'Columns of load.txt' });
  await expect(ask.getByRole('alert').first()).toContainText('a heading that names it');
  const choose = async (name: string, option: string) => {
    await ask.getByRole('combobox', { name }).press('Enter');
    await page.locator('.ant-select-item-option:visible').filter({ hasText: option }).first().click();
  };
  await choose('load.txt, column of volts', 'second');
  await choose('load.txt, column of current', 'first');
  await expect(ask).toContainText('255 rows');
  await ask.getByRole('button', { name: 'Lay it over the run' }).click();
  await expect(curves.getByText('load.txt · 255 rows')).toBeVisible();
  const words = curves.locator('p.quiet');
  await expect(words).toContainText('load.txt ended after');
  const ends = [...(await words.textContent())!.matchAll(/ended after (.*?);/g)].map((m) => m[1]);
  expect(new Set(ends).size).toBe(1);
  // A file that is none says so and changes nothing.
  await drop({ name: 'poem.txt', text: 'a line\nand another\n' });
  await expect(
    curves.getByRole('group', { name: 'Columns of poem.txt' }).getByRole('alert').first(),
  ).toBeVisible();
  await curves.getByRole('button', { name: 'away', exact: true }).click();
  await expect(curves.getByText(/rows/)).toHaveCount(3);
});

test('twelve cells and two that are refused into 4S3P: matched, moved by hand, taken into the pack', async ({
  page,
}) => {
  await openCopy(
    page,
    'Salvaged',
    (doc) => {
      Object.assign((doc as unknown as { pack: object }).pack, { series: 4, parallel: 3 });
    },
    'bench',
  );
  const grading = part(page, 'Cell grading');
  const rated = 3.4;
  const lines = Array.from({ length: 14 }, (_, k) => {
    const capacity = rated * (0.86 + ((k * 5) % 14) * 0.008);
    return `${k + 1};${(k === 3 ? 0.5 * capacity : capacity).toFixed(3).replace('.', ',')};${30 + k};${k === 8 ? 60 : 3}`;
  });
  await grading.locator('input[type=file]').setInputFiles({
    name: 'cells.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(['cell;capacity Ah;R mΩ;lost mV', ...lines].join('\n')),
  });
  await expect(
    grading.getByRole('button', { name: 'Cell 9, refused: sinks: 60 mV lost at rest, 20 mV at most' }),
  ).toBeVisible();
  await expect(grading.getByRole('button', { name: /^Cell 4, refused: holds/ })).toBeVisible();
  await grading.getByRole('button', { name: 'Match them' }).click();
  await expect(grading.getByText(/^\d+ mAh apart/)).toBeVisible();
  const groups = grading.getByRole('group', { name: /^B\d to B\d$/ });
  await expect(groups).toHaveCount(4);
  for (const k of [0, 1, 2, 3]) await expect(groups.nth(k).getByRole('button')).toHaveCount(3);
  const best = Number(/^\d+/.exec((await grading.getByText(/^\d+ mAh apart/).textContent())!)![0]);
  // By hand, with the mouse: one into the drawer.
  const one = groups.nth(0).getByRole('button').first();
  await grading.getByRole('group', { name: 'drawer' }).scrollIntoViewIfNeeded();
  await one.scrollIntoViewIfNeeded();
  const [from, to] = [
    (await one.boundingBox())!,
    (await grading.getByRole('group', { name: 'drawer' }).boundingBox())!,
  ];
  await page.mouse.move(from.x + 10, from.y + 30);
  await page.mouse.down();
  await page.mouse.move(to.x + 20, to.y + 40, { steps: 8 });
  await page.mouse.up();
  await expect(groups.nth(0).getByRole('button')).toHaveCount(2);
  await page.keyboard.press('Control+z');
  await expect(groups.nth(0).getByRole('button')).toHaveCount(3);
  expect(best).toBeLessThan(60);
  await grading.getByRole('button', { name: 'into the pack' }).click();
  await page.keyboard.press('2');
  await expect(answer(page, 'lasts')).toHaveText(/h|min/);
  await page.getByRole('button', { name: 'Undo' }).click();
});

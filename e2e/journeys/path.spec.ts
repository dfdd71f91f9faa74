import type { Page } from '@playwright/test';
import { expect, test } from '../fixtures/test.ts';
import { answer, choose, openCopy, openThread, ready, typeOver } from '../pages/app.ts';

test.use({ together: true });

test('a value changed on the drawing changes the answers; nonsense stays beside the field', async ({
  page,
}) => {
  await openThread(page, 'Tide-pool microscope');
  const before = await answer(page, 'lasts').textContent();
  await page.getByRole('button', { name: /^Ring lamp, current.*Edit$/ }).click();
  const input = page.getByRole('textbox', { name: 'Ring lamp, current, in A' });
  await input.fill('loud');
  await input.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'is not a number in A' })).toBeVisible();
  await input.fill('-3');
  await input.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'a number from 0 A to 2000 A' })).toBeVisible();
  await expect(answer(page, 'lasts')).toHaveText(before!);
  await input.fill('1A1');
  await input.press('Escape');
  await typeOver(page, 'Ring lamp, current', '1,1');
  await expect(answer(page, 'lasts')).not.toHaveText(before!);
  await expect(page.locator('[data-answer=lasts]')).toHaveClass(/short/);
  await expect(page.locator('[data-finding="need:cells"]')).toContainText('4 h are needed');
});

test('the needle moves by mouse and keys, the drawing with it, and the plot is not drawn again', async ({
  page,
}) => {
  await openThread(page, 'Tide-pool microscope');
  const needle = page.getByRole('slider', { name: /Needle/ });
  const volts = page.locator('.drawing-label.drawing-volts').first();
  await expect(needle).toHaveAttribute('aria-valuenow', '0');
  const full = await volts.textContent();
  await page.evaluate(() => {
    const seen = window as unknown as { redrawn: number };
    seen.redrawn = 0;
    new MutationObserver((list) => (seen.redrawn += list.length)).observe(
      document.querySelector('.charts-run-plot')!,
      {
        subtree: true,
        childList: true,
        attributes: true,
      },
    );
  });
  const box = (await page.locator('.charts-needle-area').boundingBox())!;
  await page.mouse.move(box.x + 120, box.y + 100);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.93, box.y + 90, { steps: 25 });
  await page.mouse.up();
  await expect(volts).not.toHaveText(full!);
  const dragged = Number(await needle.getAttribute('aria-valuenow'));
  expect(dragged).toBeGreaterThan(3.6 * 3600);
  await needle.press('Home');
  await expect(needle).toHaveAttribute('aria-valuenow', '0');
  await page.locator('.path-board').click({ position: { x: 300, y: 20 } });
  await page.keyboard.press('Shift+ArrowRight');
  const stepped = Number(await needle.getAttribute('aria-valuenow'));
  expect(stepped).toBeGreaterThan(300);
  await needle.press('End');
  await expect(page.locator('[data-load=camera]')).toContainText('too low');
  await expect(page.locator('[data-knot=camera-rail]')).toContainText('dropout');
  expect(await page.evaluate(() => (window as unknown as { redrawn: number }).redrawn)).toBe(0);
});

test("a finding's action swaps a boost for a buck-boost, and undo brings the boost back", async ({
  page,
}) => {
  await openThread(page, 'Lake water sampler');
  await typeOver(page, 'Pump rail, output volts', '14');
  const finding = page.locator('[data-finding="pass-through:pump-rail"]');
  await expect(finding).toContainText('a boost fed from above its output');
  await expect(page.locator('[data-knot=pump-rail]')).toContainText('passes');
  await finding.getByRole('button', { name: 'Swap Pump rail for a buck-boost' }).click();
  await expect(finding).toHaveCount(0);
  await expect(page.locator('[data-knot=pump-rail]')).toContainText('buck');
  await page.keyboard.press('Control+z');
  await expect(finding).toHaveCount(1);
  await page.keyboard.press('Control+Shift+z');
  await expect(finding).toHaveCount(0);
});

test('stages and loads are added, moved, swapped and removed; undo takes all of it back', async ({
  page,
}) => {
  await openThread(page, 'Tide-pool microscope');
  const before = await answer(page, 'lasts').textContent();
  await page.getByRole('button', { name: 'Add to Camera rail' }).click();
  await page.getByRole('menuitem', { name: 'Linear stage' }).click();
  await expect(page.locator('.drawing-knot')).toHaveCount(4);
  await page.getByRole('button', { name: 'Add to Linear' }).click();
  await page.getByRole('menuitem', { name: 'Load' }).click();
  await expect(page.locator('.drawing-load')).toHaveCount(4);
  await ready(page);
  await choose(page, 'Load 4, fed from', 'Lamp rail');
  await ready(page);
  await page.locator('[data-knot=stage-1]').click();
  await choose(page, 'Linear, kind', 'Buck');
  await expect(page.getByRole('combobox', { name: 'Buck, kind' })).toBeVisible();
  await ready(page);
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.locator('.drawing-knot')).toHaveCount(3);
  await ready(page);
  for (let k = 0; k < 5; k++) await page.keyboard.press('Control+z');
  await expect(page.locator('.drawing-knot')).toHaveCount(3);
  await expect(page.locator('.drawing-load')).toHaveCount(3);
  await expect(answer(page, 'lasts')).toHaveText(before!);
});

test('everything can be done from the keyboard', async ({ page }) => {
  await openThread(page, 'Tide-pool microscope');
  await page.keyboard.press(']');
  await expect(page.getByRole('region', { name: 'Selected: Cells and pack' })).toBeVisible();
  await page.keyboard.press(']');
  await page.keyboard.press(']');
  await expect(page.getByRole('region', { name: /Selected: Buck-boost A/ })).toBeVisible();
  const value = page.getByRole('button', { name: /^Lamp rail, Locks out below/ });
  await value.focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('10.2');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-finding="lock-out:lamp-rail"]')).toContainText('left in the cells');
  await expect(value).toBeFocused();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('previous and next knot');
});

test('the table says what the drawing shows', async ({ page }) => {
  await openThread(page, 'Tide-pool microscope');
  await page.getByText('Every node at the needle, as a table').click();
  const row = page.getByRole('row', { name: /^Logic rail/ });
  await expect(row).toContainText('Camera rail');
  await expect(row).toContainText('regulates');
  await expect(row).toContainText('3.30');
});

test('Ctrl+K finds a knot, and a thread file dropped on the path goes to the shelf', async ({ page }) => {
  await openThread(page, 'Tide-pool microscope');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Find anything' }).fill('logic');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: /Selected: Linear C/ })).toBeVisible();
  await page.evaluate(() => {
    const files = new DataTransfer();
    files.items.add(new File(['{"format":"mile-thread"'], 'torn.thread.json'));
    window.dispatchEvent(new DragEvent('drop', { dataTransfer: files, cancelable: true }));
  });
  await expect(page.getByRole('dialog')).toContainText('torn.thread.json could not be read');
});

/** Boxes of words on the drawing that lie on each other. */
async function overlaps(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const boxes: { text: string; box: DOMRect }[] = [];
    const walk = document.createTreeWalker(document.querySelector('.drawing-drawing')!, NodeFilter.SHOW_TEXT);
    for (let node = walk.nextNode(); node; node = walk.nextNode()) {
      const text = node.textContent!.trim();
      if (text === '' || text === '+') continue;
      const range = document.createRange();
      range.selectNodeContents(node);
      const holder = node.parentElement!.getBoundingClientRect();
      const box = range.getBoundingClientRect();
      // What its holder cuts off is not there to be seen.
      const right = Math.min(box.right, holder.right + 1);
      if (box.width > 0)
        boxes.push({ text, box: new DOMRect(box.x, box.y + 2, right - box.x, box.height - 4) });
    }
    return boxes.flatMap((a, k) =>
      boxes.slice(k + 1).flatMap((b) => {
        const apart =
          a.box.right <= b.box.left + 1 ||
          b.box.right <= a.box.left + 1 ||
          a.box.bottom <= b.box.top ||
          b.box.bottom <= a.box.top;
        return apart ? [] : [`${a.text} / ${b.text}`];
      }),
    );
  });
}

test('eight stages in a chain: no word lies on another; the whole is shown on a click', async ({ page }) => {
  await openCopy(page, 'Long chain', (doc) => {
    const stage = doc.stages.find((s) => s.kind === 'linear')!;
    doc.stages = Array.from({ length: 8 }, (_, k) => ({
      ...stage,
      id: `s${k}`,
      name: `Regulator rung ${k}`,
      from: k === 0 ? 'pack' : `s${k - 1}`,
      outputVolts: 8 - 0.7 * k,
      minInput: 1,
      maxInput: 60,
    }));
    doc.loads = doc.loads.map((l, k) => ({ ...l, from: k === 0 ? 's7' : `s${2 * k}` }));
  });
  await ready(page);
  expect(await overlaps(page)).toEqual([]);
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  const board = (await page.locator('.path-board').boundingBox())!;
  const last = (await page.locator('.drawing-load').last().boundingBox())!;
  expect(last.x + last.width).toBeLessThanOrEqual(board.x + board.width + 1);
  await page.getByRole('button', { name: '100 %' }).click();
});

/** What feeds the k-th of sixteen stages: four from the pack and three deep, all in a chain, all from the pack, mixed. */
const SHAPES: Record<string, (k: number) => string> = {
  'three deep': (k) => (k < 4 ? 'pack' : `s${(k - 4) % 8}`),
  'a chain': (k) => (k === 0 ? 'pack' : `s${k - 1}`),
  'side by side': () => 'pack',
  mixed: (k) => (k < 2 ? 'pack' : `s${(5 * k + 3) % k}`),
};

for (const [shape, feeds] of Object.entries(SHAPES)) {
  test(`sixteen stages with thirty-two loads, ${shape}: no word lies on another`, async ({ page }) => {
    await openCopy(page, 'Full board', (doc) => {
      const stage = doc.stages.find((s) => s.kind === 'linear')!;
      const [load] = doc.loads;
      doc.stages = Array.from({ length: 16 }, (_, k) => ({
        ...stage,
        id: `s${k}`,
        name: `Regulator board ${k}`,
        from: feeds(k),
        outputVolts: 8.6 - 0.34 * k,
        minInput: 1,
        maxInput: 60,
      }));
      doc.loads = Array.from({ length: 32 }, (_, k) => ({
        ...load!,
        id: `l${k}`,
        name: `Measuring channel ${k}`,
        from: `s${k % 16}`,
        draw: 'current' as const,
        current: 0.002 + 0.001 * (k % 5),
        range: { min: 3, max: 9 },
      }));
    });
    await ready(page);
    await expect(page.locator('.drawing-load')).toHaveCount(32);
    if (process.env.SHOT) await page.screenshot({ path: `/tmp/full-${shape}.png`, fullPage: true });
    expect(await overlaps(page)).toEqual([]);
  });
}

import { chromium } from '@playwright/test';
import { browserOptions } from '../fixtures/browser.ts';
import { loading, shelf } from './loading.ts';

/** Round trips of the worker and frame times under the needle, in the real build. Prints JSON. */
const url = process.argv[2]!;
const browser = await chromium.launch(browserOptions.launchOptions);
const loads = [await loading(browser, url), await loading(browser, url), await loading(browser, url)];
const shelves = [
  await shelf(browser, url, 200),
  await shelf(browser, url, 200),
  await shelf(browser, url, 200),
];
const firsts = [await firstTrip(), await firstTrip(), await firstTrip()];
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
// tsx wraps named functions in a helper that the page does not have.
await page.addInitScript('globalThis.__name = (f) => f');
await page.goto(url);
await page.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
await page.locator('.charts-run-plot .main-svg').first().waitFor();
await page.waitForTimeout(500);

/** [ms] from the key that takes a value to its answers painted. */
const keys: number[] = [];
await page.evaluate(`
  globalThis.keyTimes = [];
  addEventListener('keydown', (e) => { if (e.key === 'Enter') globalThis.keyAt = performance.now(); }, true);
  new MutationObserver(() => {
    if (globalThis.keyAt === undefined || document.querySelector('.answers-answers.answers-stale')) return;
    const at = globalThis.keyAt;
    globalThis.keyAt = undefined;
    requestAnimationFrame(() => setTimeout(() => globalThis.keyTimes.push(performance.now() - at)));
  }).observe(document.querySelector('[data-answer=lasts]'), { childList: true, characterData: true, subtree: true });
`);
for (let k = 0; k < 12; k++) {
  await page.getByRole('button', { name: /^Camera, power.*Edit$/ }).click();
  const input = page.getByRole('textbox', { name: /^Camera, power/ });
  await input.fill(String(2 + k / 20));
  await input.press('Enter');
  await page.locator('.answers-answers:not(.answers-stale)').waitFor();
  await page.waitForTimeout(120);
}
keys.push(...((await page.evaluate('globalThis.keyTimes')) as number[]));
const trips = await tripsOf('compute');
const itself = (await tripsOf('compute, the worker itself')).slice(2);
const checks = await tripsOf('checks');

/** [ms] each trip of a question to a worker and back. */
function tripsOf(question: string): Promise<number[]> {
  return page.evaluate(
    (name) => performance.getEntriesByName(name).map((e) => e.duration),
    `mile-thread:${question}`,
  );
}

/** [ms] the very first run of a thread that is opened as soon as the shelf has a link to it. */
async function firstTrip(): Promise<number> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const other = await context.newPage();
  await other.goto(url);
  await other.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
  await other.locator('.charts-run-plot .main-svg').first().waitFor();
  const first = (await other.evaluate(
    `performance.getEntriesByName('mile-thread:compute')[0].duration`,
  )) as number;
  await context.close();
  return first;
}

/** Frame times [ms] from here until `framesEnd`. */
const framesBegin = () =>
  page.evaluate(() => {
    const seen = window as unknown as { frames: number[]; going: boolean };
    seen.frames = [];
    seen.going = true;
    let last = performance.now();
    const tick = (now: number) => {
      seen.frames.push(now - last);
      last = now;
      if (seen.going) requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
  });
const framesEnd = () =>
  page.evaluate(() => {
    const seen = window as unknown as { frames: number[]; going: boolean };
    seen.going = false;
    return seen.frames.slice(2);
  });

const box = (await page.locator('.charts-needle-area').boundingBox())!;
await framesBegin();
await page.mouse.move(box.x + 80, box.y + 80);
await page.mouse.down();
for (let k = 0; k < 240; k++) await page.mouse.move(box.x + 80 + (k % 120) * 7, box.y + 80);
await page.mouse.up();
const frames = await framesEnd();

// Through the navigation, so that the same document stays loaded.
await page.getByRole('link', { name: 'Sizing' }).click();
await page.locator('.stage-figures').waitFor();
for (let k = 0; k < 10; k++) {
  await page.getByRole('button', { name: /^Inductor, resistance.*Edit$/ }).click();
  const input = page.getByRole('textbox', { name: /^Inductor, resistance/ });
  await input.fill(`${60 + k}m`);
  await input.press('Enter');
  await page.locator('.answers-answers:not(.answers-stale)').waitFor();
  await page.waitForTimeout(120);
}
const rail = (await page.locator('.stage-needle-row .ant-slider').boundingBox())!;
await framesBegin();
await page.mouse.move(rail.x + 6, rail.y + rail.height / 2);
await page.mouse.down();
for (let k = 0; k < 160; k++) {
  await page.mouse.move(rail.x + 6 + (k % 80) * ((rail.width - 12) / 80), rail.y + rail.height / 2);
}
await page.mouse.up();
const stageFrames = await framesEnd();
const sizes = await tripsOf('size');

/** [ms] each trip after an edit of a thread with a programme. */
async function scheduled(name: string, label: string, value: number): Promise<number[]> {
  const other = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await other.addInitScript('globalThis.__name = (f) => f');
  await other.goto(url);
  await other.getByRole('link', { name: `Open ${name}` }).click();
  await other.locator('.charts-run-plot .main-svg').first().waitFor();
  for (let k = 0; k < 10; k++) {
    await other.getByRole('button', { name: new RegExp(`^${label}.*Edit$`) }).click();
    const input = other.getByRole('textbox', { name: new RegExp(`^${label}`) });
    await input.fill(String(value * (1 + k / 100)));
    await input.press('Enter');
    await other.locator('.answers-answers:not(.answers-stale)').waitFor();
    await other.waitForTimeout(300);
  }
  const all = await other.evaluate(() =>
    performance.getEntriesByName('mile-thread:compute').map((e) => e.duration),
  );
  await other.close();
  return all.slice(2);
}
/** A log of 20,000 readings of one discharge, 5 ms of noise left to its last digit. */
function longLog(name: string, amps: number) {
  const lines = ['t (s),U (V),I (A)'];
  for (let k = 0; k < 20_000; k++) {
    const z = 1 - k / 20_000;
    const volts = 3.2 + 0.9 * z + 0.1 * Math.sin(6 * z) - amps * 0.06;
    lines.push(`${((k * 0.36) / amps).toFixed(2)},${volts.toFixed(4)},${amps}`);
  }
  return { name, mimeType: 'text/csv', buffer: Buffer.from(lines.join('\n')) };
}

/** [ms] two logs of 20,000 lines read and fitted: the first time, and again with a column said by hand. */
async function fitting(): Promise<number[]> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const other = await context.newPage();
  await other.goto(`${url}/cells`);
  await other.locator('input[type=file]').setInputFiles([longLog('a.csv', 0.4), longLog('b.csv', 2)]);
  const keep = other.getByRole('button', { name: 'Keep as a cell' });
  await keep.waitFor();
  await other.getByRole('combobox', { name: 'Chemistry of the cell' }).press('Enter');
  await other.locator('.ant-select-item-option').filter({ hasText: 'NCA' }).click();
  await other.waitForTimeout(2000);
  const times = await other.evaluate(() =>
    performance.getEntriesByName('mile-thread:readLogs').map((e) => e.duration),
  );
  await context.close();
  return times;
}

/** [ms] 2,000 draws of the microscope, twice: in new workers, and again with other figures. */
async function drawing(): Promise<number[]> {
  const other = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await other.addInitScript('globalThis.__name = (f) => f');
  await other.goto(url);
  await other.getByRole('link', { name: 'Open Tide-pool microscope' }).click();
  await other.locator('.charts-run-plot .main-svg').first().waitFor();
  await other.waitForTimeout(2000);
  await other.getByRole('link', { name: 'Run-down' }).click();
  for (const air of ['24', '23']) {
    await other.getByRole('button', { name: /^Usual air.*Edit$/ }).click();
    const input = other.getByRole('textbox', { name: /^Usual air/ });
    await input.fill(air);
    await input.press('Enter');
    await other.locator('.answers-answers:not(.answers-stale)').waitFor();
    await other.getByRole('button', { name: 'Work out the range' }).click();
    await other.getByRole('button', { name: 'Show it in the answers' }).waitFor({ timeout: 120_000 });
  }
  const all = await other.evaluate(() =>
    performance.getEntriesByName('mile-thread:all draws').map((e) => e.duration),
  );
  await other.close();
  return all;
}
/** Readings of a thread, and points of its curve. */
const READINGS = 30;
const CURVE = 5000;
/** [ms] a run-down is recorded for while frames are counted. */
const RECORDED = 8000;

/** Counts frame times into `seen` until `going` is false. */
const FRAMES = `
  globalThis.seen = [];
  globalThis.going = true;
  let last = performance.now();
  const tick = (now) => {
    globalThis.seen.push(now - last);
    last = now;
    if (globalThis.going) requestAnimationFrame(tick);
  };
  requestAnimationFrame(tick);
`;

const bench = await onTheBench();
const draws = await drawing();
const logs = await fitting();
const sampler = await scheduled('Lake water sampler', 'Depth logger, current', 0.035);
const sign = await scheduled('Ferry-stop timetable', 'Radio, power', 3.1);
await browser.close();

/**
 * The explanation of 30 readings and a curve of 5,000 points on a thread of three stages, three times; and frames while a
 * run-down is recorded from the stand-ins twenty times a second and drawn as it comes.
 */
async function onTheBench() {
  const other = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await other.addInitScript('globalThis.__name = (f) => f');
  await other.goto(url);
  await other.getByRole('button', { name: 'More for Tide-pool microscope' }).click();
  const [download] = await Promise.all([
    other.waitForEvent('download'),
    other.getByRole('menuitem', { name: 'Export' }).click(),
  ]);
  const chunks: Buffer[] = [];
  for await (const chunk of await download.createReadStream()) chunks.push(chunk as Buffer);
  const doc = JSON.parse(Buffer.concat(chunks).toString('utf8'));
  const steps = ['idle', 'draw:aim', 'draw:film', 'sag:film', 'set:camera-rail', 'set:lamp-rail'];
  const usual = [0.0041, 0.26, 0.66, 12.4, 5.02, 9.03];
  const readings = Array.from({ length: READINGS }, (_, k) => ({
    step: steps[k % steps.length],
    value: usual[k % steps.length]! * (1 + 0.001 * Math.sin(k)),
    accuracy: 0.005,
  }));
  const end = 4.2 * 3600;
  const seconds = Array.from({ length: CURVE }, (_, k) => (k / (CURVE - 1)) * end);
  const volts = seconds.map((s) => 12.4 - (1.9 * s) / end - 2.2 * Math.exp((s - end) / 600));
  const amps = volts.map((v) => 8 / v);
  const measured = { ...doc, name: 'Measured', readings, curves: [{ name: 'log', seconds, volts, amps }] };
  await other.locator('input[type=file]').setInputFiles({
    name: 'm.thread.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(measured)),
  });
  await other.getByRole('link', { name: 'Open Measured' }).click();
  await other.locator('.charts-run-plot .main-svg').first().waitFor();
  await other.keyboard.press('9');
  const timed = () =>
    other.evaluate(() => performance.getEntriesByName('mile-thread:explanation').map((e) => e.duration));
  for (let k = 0; k < 3; k++) {
    while ((await timed()).length <= k) await other.waitForTimeout(100);
    // One reading more: another question.
    const blank = other.getByRole('textbox', { name: /^Idle current/ });
    await blank.fill(`${4.1 + k / 10} mA`);
    await blank.press('Enter');
  }
  const explained = await timed();
  await other.getByRole('button', { name: 'Connect the stand-ins' }).click();
  await other.getByRole('article', { name: 'Meter' }).waitFor();
  await other.getByRole('button', { name: 'Record a run-down' }).click();
  await other.waitForTimeout(1500);
  await other.evaluate(FRAMES);
  const before = await recorded(other);
  await other.waitForTimeout(RECORDED);
  const live = (await other.evaluate('(globalThis.going = false, globalThis.seen)')) as number[];
  const count = (await recorded(other)) - before;
  await other.close();
  return { explained, frames: live.slice(2), readings: count / (RECORDED / 1000) };
}

async function recorded(other: typeof page): Promise<number> {
  const words = await other.locator('.curves-recording').first().textContent();
  return Number(/(\d+) readings/.exec(words!)![1]);
}

const at = (values: number[], share: number) =>
  [...values].sort((a, b) => a - b)[Math.floor(share * (values.length - 1))]!;
const summary = (list: number[]) => ({
  count: list.length,
  median: at(list, 0.5),
  p95: at(list, 0.95),
  worst: Math.max(...list),
});
console.log(
  JSON.stringify({
    draws,
    logs,
    sampler: summary(sampler),
    sign: summary(sign),
    trips: {
      count: trips.length,
      median: at(trips.slice(2), 0.5),
      worst: Math.max(...trips.slice(2)),
      itself: at(itself, 0.5),
    },
    firsts: { best: Math.min(...firsts), median: at(firsts, 0.5) },
    checks: { median: at(checks.slice(2), 0.5), worst: Math.max(...checks.slice(2)) },
    sizes: { count: sizes.length - 2, median: at(sizes.slice(2), 0.5), worst: Math.max(...sizes.slice(2)) },
    keys: summary(keys.slice(1)),
    loads: loads.sort((a, b) => a.picture - b.picture)[1],
    large: Object.fromEntries(
      (['cards', 'again', 'click', 'exportAll'] as const).map((what) => {
        const list = shelves.map((s) => s[what]);
        return [what, { best: Math.min(...list), median: at(list, 0.5) }];
      }),
    ),
    explained: bench.explained,
    live: { ...summary(bench.frames), readings: bench.readings },
    frames: summary(frames),
    stageFrames: summary(stageFrames),
  }),
);

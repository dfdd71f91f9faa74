import type { Browser, CDPSession, Page } from '@playwright/test';

/** Loading and a large shelf, in the real build. */

export interface Loading {
  /** bytes over the wire until the first useful picture, and until all is quiet */
  bytes: number;
  allBytes: number;
  /** [ms] from the request to that picture, and to the frame around it */
  picture: number;
  skeleton: number;
}

const PICTURE = 'the first useful picture';

/** The first useful picture of a thread with nothing in the cache: answers and ribbon. */
export async function loading(browser: Browser, url: string): Promise<Loading> {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'block',
  });
  const page = await context.newPage();
  await page.goto(url);
  await page.getByRole('link', { name: 'Open Tide-pool microscope' }).waitFor();
  const to = await page.getByRole('link', { name: 'Open Tide-pool microscope' }).getAttribute('href');
  await page.goto('about:blank');
  await page.addInitScript(`
    globalThis.__name = (f) => f;
    const seen = (globalThis.seenAt = {});
    const look = () => {
      const now = performance.now();
      if (!seen.skeleton && document.querySelector('.bar-top')) seen.skeleton = now;
      if (!seen.picture && document.querySelector('.answers-answers b') && document.querySelector('.picture-picture .picture-ribbon path')) {
        requestAnimationFrame(() => setTimeout(() => {
          seen.picture = performance.now();
          console.log('${PICTURE}');
        }));
        observer.disconnect();
      }
    };
    const observer = new MutationObserver(look);
    observer.observe(document, { childList: true, subtree: true });
  `);
  const cdp = await context.newCDPSession(page);
  const wire = await wireOf(cdp);
  await cdp.send('Network.clearBrowserCache');
  // It tells: asking again and again would take the page's time.
  const told = page.waitForEvent('console', (m) => m.text() === PICTURE);
  await page.goto(new URL(to!, url).href, { waitUntil: 'commit' });
  await told;
  // A worker's own file is fetched in a target apart.
  const worker = (await page.evaluate(`performance.getEntriesByType('resource')
    .filter((e) => e.name.includes('/worker-')).reduce((n, e) => Math.max(n, e.encodedBodySize), 0)`)) as number;
  const bytes = wire.bytes + worker;
  const seen = (await page.evaluate('globalThis.seenAt')) as { picture: number; skeleton: number };
  await page.waitForLoadState('networkidle');
  await context.close();
  return { bytes, allBytes: wire.bytes + worker, ...seen };
}

async function wireOf(cdp: CDPSession): Promise<{ bytes: number }> {
  const wire = { bytes: 0 };
  cdp.on('Network.loadingFinished', (e) => (wire.bytes += e.encodedDataLength));
  await cdp.send('Network.enable');
  return wire;
}

export interface Shelf {
  /** [ms] until every card in sight says how long it lasts; again once its answers are kept */
  cards: number;
  again: number;
  /** [ms] a click on a card's menu until it is open, and the file of all */
  click: number;
  exportAll: number;
}

export async function shelf(browser: Browser, url: string, threads: number): Promise<Shelf> {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'block',
  });
  const page = await context.newPage();
  await page.addInitScript('globalThis.__name = (f) => f');
  await page.goto(url);
  await page.locator('.shelf-card-lasts').nth(1).waitFor();
  await page.evaluate(async (count) => {
    const answered = <T>(request: IDBRequest<T>) =>
      new Promise<T>((done) => (request.onsuccess = () => done(request.result)));
    const db = await answered(indexedDB.open('mile-thread'));
    const all = db.transaction('threads', 'readwrite');
    const store = all.objectStore('threads');
    const [row] = (await answered(store.getAll())) as { doc: { pack: object } }[];
    for (let k = 0; k < count; k++) {
      const name = `Thread ${k}`;
      const goals = { hours: 2 + k / 40 };
      const doc = { ...row!.doc, name, goals };
      store.put({ id: `t${k}`, token: `t${k}`, name, doc, head: 0, createdAt: k, changedAt: 1e13 + k });
    }
    await new Promise((done) => (all.oncomplete = done));
    db.close();
  }, threads);
  await page.addInitScript(LOOK_AT_CARDS);
  const cards = await cardsIn(page);
  const again = await cardsIn(page);
  await page.evaluate(`
    addEventListener('click', () => {
      const at = performance.now();
      const open = () => {
        if (!document.querySelector('[role=menuitem]')) return requestAnimationFrame(open);
        setTimeout(() => (globalThis.clickTook = performance.now() - at));
      };
      requestAnimationFrame(open);
    }, { capture: true, once: true })`);
  await page.getByRole('button', { name: 'More for Thread 199' }).click();
  await page.getByRole('menuitem', { name: 'Export' }).waitFor();
  await page.waitForTimeout(300);
  const click = (await page.evaluate('globalThis.clickTook')) as number;
  await page.keyboard.press('Escape');
  const from = Date.now();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export all' }).click();
  await download;
  const exportAll = Date.now() - from;
  await context.close();
  return { cards, again, click, exportAll };
}

const ANSWERED = 'every card in sight is answered';

/** [ms] from a reload until every card in sight is answered, looked at once a frame. */
async function cardsIn(page: Page): Promise<number> {
  const told = page.waitForEvent('console', (m) => m.text().startsWith(ANSWERED));
  await page.reload({ waitUntil: 'commit' });
  return Number((await told).text().slice(ANSWERED.length));
}

const LOOK_AT_CARDS = `{
  const look = () => {
    const cards = [...document.querySelectorAll('.shelf-card:not(.shelf-blank)')].slice(0, 40).filter(
      (c) => c.getBoundingClientRect().top < innerHeight,
    );
    if (cards.length > 3 && cards.every((c) => c.querySelector('.shelf-card-lasts b'))) {
      return setTimeout(() => console.log('${ANSWERED} ' + performance.now()));
    }
    requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
}`;

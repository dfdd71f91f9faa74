import { chromium } from '@playwright/test';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
const what = process.argv[2] ?? 'all';
async function open(width, height) { const c = await b.newContext({ viewport: { width, height } }); const p = await c.newPage(); p.on('console', (m) => m.type() === 'error' && console.log('console', m.text())); p.on('pageerror', (e) => console.log('error', e.message)); await p.goto('http://localhost:4180/'); await p.locator('.card-lasts').nth(1).waitFor(); return p; }
const S = (p, n) => p.screenshot({ path: `/tmp/shots/${n}.png` });
let p = await open(1280, 800); await S(p, 'shelf');
await p.getByRole('link', { name: 'Open Tide-pool microscope' }).click(); await p.locator('.run-plot .main-svg').first().waitFor(); await p.waitForTimeout(400); await S(p, 'path');
await p.keyboard.press('3'); await p.locator('.map-plot .main-svg').first().waitFor(); await p.waitForTimeout(400); await S(p, 'stage');
p = await open(390, 844); await S(p, 'shelf-narrow'); await p.getByRole('link', { name: 'Open Tide-pool microscope' }).click(); await p.locator('.run-plot .main-svg').first().waitFor(); await p.waitForTimeout(400); await S(p, 'path-narrow');
await p.getByRole('link', { name: /Sizing/ }).click(); await p.locator('.map-plot .main-svg').first().waitFor(); await p.waitForTimeout(300); await S(p, 'stage-narrow');
await b.close();

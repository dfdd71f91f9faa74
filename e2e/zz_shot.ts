import { chromium } from 'playwright';
const [,, name, step, out, w='1280', h='800', ...acts] = process.argv;
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu'] });
const p = await b.newPage({ viewport: { width: +w, height: +h } });
p.on('pageerror', e => console.log('PAGEERROR', e.message)); p.on('console', m => m.type()==='error' && console.log('CONSOLE', m.text()));
await p.goto('http://localhost:4180/');
await p.getByText(name!).first().waitFor();
await p.getByRole('link', { name: new RegExp(name!) }).first().click();
await p.locator('.answers').first().waitFor();
if (step && step!=='Path') await p.getByRole('link', { name: new RegExp('^'+step) }).click();
await p.waitForTimeout(1500);
for (const a of acts) { const [k,v]=[a.slice(0,a.indexOf(':')),a.slice(a.indexOf(':')+1)]; if(k==='key') await p.keyboard.press(v); if(k==='hover') await p.locator(v).first().hover(); if(k==='click') await p.locator(v).first().click(); if (k==='scroll') await p.locator(v).first().evaluate(e=>e.scrollTop=1e5); await p.waitForTimeout(700); }
await p.screenshot({ path: out! });
await b.close();

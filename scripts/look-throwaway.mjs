import { readFileSync } from 'node:fs';
import { chromiumOptions, withServer } from './temporary.mjs';
const steps = JSON.parse(process.argv[2] ?? '[]');
const file = process.argv[3] ?? 'demo/photographs/dyers-baskets.jpg';
const script = process.argv[4];
await withServer(async url => {
  const { chromium } = await import('@playwright/test');
  const browser = await chromium.launch(chromiumOptions);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('pageerror', e => console.log('ERR', e.message));
  page.on('console', m => m.type() === 'error' && console.log('CON', m.text()));
  const post = async (m, p, b) =>
    (
      await fetch(url + p, {
        method: m,
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(b),
      })
    ).json();
  const series = await post('POST', '/api/series', { title: 'Look' });
  const form = new FormData();
  form.append('file', new Blob([readFileSync(file)]), file.split('/').pop());
  const made = await (
    await fetch(`${url}/api/series/${series.id}/photographs`, { method: 'POST', body: form })
  ).json();
  const photo = made.photographs?.[0] ?? made.photograph ?? made;
  const put = await fetch(`${url}/api/takes/${photo.currentTakeId}/treatment`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ revision: 1, treatment: { format: 'lampwash-treatment', version: 1, steps } }),
  });
  if (!put.ok) console.log(await put.text());
  await page.goto(`${url}/photographs/${photo.id}`);
  const drawn = () =>
    page.waitForFunction(
      () => {
        const { wanted, shown, fine } = document.querySelector('canvas[data-picture]')?.dataset ?? {};
        return shown && wanted === shown && fine === 'true';
      },
      null,
      { timeout: 20000 },
    );
  await drawn();
  await page.waitForTimeout(1200);
  const shot = async n => {
    await page.waitForTimeout(500);
    await page.screenshot({ path: `/tmp/shot-${n}.png` });
  };
  await new Function('page', 'shot', 'drawn', `return (async()=>{${script}})()`)(page, shot, drawn);
  await browser.close();
});

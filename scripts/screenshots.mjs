import { join } from 'node:path';
import { root } from './ensure.mjs';
import { chromiumOptions, withServer } from './temporary.mjs';

/** `npm run screenshots`: a picture of each main view, from the demo data, into docs/screenshots. */

await withServer(async url => {
  const { chromium } = await import('@playwright/test');
  const browser = await chromium.launch(chromiumOptions);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const get = async path => (await fetch(url + path)).json();
  const summary = (await get('/api/series')).find(s => s.title === 'Saltmarsh Ferry');
  const series = await get(`/api/series/${summary.id}`);
  const drawn = () =>
    page.waitForFunction(() => {
      const { wanted, shown, fine } = document.querySelector('canvas[data-picture]')?.dataset ?? {};
      return shown && wanted === shown && fine === 'true';
    });
  const shoot = async name => {
    await page.evaluate(() => document.fonts.ready);
    await page.waitForTimeout(700);
    await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) });
    console.log(name);
  };

  await page.goto(`${url}/`);
  await page.waitForLoadState('networkidle');
  await shoot('shelf');
  for (const title of ['Mud flats', 'Nets drying']) {
    const asked = {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ title }),
    };
    const { id } = await (await fetch(`${url}/api/series`, asked)).json();
    await fetch(`${url}/api/series/${id}`, { method: 'DELETE' });
  }
  await page.goto(`${url}/put-aside`);
  await page.waitForLoadState('networkidle');
  await shoot('put-aside');
  await page.goto(`${url}/series/${series.id}`);
  await page.waitForLoadState('networkidle');
  await page.getByRole('row').nth(1).click();
  await shoot('sheet');
  const bench = async title => {
    await page.goto(`${url}/photographs/${series.photographs.find(p => p.title === title).id}`);
    await drawn();
    await page.waitForTimeout(1500);
  };
  await bench('Ferry boat at slack water');
  await page.locator('[data-tray]').nth(2).click();
  await page.mouse.move(640, 380);
  await shoot('bench');
  await page.getByRole('button', { name: /^Frame/ }).click();
  await drawn();
  await shoot('bench-frame');
  await page.getByRole('button', { name: 'Done' }).click();
  await page.getByRole('button', { name: /Take C/ }).click();
  await page.locator('[data-tray]').nth(4).click();
  await drawn();
  await page.getByRole('button', { name: 'Edge', exact: true }).click();
  await page.mouse.move(520, 330);
  await drawn();
  await shoot('bench-tint');
  await bench('Dyer’s baskets');
  await page.locator('[data-tray]').first().click();
  await page.mouse.move(300, 300);
  await shoot('bench-mono');
  await page.getByRole('button', { name: 'All conversions' }).click();
  const board = page.getByRole('region', { name: 'Choose a mono' });
  await board.getByRole('button', { name: /Local contrast/ }).hover();
  await page.waitForTimeout(1500);
  await shoot('bench-conversions');
  await bench('Quinces and enamel jug');
  await page.getByRole('button', { name: 'Looks', exact: true }).click();
  await page.waitForTimeout(4000);
  const cold = page.locator('[data-card="Harbour cold"]');
  await cold.scrollIntoViewIfNeeded();
  await cold.hover();
  await page.waitForTimeout(2500);
  await shoot('bench-looks');
  await page.goto(`${url}/series/${series.id}/send-out`);
  await page.getByRole('button', { name: /^Send out \w+/ }).click();
  await page.getByText(/^(\d+) of \1 done/).waitFor({ timeout: 240_000 });
  await shoot('send-out');
  await browser.close();
});

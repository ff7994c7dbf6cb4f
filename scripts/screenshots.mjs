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
  await bench('Bow and warp');
  await page.getByRole('button', { name: /^Black and white/ }).waitFor();
  await page.waitForTimeout(800);
  await shoot('bench-begin');
  await page.keyboard.press('p');
  await page.getByRole('button', { name: 'Darkroom sepia' }).click();
  for (const next of ['conversion', 'the black', 'sepia']) {
    await page.getByRole('button', { name: `Next: ${next}` }).click();
    await page.getByRole('button', { name: `Next: ${next}` }).waitFor({ state: 'detached' });
  }
  await page.getByText(/^Lights and middle tones warmer|^Lights, middle/).waitFor();
  await page.mouse.move(640, 380);
  await drawn();
  await shoot('bench-method');
  await page.locator('aside [data-tells="Bath 1 time"]').hover();
  await page.waitForFunction(() =>
    [...document.querySelectorAll('[data-told] canvas')].every(c => 'drawn' in c.dataset),
  );
  await shoot('bench-told');
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
  await page.locator('[data-saving=saved]').waitFor();
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
  // The grey scan, recoloured by strokes that spread.
  await bench('The keeper’s chair');
  await page.getByRole('button', { name: /Take B/ }).click();
  await drawn();
  await page.locator('[data-tray]', { hasText: 'Shawl' }).first().click();
  await page.keyboard.press('w');
  await page.getByText('Spreads', { exact: true }).click();
  await page.getByRole('group', { name: /^Suits/ }).waitFor();
  await page.mouse.move(200, 300);
  await drawn();
  await shoot('bench-strokes');
  await page.keyboard.press('w');
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
  await page.keyboard.press('Escape');
  await bench('Quinces and enamel jug');
  await page.locator('[data-tray]').nth(2).click();
  await page.keyboard.press('h');
  await page.waitForSelector('canvas[data-beside][data-fine=true]');
  await page.mouse.move(700, 288);
  await shoot('bench-compare');
  await page.keyboard.press('h');
  await page.getByRole('slider', { name: 'Highlights saturation' }).focus();
  await page.keyboard.press('t');
  await page.waitForSelector('[data-test-strip=done]');
  await page.mouse.move(400, 300);
  await shoot('bench-teststrip');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Add a step to Tone' }).click();
  await page.waitForFunction(() =>
    [...document.querySelectorAll('aside [data-card] canvas')].every(c => 'drawn' in c.dataset),
  );
  await page.locator('[data-card="Sepia, then selenium"]').hover();
  await page.waitForTimeout(800);
  await drawn();
  await shoot('bench-board');
  await page.keyboard.press('Escape');
  await page.locator('[data-tray]').nth(2).click();
  for (const [name, value] of [
    ['Shadows hue', 222],
    ['Highlights saturation', 36],
    ['Crossover', 52],
  ]) {
    const box = page.getByRole('textbox', { name: `${name}, number` });
    await box.fill(String(value));
    await box.press('Enter');
    await page.waitForTimeout(900);
  }
  await page.keyboard.press('y');
  await page.waitForTimeout(400);
  await page.locator('[data-state="-2"]').hover();
  await page.waitForTimeout(800);
  await drawn();
  await shoot('bench-history');
  await page.keyboard.press('Escape');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await page.locator('[data-saving=saved]').waitFor();
  await page.goto(`${url}/series/${series.id}/send-out`);
  await page.getByRole('button', { name: /^Send out \w+/ }).click();
  await page.getByText(/^(\d+) of \1 done/).waitFor({ timeout: 240_000 });
  await shoot('send-out');
  await fetch(`${url}/api/demo`, { method: 'DELETE' });
  await page.goto(`${url}/`);
  await page.getByRole('button', { name: 'Take the tour' }).click();
  await page.mouse.move(640, 500);
  await shoot('tour');
  await browser.close();
});

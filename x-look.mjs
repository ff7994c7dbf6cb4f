import { chromiumOptions, withServer } from './scripts/temporary.mjs';
await withServer(async url => {
  const { chromium } = await import('@playwright/test');
  const list = await (await fetch(url+'/api/series')).json();
  const s = await (await fetch(url+'/api/series/'+list.find(s=>s.title==='Saltmarsh Ferry').id)).json();
  const browser = await chromium.launch(chromiumOptions);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('console', m => { if (m.type()==='error') console.log('C', m.text().slice(0,300)); }); page.on('pageerror', e => console.log('E', e.message));
  await page.goto(`${url}/photographs/${s.photographs[6].id}`); await page.waitForTimeout(4000);
  await page.keyboard.press('l'); await page.waitForTimeout(3500);
  await page.screenshot({ path: '/tmp/l-1.png' });
  const wait = [];
  for (const n of ['Harbour cold','Iron blue','Sepia, full','Gritty','Lamp light','Plum and straw']) {
    const card = page.locator(`[data-look="${n}"]`); await card.scrollIntoViewIfNeeded();
    await page.evaluate(() => { performance.clearMarks('picture shown'); addEventListener('pointerover', e => { if (e.target.closest('[data-look]')) window.at ??= e.timeStamp; }, true); window.at = null; });
    await card.hover(); await page.waitForTimeout(900);
    wait.push(n+' '+await page.evaluate(() => (performance.getEntriesByName('picture shown')[0]?.startTime - window.at).toFixed(0)));
  }
  console.log(wait.join(', '));
  await page.locator('[data-look="Harbour cold"]').hover(); await page.waitForTimeout(900);
  await page.screenshot({ path: '/tmp/l-2.png' });
  await page.locator('[data-look="Harbour cold"]').click(); await page.waitForTimeout(1500);
  await page.screenshot({ path: '/tmp/l-3.png' });
  await page.locator('[data-tray]').nth(0).click(); await page.locator('[data-tray]').nth(1).click({ modifiers: ['Shift'] });
  await page.waitForTimeout(300);
  await page.keyboard.press('Control+c'); await page.waitForTimeout(400);
  await page.screenshot({ path: '/tmp/l-4.png' });
  await page.locator('nav[aria-label="Neighbouring photographs"] a').nth(2).click(); await page.waitForTimeout(3000);
  await page.keyboard.press('Control+v'); await page.waitForTimeout(700);
  await page.screenshot({ path: '/tmp/l-5.png' });
  await page.keyboard.press('Enter'); await page.waitForTimeout(1500);
  await page.screenshot({ path: '/tmp/l-6.png' });
  await browser.close();
});

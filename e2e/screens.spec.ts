import { AxeBuilder } from '@axe-core/playwright';
import { expect, test, type App } from './app';
import { settled } from './picture';

interface DemoSeries {
  id: string;
  title: string;
  photographs: { id: string }[];
}

async function demo(app: App): Promise<DemoSeries> {
  const shelf = await app.api<{ id: string; title: string }[]>('GET', '/api/series');
  const { id } = shelf.find(s => s.title === 'Saltmarsh Ferry')!;
  return app.api<DemoSeries>('GET', `/api/series/${id}`);
}

for (const wall of ['dark', 'mid', 'light'] as const) {
  test(`axe finds nothing on any screen, ${wall} wall`, async ({ page, app }) => {
    const series = await demo(app);
    const paths = {
      shelf: '/',
      sheet: `/series/${series.id}`,
      bench: `/photographs/${series.photographs[0].id}`,
      'send out': `/series/${series.id}/send-out`,
      nowhere: '/nowhere',
    };
    await page.addInitScript(tone => localStorage.setItem('lampwash.wall', tone), wall);
    for (const [name, path] of Object.entries(paths)) {
      await page.goto(app.url + path);
      if (name === 'bench') await settled(page);
      else await page.waitForLoadState('networkidle');
      const { violations } = await new AxeBuilder({ page }).analyze();
      const found = violations.map(v => `${v.id}: ${v.nodes.map(n => n.target.join(' ')).join(', ')}`);
      expect(found, name).toEqual([]);
    }
  });
}

test('nothing is cut off or overlaps at small and large windows', async ({ page, app }) => {
  const series = await demo(app);
  for (const [width, height] of [
    [1024, 700],
    [1280, 800],
    [2560, 1440],
  ]) {
    await page.setViewportSize({ width, height });
    for (const path of ['/', `/series/${series.id}`, `/photographs/${series.photographs[0].id}`]) {
      await page.goto(app.url + path);
      await page.waitForLoadState('networkidle');
      const wide = await page.evaluate(() => document.documentElement.scrollWidth);
      expect(wide, `${path} at ${width}`).toBeLessThanOrEqual(width);
      const bar = (await page.locator('header').first().boundingBox())!;
      expect(bar.width).toBe(width);
      const out = await page
        .locator('header button, header a')
        .evaluateAll(
          (all, limit) => all.map(e => e.getBoundingClientRect()).filter(b => b.right > limit + 0.5).length,
          width,
        );
      expect(out, `controls beyond the bar at ${width}`).toBe(0);
    }
  }
});

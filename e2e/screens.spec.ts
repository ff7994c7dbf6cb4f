import { AxeBuilder } from '@axe-core/playwright';
import { expect, test } from './app';
import type { App } from '../server/testing/running';
import { settled } from './picture';
import { arrived, openBench } from './work';

interface DemoSeries {
  id: string;
  title: string;
  photographs: { id: string }[];
}

async function demo(app: App): Promise<DemoSeries> {
  // Another test may have taken it off.
  await app.api('POST', '/api/demo');
  const shelf = await app.api<{ id: string; title: string }[]>('GET', '/api/series');
  const { id } = shelf.find(s => s.title === 'Saltmarsh Ferry')!;
  return app.api<DemoSeries>('GET', `/api/series/${id}`);
}

/** What axe finds, by element. */
async function foundBy(axe: AxeBuilder): Promise<string[]> {
  const { violations } = await axe.analyze();
  return violations.map(v => `${v.id}: ${v.nodes.map(n => n.target.join(' ')).join(', ')}`);
}

const screens: Record<string, (series: DemoSeries) => string> = {
  shelf: () => '/',
  sheet: series => `/series/${series.id}`,
  bench: series => `/photographs/${series.photographs[0].id}`,
  'send out': series => `/series/${series.id}/send-out`,
  'put aside': () => '/put-aside',
  'without its screens': () => '/without-screens',
  nowhere: () => '/nowhere',
};

for (const [name, pathOf] of Object.entries(screens)) {
  test(`axe finds nothing on the screen: ${name}`, async ({ page, app }) => {
    const series = await demo(app);
    if (name === 'put aside') {
      const aside = await app.api<{ id: string }>('POST', '/api/series', { title: 'Aside for axe' });
      await app.api('DELETE', `/api/series/${aside.id}`);
    }
    await page.goto(app.url + pathOf(series));
    if (name === 'bench') await settled(page);
    else await arrived(page);
    expect(await foundBy(new AxeBuilder({ page })), name).toEqual([]);
    // The tone of the wall changes colours alone.
    for (const wall of ['dark', 'light']) {
      await page.evaluate(tone => (document.documentElement.dataset.wall = tone), wall);
      expect(await foundBy(new AxeBuilder({ page }).withRules('color-contrast')), `${name}, ${wall}`).toEqual(
        [],
      );
    }
  });
}

test('nothing is cut off or overlaps at small and large windows', async ({ page, app }) => {
  const series = await demo(app);
  for (const path of [
    '/',
    '/put-aside',
    `/series/${series.id}`,
    `/photographs/${series.photographs[0].id}`,
  ]) {
    await page.goto(app.url + path);
    await arrived(page);
    for (const [width, height] of [
      [1024, 700],
      [1280, 800],
      [2560, 1440],
    ]) {
      await page.setViewportSize({ width, height });
      await expect
        .poll(async () => (await page.locator('header').first().boundingBox())?.width, `bar at ${width}`)
        .toBe(width);
      const reaches = () => page.evaluate(() => document.documentElement.scrollWidth);
      await expect.poll(reaches, `${path} at ${width}`).toBeLessThanOrEqual(width);
      const beyond = () =>
        page
          .locator('header button, header a')
          .evaluateAll(
            (all, limit) => all.filter(e => e.getBoundingClientRect().right > limit + 0.5).length,
            width,
          );
      await expect.poll(beyond, `controls beyond the bar at ${width}`).toBe(0);
    }
  }
});

test('axe finds nothing in the frame, in the looks, with the tools of an area, in the pigment box and the table list', async ({
  page,
  app,
}) => {
  await openBench(page, app, [
    { kind: 'mono', settings: { method: 'response' } },
    { kind: 'colour-table' },
    { kind: 'wash' },
    { kind: 'vignette', settings: { amount: -0.4 } },
    { kind: 'grain', settings: { amount: 0.3 } },
  ]);
  /** What is beside the picture alone, where nothing else has changed. */
  const check = async (what: string, where?: string) => {
    await settled(page);
    const axe = new AxeBuilder({ page });
    expect(await foundBy(where ? axe.include(where) : axe), what).toEqual([]);
  };
  const trays = page.locator('[data-tray]');
  // With what the server has: pigments and tables. The panels of all kinds are looked at as components.
  for (const [index, what] of [
    [1, 'table list'],
    [2, 'pigment box'],
  ] as const) {
    await trays.nth(index).click();
    await check(what, 'aside');
  }
  await page.getByRole('button', { name: /^Frame/ }).click();
  await check('frame');
  await page.getByRole('button', { name: 'Looks', exact: true }).click();
  await page.locator('[data-card="Harbour cold"]').hover();
  await check('looks', 'aside');
  await page.getByRole('button', { name: 'Add a step to Tone' }).click();
  await page.locator('[data-card="Copper"]').hover();
  await check('board of steps', 'aside');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'History', exact: true }).click();
  await check('history', 'aside');
  await trays.nth(3).click();
  await page.getByRole('button', { name: 'Tones and hues' }).click();
  await page.waitForSelector('[data-drift], svg[aria-label="No tone has colour"]');
  await check('charts', 'aside');
  await page.keyboard.press('t');
  await page.waitForSelector('[data-test-strip=done]');
  await check('test strip');
  await page.keyboard.press('Escape');
  for (const [key, what] of [
    ['h', 'half and half'],
    ['s', 'side by side'],
  ]) {
    await page.keyboard.press(key);
    await page.waitForSelector('canvas[data-beside][data-fine=true]');
    await check(what);
  }
  await page.emulateMedia({ forcedColors: 'active' });
  await check('forced colours');
  await page.emulateMedia({ forcedColors: 'none' });
  await page.keyboard.press('s');
  await trays.nth(3).click({ button: 'right' });
  await expect(page.getByRole('menuitem', { name: 'Double it' })).toBeVisible();
  await check('menu by a right click');
  await page.keyboard.press('Escape');
  await trays.nth(2).click();
  await page.getByRole('button', { name: 'New area', exact: true }).click();
  for (const tool of ['Hues', 'Tones', 'Oval', 'Brush']) {
    await page.getByRole('button', { name: tool, exact: true }).click();
    await check(tool, 'main');
  }
  await trays.nth(1).click();
  await page.getByRole('complementary').getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Move right' }).click();
  await check('moved', 'section[aria-label^="Treatment"]');
});

import type { Page } from '@playwright/test';
import { expect, test } from './app';
import { colourAt, differs, pictureOn } from './picture';
import { openBench, type } from './work';

const light = { kind: 'light', id: 'l', stage: 'ground', settings: { exposure: 0.5 } };
const takes = (page: Page) => page.getByRole('group', { name: 'Takes of this photograph' });
const letters = async (page: Page) =>
  (
    await takes(page)
      .getByRole('button', { name: /^Take / })
      .allTextContents()
  ).join('');

test('nine takes never run under other buttons, at any width, and each is reached', async ({ page, app }) => {
  await openBench(page, app, [light]);
  for (let i = 0; i < 8; i++) {
    await page.getByRole('button', { name: /^New take from/ }).click();
    await expect(takes(page).getByRole('button', { name: /^Take / })).toHaveCount(i + 2);
    // It is opened, and the keys go on among the takes.
    const opened = takes(page).getByRole('button', { name: `Take ${'BCDEFGHI'[i]}`, exact: true });
    await expect(opened).toHaveAttribute('aria-current', 'true');
    await expect(opened).toBeFocused();
  }
  for (const width of [1920, 1280, 1024]) {
    await page.setViewportSize({ width, height: 800 });
    // What stands in the bar lies side by side, and none beneath another.
    const overlaps = await page.locator('header').evaluate(bar => {
      const all = [...bar.children].filter(
        e =>
          getComputedStyle(e).display !== 'none' &&
          getComputedStyle(e).position !== 'absolute' &&
          e.getBoundingClientRect().width > 0,
      );
      const boxes = all.map(e => e.getBoundingClientRect()).sort((a, b) => a.left - b.left);
      const found = boxes
        .slice(1)
        .flatMap((b, i) => (b.left < boxes[i].right - 0.5 ? [`${boxes[i].right} ${b.left}`] : []));
      return [...found, ...(boxes.at(-1)!.right > innerWidth ? ['beyond the screen'] : [])];
    });
    expect([width, overlaps]).toEqual([width, []]);
    for (const letter of ['A', 'I']) {
      await takes(page)
        .getByRole('button', { name: `Take ${letter}` })
        .click();
      const chosen = takes(page).locator('[aria-current]');
      await expect(chosen).toHaveText(letter);
      await expect(chosen).toBeFocused();
      await expect(chosen).toBeInViewport();
    }
  }
});

test('a take shows in the print while it is pointed at, with its name; takes are ordered, and compared', async ({
  page,
  app,
}) => {
  await openBench(page, app, [light]);
  await page.getByRole('button', { name: /^New take from/ }).click();
  await expect(takes(page).getByRole('button', { name: 'Take B' })).toHaveAttribute('aria-current', 'true');
  await page.locator('[data-tray]').first().click();
  await type(page, 'Exposure', '-1');
  const dark = await pictureOn(page);
  await page.locator('[data-stage-of-picture]').hover();
  await takes(page).getByRole('button', { name: 'Take A' }).hover();
  await expect
    .poll(async () => colourAt(await pictureOn(page), 0.4, 0.25)[0])
    .toBeGreaterThan(colourAt(dark, 0.4, 0.25)[0] + 40);
  await expect(page.getByRole('tooltip')).toHaveText('Take A');
  await page.locator('[data-stage-of-picture]').hover();
  await expect.poll(async () => differs(await pictureOn(page), dark)).toBeLessThan(1);

  const more = async (item: string) => {
    await page.getByRole('button', { name: 'More for this take' }).click();
    await page.getByRole('menuitem', { name: item, exact: true }).click();
  };
  await more('Move it left');
  await expect.poll(() => letters(page)).toBe('BA');
  await page.reload();
  await expect.poll(() => letters(page)).toBe('BA');
  await more('A');
  await expect(page.getByRole('button', { name: 'First picture: Take A' })).toBeVisible();
});

test('a mix and a toner show in the print while they are pointed at or gone to, and go again', async ({
  page,
  app,
}) => {
  const sepia = {
    kind: 'baths',
    id: 'b',
    stage: 'tone',
    settings: { baths: [{ toner: 'sepia', time: 0.6 }] },
  };
  const before = await openBench(page, app, [sepia]);
  await page.locator('[data-tray]').first().click();
  const panel = page.getByRole('complementary', { name: 'Baths' });
  await panel.getByRole('button', { name: /Bath 1 toner$/ }).click();
  await page.getByRole('option', { name: 'Iron blue' }).hover();
  const blue = async () => {
    const [r, , b] = colourAt(await pictureOn(page), 0.5, 0.25);
    return b - r;
  };
  await expect.poll(blue).toBeGreaterThan(10);
  await page.keyboard.press('Escape');
  await expect.poll(async () => differs(await pictureOn(page), before)).toBeLessThan(1);
  await panel.getByRole('button', { name: /Mix$/ }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowDown');
  await expect.poll(async () => differs(await pictureOn(page), before)).toBeGreaterThan(10);
  await page.keyboard.press('Escape');
  await expect.poll(async () => differs(await pictureOn(page), before)).toBeLessThan(1);
});

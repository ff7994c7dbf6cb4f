import type { Page } from '@playwright/test';
import { png8 } from '../server/testing/pictures';
import { expect, test } from './app';
import { settled } from './picture';
import { add, openBench, saved } from './work';

const print = async (page: Page) => (await page.locator('[data-print]').boundingBox())!;

test('twice natural, the loupe while its key is held, the picture alone, and back', async ({ page, app }) => {
  await openBench(page, app);
  const fitted = await print(page);
  await page.mouse.move(fitted.x + fitted.width * 0.25, fitted.y + fitted.height * 0.25);
  await page.keyboard.down('z');
  await expect.poll(async () => (await print(page)).width).toBe(914);
  await page.keyboard.up('z');
  await expect.poll(() => print(page)).toEqual(fitted);
  await page.getByRole('button', { name: '2:1' }).click();
  await expect.poll(async () => (await print(page)).width).toBe(1814);
  await page.keyboard.press('f');

  await page.keyboard.press('a');
  await expect(page.getByRole('button', { name: 'Send out' })).toBeHidden();
  await expect.poll(async () => (await print(page)).width).toBeGreaterThan(fitted.width);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Send out' })).toBeVisible();
  await expect.poll(() => print(page)).toEqual(fitted);
});

test('the neighbours are one key away, and one stop of the Tab key; the tab says what is shown', async ({
  page,
  app,
}) => {
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'Three' });
  const names = ['One', 'Two', 'Three'];
  const made = [];
  for (const [i, name] of names.entries()) {
    made.push(await app.bringIn(series.id, await png8(300, 200, () => [60 * i, 90, 40]), `${name}.png`));
  }
  await page.goto(`${app.url}/photographs/${made[1].id}`);
  await settled(page);
  await expect(page).toHaveTitle('Two · Bench · Lamp Wash');
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toBeFocused();
  await page.keyboard.press('.');
  await expect(heading).toHaveText('Three');
  await page.keyboard.press('.');
  await page.keyboard.press(',');
  await expect(heading).toHaveText('Two');
  await page.keyboard.press(',');
  await expect(heading).toHaveText('One');
  await expect(page).toHaveTitle('One · Bench · Lamp Wash');
  const strip = page.getByRole('navigation', { name: 'Neighbouring photographs' });
  await expect(strip.locator('a[tabindex="0"]')).toHaveCount(1);
  await strip.locator('a[tabindex="0"]').focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(heading).toHaveText('Two');
  await settled(page);
  // From the head of the page straight to the picture.
  await expect(heading).toBeFocused();
  await page.keyboard.press('Tab');
  const skip = page.getByRole('button', { name: 'To the picture' });
  await expect(skip).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-stage-of-picture]')).toBeFocused();
});

test('the wheel with Shift changes the brush, a wheel over a slider that is not in hand scrolls the panel', async ({
  page,
  app,
}) => {
  await openBench(page, app);
  await add(page, 'Colour', 'Wash');
  await saved(page);
  const at = await print(page);
  await page.mouse.move(at.x + 200, at.y + 200);
  const ring = page.locator('[data-brush-cursor]');
  const before = (await ring.boundingBox())!.width;
  await page.keyboard.down('Shift');
  await page.mouse.wheel(0, -100);
  await page.keyboard.up('Shift');
  await expect.poll(async () => (await ring.boundingBox())!.width).toBeGreaterThan(before);
  expect(await print(page)).toEqual(at);

  const bleed = page.getByRole('textbox', { name: 'Bleed, number' });
  const value = await bleed.inputValue();
  const slider = (await page.locator('[data-control="Bleed"] [data-kind]').boundingBox())!;
  await page.mouse.move(slider.x + 20, slider.y + 8);
  await page.mouse.wheel(0, 120);
  await expect
    .poll(async () => (await page.locator('[data-control="Bleed"]').boundingBox())!.y)
    .toBeLessThan(slider.y - 20);
  await expect(bleed).toHaveValue(value);
});

test('two fingers make the picture larger and move it, and a stroke that one of them began is none', async ({
  page,
  app,
}) => {
  await openBench(page, app);
  await add(page, 'Colour', 'Wash');
  const undo = await page.getByRole('button', { name: /^Undo/ }).getAttribute('aria-label');
  const before = await print(page);
  const [x, y] = [before.x + before.width / 2, before.y + before.height / 2];
  const fingers = await page.context().newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', apart: number, one = false) =>
    fingers.send('Input.dispatchTouchEvent', {
      type,
      touchPoints:
        type === 'touchEnd'
          ? []
          : one
            ? [{ x: x - apart, y, id: 0 }]
            : [
                { x: x - apart, y, id: 0 },
                { x: x + apart, y, id: 1 },
              ],
    });
  await touch('touchStart', 40, true);
  await touch('touchStart', 40);
  for (const apart of [60, 80, 100, 120]) await touch('touchMove', apart);
  await touch('touchEnd', 0);
  await expect.poll(async () => (await print(page)).width).toBeGreaterThan(before.width * 1.8);
  expect(await page.getByRole('button', { name: /^Undo/ }).getAttribute('aria-label')).toBe(undo);
});

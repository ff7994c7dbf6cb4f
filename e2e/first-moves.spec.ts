import { expect } from '@playwright/test';
import sharp from 'sharp';
import { tiff16 } from '../server/testing/pictures';
import { test } from './app';
import { colourAt, differs, pictureOn } from './picture';
import { chroma, openBench, saved } from './work';

/** A bare photograph offers ways to begin, each one press and one undo. */

/** A blue thing at the left of a grey ramp. */
const withBlue = () =>
  tiff16(600, 400, (x, y) => {
    const isThing = Math.hypot(x - 150, y - 200) < 90;
    const grey = 0.15 + (0.7 * x) / 600;
    return (isThing ? [0.2, 0.3, 0.75] : [grey, grey, grey]).map(v => Math.round(v * 65535)) as [
      number,
      number,
      number,
    ];
  });

test('four ways to begin, tried by pointing, taken by a press, undone by one', async ({ page, app }) => {
  const bare = await openBench(page, app, [], await withBlue());
  const ways = page.getByRole('region', { name: 'Ways to begin' });
  await expect(ways.locator('[data-card]')).toHaveCount(4);
  const one = ways.getByRole('button', { name: /^One thing tinted, the blue/ });
  await one.hover();
  await expect(page.getByText(/One thing tinted/).first()).toBeVisible();

  await one.click();
  await saved(page);
  const tinted = await pictureOn(page);
  expect(chroma(colourAt(tinted, 0.25, 0.5))).toBeGreaterThan(0.06);
  expect(chroma(colourAt(tinted, 0.8, 0.5))).toBeLessThan(0.01);
  await page.keyboard.press('Control+z');
  await expect(ways).toBeVisible();
  expect(differs(await pictureOn(page), bare)).toBeLessThan(0.5);

  // By keys alone.
  await ways.getByRole('button', { name: /^Black and white/ }).focus();
  await page.keyboard.press('Enter');
  await saved(page);
  expect(chroma(colourAt(await pictureOn(page), 0.25, 0.5))).toBeLessThan(0.005);
  await page.keyboard.press('Control+z');

  await ways.getByRole('button', { name: /^Darkroom toned/ }).click();
  await saved(page);
  expect(chroma(colourAt(await pictureOn(page), 0.9, 0.5))).toBeGreaterThan(0.01);
  await page.keyboard.press('Control+z');

  await ways.getByRole('button', { name: /^Start plain/ }).click();
  await expect(page.getByRole('complementary', { name: 'Add a step' })).toBeVisible();
});

test('a grey photograph is not converted: its light is put right first', async ({ page, app }) => {
  const file = await sharp({ create: { width: 600, height: 400, channels: 3, background: '#3a3a3a' } })
    .composite([
      {
        input: { create: { width: 200, height: 200, channels: 3, background: '#6a6a6a' } },
        left: 50,
        top: 60,
      },
    ])
    .toColourspace('b-w')
    .png()
    .toBuffer();
  await openBench(page, app, [], file);
  const ways = page.getByRole('region', { name: 'Ways to begin' });
  await expect(ways.locator('[data-card]')).toHaveCount(4);
  await expect(ways.getByRole('button', { name: /^Black and white/ })).toHaveCount(0);
  const before = await pictureOn(page);
  await ways.getByRole('button', { name: /^Light put right/ }).click();
  await saved(page);
  expect(differs(await pictureOn(page), before)).toBeGreaterThan(5);
});

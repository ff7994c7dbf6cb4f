import { expect, type Page } from '@playwright/test';
import { rgbToOklab } from '../core/colour/oklab';
import { tiff16 } from '../server/testing/pictures';
import type { App } from '../server/testing/running';
import { pictureOn, type Shot } from './picture';

/** Working on the Bench as a person does: steps added, numbers typed, choices made. */

/** OKLab chroma of codes 0..255. */
export const chroma = (rgb: readonly number[]): number => {
  const c = Float64Array.from(rgb, v => v / 255);
  rgbToOklab(c);
  return Math.hypot(c[1], c[2]);
};

/** A tone scale above, two colours of equal luminance below. */
export const chart = () =>
  tiff16(900, 600, (x, y) => {
    if (y < 300) return Array(3).fill(Math.round((x / 899) * 65535)) as [number, number, number];
    const rgb = x < 450 ? [0.75, 0.36, 0.36] : [0.2, 0.535, 0.3];
    return rgb.map(v => Math.round(v * 65535)) as [number, number, number];
  });

/** Opens a photograph of its own on the Bench, with steps laid before. */
export async function openBench(
  page: Page,
  app: App,
  steps: object[] = [],
  file?: Buffer,
  masks: object[] = [],
): Promise<Shot> {
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'Bench' });
  const photograph = await app.bringIn(series.id, file ?? (await chart()), 'chart.tif');
  const treatment = { format: 'lampwash-treatment', version: 1, masks, steps };
  await app.api('PUT', `/api/takes/${photograph.currentTakeId}/treatment`, { revision: 1, treatment });
  await page.goto(`${app.url}/photographs/${photograph.id}`);
  return pictureOn(page);
}

/** The screen itself is there, with its heading, and has asked for what it shows: a quiet network alone is that of its scripts too. */
export async function arrived(page: Page): Promise<void> {
  await expect(page.locator('h1')).toBeVisible();
  await page.waitForLoadState('networkidle');
}

export const saved = (page: Page) => expect(page.locator('[data-saving=saved]')).toBeVisible();

/** The settings of the chosen step. */
export const panelOf = (page: Page, name: string | RegExp) => page.getByRole('complementary', { name });

export async function add(page: Page, stage: string, kind: string): Promise<void> {
  const line = page.getByRole('region', { name: 'Treatment, in working order' });
  await line.getByRole('button', { name: `Add a step to ${stage}` }).click();
  await panelOf(page, 'Add a step').getByRole('button', { name: kind, exact: true }).click();
  await expect(panelOf(page, kind)).toBeVisible();
}

/** Types a number into the box beside a slider of the chosen step. */
export async function type(page: Page, name: string, value: string): Promise<void> {
  await page.getByRole('textbox', { name: `${name}, number`, exact: true }).fill(value);
  await page.keyboard.press('Enter');
}

export async function choose(page: Page, label: RegExp, option: string): Promise<void> {
  await page.getByRole('complementary').getByRole('button', { name: label }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
}

/** Presses a key many times. */
export async function press(page: Page, key: string, times: number): Promise<void> {
  for (let i = 0; i < times; i++) await page.keyboard.press(key);
}

/** A point of the picture on the screen, from fractions of it. */
export async function pointAt(page: Page, u: number, v: number): Promise<{ x: number; y: number }> {
  const at = await page.locator('[data-print]').boundingBox();
  const border = 7;
  return {
    x: at!.x + border + u * (at!.width - 2 * border),
    y: at!.y + border + v * (at!.height - 2 * border),
  };
}

/** Drags on the screen from one point of the picture to another. */
export async function drag(
  page: Page,
  from: readonly [number, number],
  to: readonly [number, number],
): Promise<void> {
  const [a, b] = [await pointAt(page, ...from), await pointAt(page, ...to)];
  await page.mouse.move(a.x, a.y);
  await page.mouse.down();
  await page.mouse.move(b.x, b.y, { steps: 8 });
  await page.mouse.up();
}

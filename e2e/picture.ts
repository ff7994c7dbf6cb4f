import { expect, type Page } from '@playwright/test';

/** Reading the picture on the Bench, and waiting for it. */

export interface Shot {
  width: number;
  height: number;
  /** RGBA, row by row, of the picture alone. */
  data: number[];
}

const canvas = (page: Page) => page.locator('canvas[data-picture]');

/** How often the picture has been drawn. */
export const shownCount = async (page: Page) => Number((await canvas(page).getAttribute('data-shown')) ?? 0);

/** Waits until the picture has been drawn and stays as it is. */
export async function settled(page: Page): Promise<void> {
  await expect(canvas(page)).toHaveAttribute('data-shown', /\d+/);
  await expect
    .poll(async () => {
      const before = await shownCount(page);
      await page.waitForTimeout(150);
      return (await shownCount(page)) === before;
    })
    .toBe(true);
}

/** The pixels of the picture on the screen, cut free of the wall (device pixel ratio 1). */
export async function pictureOn(page: Page): Promise<Shot> {
  await settled(page);
  return canvas(page).evaluate((element: HTMLCanvasElement) => {
    const copy = document.createElement('canvas');
    copy.width = element.width;
    copy.height = element.height;
    const context = copy.getContext('2d')!;
    context.drawImage(element, 0, 0);
    const { data, width, height } = context.getImageData(0, 0, copy.width, copy.height);
    let [left, top, right, bottom] = [width, height, -1, -1];
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        if (!data[(y * width + x) * 4 + 3]) continue;
        left = Math.min(left, x);
        right = Math.max(right, x);
        top = Math.min(top, y);
        bottom = Math.max(bottom, y);
      }
    }
    const cut = context.getImageData(left, top, right - left + 1, bottom - top + 1);
    return { width: cut.width, height: cut.height, data: Array.from(cut.data) };
  });
}

/** The mean colour of a small square around a point of the picture (fractions), in codes 0..255. */
export function colourAt(shot: Shot, u: number, v: number, reach = 3): [number, number, number] {
  const x = Math.round(u * (shot.width - 1));
  const y = Math.round(v * (shot.height - 1));
  const sum = [0, 0, 0];
  let count = 0;
  for (let j = Math.max(0, y - reach); j <= Math.min(shot.height - 1, y + reach); j++) {
    for (let i = Math.max(0, x - reach); i <= Math.min(shot.width - 1, x + reach); i++) {
      for (let k = 0; k < 3; k++) sum[k] += shot.data[(j * shot.width + i) * 4 + k];
      count++;
    }
  }
  return sum.map(s => s / count) as [number, number, number];
}

import type { Page } from '@playwright/test';

/** Reading the picture on the Bench, and waiting for it. */

export interface Shot {
  width: number;
  height: number;
  /** RGBA, row by row, of the picture alone. */
  data: Buffer;
}

const canvas = (page: Page) => page.locator('canvas[data-picture]');

/** Waits until the picture that was asked for last is the one that is drawn. */
export async function settled(page: Page): Promise<void> {
  // What was just changed is asked for after the next frame, and is not to be missed.
  await page.evaluate(
    () =>
      new Promise<void>(done => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done)))),
  );
  // Looked at often: what is waited for most of all is not to be slept past.
  await page.waitForFunction(
    () => {
      const { wanted, shown, fine } =
        document.querySelector<HTMLElement>('canvas[data-picture]')?.dataset ?? {};
      return wanted !== undefined && wanted === shown && fine === 'true';
    },
    undefined,
    { polling: 40, timeout: 60_000 },
  );
}

/** The pixels of the picture on the screen, cut free of the wall (device pixel ratio 1). */
export async function pictureOn(page: Page): Promise<Shot> {
  await settled(page);
  const { base64, ...size } = await canvas(page).evaluate(async (element: HTMLCanvasElement) => {
    const copy = document.createElement('canvas');
    copy.width = element.width;
    copy.height = element.height;
    const context = copy.getContext('2d', { willReadFrequently: true })!;
    context.drawImage(element, 0, 0);
    // The picture is a rectangle across the middle of the wall: its ends are found along two lines through it.
    const { width, height } = copy;
    const ends = (line: Uint8ClampedArray) => {
      let [first, last] = [-1, -1];
      for (let i = 0; i < line.length / 4; i++) {
        if (!line[i * 4 + 3]) continue;
        if (first < 0) first = i;
        last = i;
      }
      return [first, last] as const;
    };
    const [left, right] = ends(context.getImageData(0, height >> 1, width, 1).data);
    const [top, bottom] = ends(context.getImageData((left + right) >> 1, 0, 1, height).data);
    const cut = context.getImageData(left, top, right - left + 1, bottom - top + 1);
    const reader = new FileReader();
    const read = new Promise(done => (reader.onload = done));
    reader.readAsDataURL(new Blob([cut.data]));
    await read;
    const address = reader.result as string;
    return { width: cut.width, height: cut.height, base64: address.slice(address.indexOf(',') + 1) };
  });
  return { ...size, data: Buffer.from(base64, 'base64') };
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

/** The largest difference of two pictures at places of them, in codes; the picture is smaller beside the area's tools. */
export function differs(a: Shot, b: Shot): number {
  let most = 0;
  for (const u of [0.1, 0.35, 0.5, 0.9]) {
    for (const v of [0.1, 0.45, 0.9]) {
      const [one, other] = [colourAt(a, u, v), colourAt(b, u, v)];
      for (let k = 0; k < 3; k++) most = Math.max(most, Math.abs(one[k] - other[k]));
    }
  }
  return most;
}

/** Luma of codes. */
export const luma = ([r, g, b]: readonly number[]) => 0.2126 * r + 0.7152 * g + 0.0722 * b;

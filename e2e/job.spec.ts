import { readFile } from 'node:fs/promises';
import { converter } from 'culori';
import sharp from 'sharp';
import { ciede2000 } from '../core/colour/ciede2000';
import { hueDirection } from '../core/colour/hues';
import { rgbToLab } from '../core/colour/lab';
import { rgbToOklab } from '../core/colour/oklab';
import { jpegTurned, p3Profile, tiff16 } from '../server/testing/pictures';
import { expect, test } from './app';
import { colourAt, pictureOn } from './picture';
import { add } from './work';

const oklab = (rgb: readonly number[]) => {
  const c = Float64Array.from(rgb, v => v / 255);
  rgbToOklab(c);
  return { L: c[0], chroma: Math.hypot(c[1], c[2]), hue: Math.atan2(c[2], c[1]) };
};
const degreesApart = (a: number, b: number) => {
  const d = Math.abs(a - b) % (2 * Math.PI);
  return (Math.min(d, 2 * Math.PI - d) * 180) / Math.PI;
};

/** A 16-bit picture: a tone scale above, colours below. */
const scale16 = () =>
  tiff16(1500, 1000, (x, y) => {
    const v = Math.round((x / 1499) * 65535);
    return y < 500 ? [v, v, v] : [v, 30_000, 65535 - v];
  });

test('from files to a toned print: bring in, treat, reload, undo, send out', async ({
  page,
  app,
  faults,
}) => {
  await page.goto(app.url);
  await page.getByRole('button', { name: 'New series', exact: true }).click();
  await page.getByLabel('Title').fill('Slack tide');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Slack tide' })).toBeVisible();

  // Two real pictures and a broken file at once: the broken one is named, the others go on.
  const turned = await jpegTurned(
    90,
    60,
    x => (x < 45 ? [200, 40, 40] : [40, 60, 190]),
    6,
    await p3Profile(),
  );
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Add photographs' }).click();
  await (
    await chooser
  ).setFiles([
    { name: 'scale.tif', mimeType: 'image/tiff', buffer: await scale16() },
    { name: 'broken.jpg', mimeType: 'image/jpeg', buffer: turned.subarray(0, 500) },
    { name: 'turned.jpg', mimeType: 'image/jpeg', buffer: turned },
  ]);
  const slip = page.getByRole('region', { name: 'Bringing in' });
  await expect(slip.getByText(/broken\.jpg (is|has)/)).toBeVisible();
  await expect(slip.getByText('Two photographs brought in, one file not')).toBeVisible();
  faults.length = 0; // the browser notes the refusal of the broken file
  await slip.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('row')).toHaveCount(2);

  // The turned photograph is upright, and its Display P3 colours are those of sRGB.
  await page.getByRole('row', { name: 'Turned' }).dblclick();
  await expect(page.getByRole('heading', { name: 'Turned' })).toBeVisible();
  const upright = await pictureOn(page);
  expect([upright.width, upright.height]).toEqual([60, 90]);
  const red = converter('rgb')({ mode: 'p3', r: 200 / 255, g: 40 / 255, b: 40 / 255 });
  const blue = converter('rgb')({ mode: 'p3', r: 40 / 255, g: 60 / 255, b: 190 / 255 });
  for (const [colour, at] of [
    [red, 0.2],
    [blue, 0.8],
  ] as const) {
    const shown = colourAt(upright, 0.5, at);
    [colour.r, colour.g, colour.b].forEach((v, k) =>
      expect(Math.abs(shown[k] - Math.min(1, Math.max(0, v)) * 255)).toBeLessThan(4),
    );
  }

  await page.getByRole('navigation', { name: 'Neighbouring photographs' }).getByRole('link').first().click();
  await expect(page.getByRole('heading', { name: 'Scale' })).toBeVisible();
  const bare = await pictureOn(page);

  // Mono, then a split tone, by mouse and keys.
  await add(page, 'Mono', 'Mono');
  await add(page, 'Tone', 'Split tone');
  const panel = page.getByRole('complementary', { name: 'Split tone' });
  const type = async (name: string, value: string) => {
    await panel.getByRole('textbox', { name: `${name}, number` }).fill(value);
    await page.keyboard.press('Enter');
  };
  await type('Shadows hue', '220');
  await type('Shadows saturation', '45');
  await type('Highlights hue', '40');
  await type('Highlights saturation', '40');
  await expect(page.locator('[data-saving=saved]')).toBeVisible();

  const toned = await pictureOn(page);
  const dark = colourAt(toned, 0.16, 0.2);
  const light = colourAt(toned, 0.88, 0.2);
  expect(degreesApart(oklab(dark).hue, hueDirection(220))).toBeLessThan(6);
  expect(degreesApart(oklab(light).hue, hueDirection(40))).toBeLessThan(6);
  expect(oklab(dark).chroma).toBeGreaterThan(0.03);
  for (const u of [0.05, 0.3, 0.5, 0.7, 0.95]) {
    expect(Math.abs(oklab(colourAt(toned, u, 0.2)).L - oklab(colourAt(bare, u, 0.2)).L)).toBeLessThan(0.012);
  }

  // Held bare, and back.
  await page.keyboard.down('b');
  const held = await pictureOn(page);
  expect(colourAt(held, 0.3, 0.8)).toEqual(colourAt(bare, 0.3, 0.8));
  // Longer than a click.
  await page.waitForTimeout(350);
  await page.keyboard.up('b');
  expect((await pictureOn(page)).data.equals(toned.data)).toBe(true);

  // Everything is there after a reload; undo reaches back behind it.
  await page.reload();
  expect((await pictureOn(page)).data.equals(toned.data)).toBe(true);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Redo: Split tone highlights saturation' })).toBeVisible();
  expect(oklab(colourAt(await pictureOn(page), 0.88, 0.2)).chroma).toBeLessThan(0.01);
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByRole('button', { name: 'Undo: Split tone highlights saturation' })).toBeVisible();
  expect((await pictureOn(page)).data.equals(toned.data)).toBe(true);

  // Sent out at the size of the screen, the file is the screen.
  await page.getByRole('button', { name: 'Send out' }).click();
  const settings = page.getByRole('region', { name: 'Settings' });
  await settings.getByRole('radio', { name: 'TIFF' }).click();
  await settings.getByRole('radio', { name: '16' }).click();
  await settings.getByRole('button', { name: /Size/ }).click();
  await page.getByRole('option', { name: 'Long edge, pixels' }).click();
  await settings.getByRole('textbox', { name: 'Long edge in pixels' }).fill(String(toned.width));
  await page.keyboard.press('Enter');
  await settings.getByRole('button', { name: 'Send out' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download slack-tide-01-scale-a.tif' }).click({ timeout: 60_000 });
  const file = await readFile(await (await download).path());
  const { data, info } = await sharp(file, { ignoreIcc: true })
    .toColourspace('rgb16')
    .raw({ depth: 'ushort' })
    .toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([toned.width, toned.height]);
  expect((await sharp(file).metadata()).icc).toBeTruthy();
  const differences: number[] = [];
  for (let i = 0; i < info.width * info.height; i += 7) {
    const onScreen = [0, 1, 2].map(k => toned.data[i * 4 + k] / 255) as [number, number, number];
    const inFile = [0, 1, 2].map(k => data.readUInt16LE((i * 3 + k) * 2) / 65535) as [number, number, number];
    differences.push(ciede2000(rgbToLab(...onScreen), rgbToLab(...inFile)));
  }
  differences.sort((a, b) => a - b);
  expect(differences[Math.floor(differences.length * 0.99)]).toBeLessThan(1);
});

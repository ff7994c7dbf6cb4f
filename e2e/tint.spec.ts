import sharp from 'sharp';
import { writePigments } from '../core/formats/pigments';
import { tiff16 } from '../server/testing/pictures';
import { expect, test } from './app';
import { colourAt, differs, luma, pictureOn } from './picture';
import { add, choose, chroma, drag, openBench, panelOf, pointAt, press, saved, type } from './work';

/** Hand tint by pointer events and keys, seen in the pixels. */

/** A lit ball on a grey ground, with a little texture. */
const ball = () =>
  tiff16(900, 600, (x, y) => {
    const r = Math.hypot(x - 450, y - 300) / 180;
    const v = r < 1 ? 0.75 - 0.45 * r * r : 0.42 + 0.08 * Math.sin(x / 9) * Math.sin(y / 11);
    return Array(3).fill(Math.round(v * 65535)) as [number, number, number];
  });

test('a quince tinted with a soft brush at half strength: shading kept, edge soft, undone stroke by stroke', async ({
  page,
  app,
}) => {
  const bare = await openBench(page, app, [], await ball());
  await add(page, 'Colour', 'Wash');
  await page.getByRole('button', { name: 'New area', exact: true }).click();
  await expect(page.getByText(/^Nothing yet/)).toBeVisible();
  // Laid on an empty area, it colours nothing.
  expect(differs(await pictureOn(page), bare)).toBeLessThan(3);
  await page.getByRole('button', { name: 'Quince' }).click();
  await type(page, 'Strength', '50');
  await drag(page, [0.42, 0.45], [0.58, 0.45]);
  await drag(page, [0.42, 0.58], [0.58, 0.58]);
  const tinted = await pictureOn(page);
  const middle = colourAt(tinted, 0.5, 0.45);
  expect(chroma(middle)).toBeGreaterThan(0.02);
  expect(middle[0]).toBeGreaterThan(middle[2] + 15);
  // The shading stays beneath: luma as it was.
  for (const u of [0.44, 0.5, 0.56]) {
    expect(Math.abs(luma(colourAt(tinted, u, 0.45)) - luma(colourAt(bare, u, 0.45)))).toBeLessThan(4);
  }
  expect(Math.abs(luma(colourAt(tinted, 0.1, 0.1)) - luma(colourAt(bare, 0.1, 0.1)))).toBeLessThan(1);
  // A soft edge: half as much colour on the way out.
  const across = [0, 0.041, 0.06].map(d => chroma(colourAt(tinted, 0.5, 0.58 + d, 1)));
  expect(across[1]).toBeLessThan(across[0] * 0.97);
  expect(across[1]).toBeGreaterThan(across[2] + 0.003);

  // Alt takes away; nothing starts over.
  const at = await pointAt(page, 0.5, 0.45);
  await page.keyboard.down('Alt');
  await page.mouse.click(at.x, at.y);
  await page.keyboard.up('Alt');
  const holed = await pictureOn(page);
  expect(chroma(colourAt(holed, 0.5, 0.45))).toBeLessThan(chroma(middle) * 0.4);
  expect(chroma(colourAt(holed, 0.43, 0.58))).toBeCloseTo(chroma(colourAt(tinted, 0.43, 0.58)), 2);
  await saved(page);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await pictureOn(page)).data.equals(tinted.data)).toBe(true);
  await page.keyboard.press('Control+z');
  await expect
    .poll(async () => chroma(colourAt(await pictureOn(page), 0.5, 0.6, 1)))
    .toBeLessThan(across[0] * 0.3);
  await page.reload();
  expect(chroma(colourAt(await pictureOn(page), 0.5, 0.45))).toBeCloseTo(chroma(middle), 2);
});

test('the brush: size by keys, a cursor that tells, straight lines, a film and grey over the picture', async ({
  page,
  app,
}) => {
  await openBench(page, app, [], await ball());
  await add(page, 'Colour', 'Wash');
  await page.getByRole('button', { name: 'New area', exact: true }).click();
  const cursor = page.locator('[data-brush-cursor]');
  const at = await pointAt(page, 0.2, 0.2);
  await page.mouse.move(at.x, at.y);
  await expect(cursor).toBeVisible();
  const before = (await cursor.boundingBox())!.width;
  await press(page, ']', 3);
  expect((await cursor.boundingBox())!.width / before).toBeCloseTo(1.15 ** 3, 1);
  await press(page, '[', 8);
  await page.keyboard.press('x');
  await expect(cursor).toHaveAttribute('data-sign', '−');
  await page.keyboard.press('x');
  await expect(cursor).toHaveAttribute('data-sign', '+');
  // A straight line from click to click.
  await page.mouse.click(at.x, at.y);
  const end = await pointAt(page, 0.8, 0.2);
  await page.keyboard.down('Shift');
  await page.mouse.click(end.x, end.y);
  await page.keyboard.up('Shift');
  const line = await pictureOn(page);
  for (const u of [0.3, 0.5, 0.7]) expect(chroma(colourAt(line, u, 0.2, 1))).toBeGreaterThan(0.05);
  expect(chroma(colourAt(line, 0.5, 0.35, 1))).toBeLessThan(0.01);
  await page.getByRole('button', { name: 'Grey', exact: true }).click();
  const grey = await pictureOn(page);
  expect(colourAt(grey, 0.5, 0.2, 0)[0]).toBeGreaterThan(230);
  expect(colourAt(grey, 0.5, 0.6, 0)).toEqual([0, 0, 0]);
  await page.getByRole('button', { name: 'Film', exact: true }).click();
  const film = colourAt(await pictureOn(page), 0.5, 0.2, 0);
  expect(film[1]).toBeGreaterThan(film[0]);
  await page.getByRole('button', { name: 'Off', exact: true }).click();
  expect((await pictureOn(page)).data.equals(line.data)).toBe(true);
});

test('five washes, one recoloured and one moved afterwards, an area reused and its inverse', async ({
  page,
  app,
}) => {
  await openBench(page, app, [{ kind: 'mono' }], await ball());
  const spots = [
    [0.15, 0.2, 'Oxide'],
    [0.4, 0.2, 'Ferry blue'],
    [0.65, 0.2, 'Lips'],
    [0.15, 0.8, 'Linen'],
    [0.65, 0.8, 'Foliage'],
  ] as const;
  for (const [u, v, pigment] of spots) {
    await add(page, 'Colour', 'Wash');
    await page.getByRole('button', { name: 'New area', exact: true }).click();
    await page.getByRole('group', { name: 'Pigments' }).getByRole('button', { name: pigment }).click();
    await drag(page, [u, v], [u + 0.1, v]);
  }
  const five = await pictureOn(page);
  for (const [u, v] of spots) expect(chroma(colourAt(five, u + 0.05, v))).toBeGreaterThan(0.02);
  const blue = colourAt(five, 0.45, 0.2);
  expect(blue[2]).toBeGreaterThan(blue[0]);
  // The second is given another pigment by key, the others stay.
  await page.locator('[data-tray]').nth(2).click();
  await page.getByRole('group', { name: 'Pigments' }).getByRole('button', { name: 'Oxide' }).click();
  const recoloured = await pictureOn(page);
  const red = colourAt(recoloured, 0.45, 0.2);
  expect(red[0]).toBeGreaterThan(red[2] + 20);
  expect(colourAt(recoloured, 0.7, 0.8)).toEqual(colourAt(five, 0.7, 0.8));
  // The last is moved to the front of the line; its colour stays.
  await page.locator('[data-tray]').last().click();
  await page.locator('[data-tray]').last().focus();
  await page.keyboard.press('Alt+ArrowLeft');
  await page.keyboard.press('Alt+ArrowLeft');
  expect(colourAt(await pictureOn(page), 0.7, 0.8)).toEqual(colourAt(recoloured, 0.7, 0.8));

  // Its area is named, used by a second step, and its inverse by a third.
  await page.getByRole('button', { name: /^More for Area/ }).click();
  await page.getByRole('menuitem', { name: 'Name' }).click();
  await page.getByRole('textbox', { name: 'Name of this area' }).fill('Reeds');
  await page.keyboard.press('Enter');
  await add(page, 'Colour', 'Light in an area');
  await page.getByRole('option', { name: 'Reeds' }).click();
  await type(page, 'Exposure', '1');
  const lit = await pictureOn(page);
  expect(luma(colourAt(lit, 0.7, 0.8))).toBeGreaterThan(luma(colourAt(recoloured, 0.7, 0.8)) + 20);
  expect(colourAt(lit, 0.45, 0.2)).toEqual(red);
  await page.getByRole('button', { name: 'More for Reeds' }).click();
  await page.getByRole('menuitem', { name: 'Its inverse as a new area' }).click();
  const turned = await pictureOn(page);
  expect(luma(colourAt(turned, 0.45, 0.2))).toBeGreaterThan(luma(red) + 20);
  expect(Math.abs(luma(colourAt(turned, 0.7, 0.8)) - luma(colourAt(recoloured, 0.7, 0.8)))).toBeLessThan(3);
  await saved(page);
});

/** A red door and a green one in grey boards, and something red far from it. */
const doors = () =>
  tiff16(900, 600, (x, y) => {
    if (x > 150 && x < 350 && y > 200 && y < 500) return [42000, 12000, 10000];
    if (x > 500 && x < 700 && y > 200 && y < 500) return [12000, 36000, 16000];
    if (x > 780 && x < 840 && y > 80 && y < 140) return [42000, 13000, 11000];
    return [30000, 30000, 30000];
  });

test('the colour of one painted door is kept, and leftovers are found and cleaned with a hard brush', async ({
  page,
  app,
}) => {
  const bare = await openBench(page, app, [{ kind: 'mono' }], await doors());
  await add(page, 'Colour', 'Kept colour');
  await page.getByRole('button', { name: 'New area', exact: true }).click();
  await page.getByRole('button', { name: 'Hues', exact: true }).click();
  const at = await pointAt(page, 250 / 900, 350 / 600);
  await page.mouse.click(at.x, at.y);
  await expect(page.getByRole('slider', { name: 'Area hue' })).toBeVisible();
  const kept = await pictureOn(page);
  expect(chroma(colourAt(kept, 250 / 900, 0.6))).toBeGreaterThan(0.1);
  expect(chroma(colourAt(kept, 600 / 900, 0.6))).toBeLessThan(0.01);
  expect(Math.abs(luma(colourAt(kept, 0.05, 0.9)) - luma(colourAt(bare, 0.05, 0.9)))).toBeLessThan(1);
  // Something of the same hue is left elsewhere: what is not coloured steps back, and it is seen.
  expect(chroma(colourAt(kept, 810 / 900, 110 / 600))).toBeGreaterThan(0.1);
  await page.getByRole('button', { name: 'Mark what is coloured' }).click();
  const marked = await pictureOn(page);
  expect(luma(colourAt(marked, 0.05, 0.9))).toBeLessThan(luma(colourAt(kept, 0.05, 0.9)) * 0.5);
  expect(colourAt(marked, 810 / 900, 110 / 600)).toEqual(colourAt(kept, 810 / 900, 110 / 600));
  await page.getByRole('button', { name: 'Mark what is coloured' }).click();
  await page.getByRole('button', { name: 'Brush', exact: true }).click();
  await type(page, 'Brush hardness', '100');
  await page.getByRole('button', { name: '− Take away' }).click();
  await press(page, ']', 6);
  await drag(page, [800 / 900, 110 / 600], [820 / 900, 110 / 600]);
  const cleaned = await pictureOn(page);
  expect(chroma(colourAt(cleaned, 810 / 900, 110 / 600))).toBeLessThan(0.01);
  expect(chroma(colourAt(cleaned, 250 / 900, 0.6))).toBeGreaterThan(0.1);
  await saved(page);
});

test('dodge and burn beneath two conversions serve both', async ({ page, app }) => {
  await openBench(page, app, [{ kind: 'mono' }], await ball());
  const plain = await pictureOn(page);
  await add(page, 'Ground', 'Light in an area');
  await page.getByRole('button', { name: 'New area', exact: true }).click();
  await type(page, 'Exposure', '0.8');
  await type(page, 'Brush flow', '30');
  await drag(page, [0.45, 0.5], [0.55, 0.5]);
  const once = luma(colourAt(await pictureOn(page), 0.5, 0.5));
  expect(once).toBeGreaterThan(luma(colourAt(plain, 0.5, 0.5)) + 4);
  await add(page, 'Ground', 'Light in an area');
  await page.getByRole('button', { name: 'New area', exact: true }).click();
  await type(page, 'Exposure', '-1');
  await page.getByRole('button', { name: 'Gradient', exact: true }).click();
  await drag(page, [0.5, 0.02], [0.5, 0.35]);
  const burned = await pictureOn(page);
  expect(luma(colourAt(burned, 0.1, 0.03))).toBeLessThan(luma(colourAt(plain, 0.1, 0.03)) * 0.85);
  expect(luma(colourAt(burned, 0.1, 0.9))).toBeCloseTo(luma(colourAt(plain, 0.1, 0.9)), 0);
  // The gradient's end is moved by its handle.
  await page.getByRole('button', { name: /^Empty end of the gradient/ }).focus();
  await press(page, 'Shift+ArrowDown', 6);
  const longer = await pictureOn(page);
  expect(luma(colourAt(longer, 0.1, 0.3))).toBeLessThan(luma(colourAt(burned, 0.1, 0.3)) - 2);
  // Another conversion above it, and both are still there.
  await page.locator('[data-tray]').last().click();
  await choose(page, /^Luminance|Method/, 'Average');
  const other = await pictureOn(page);
  expect(luma(colourAt(other, 0.1, 0.03))).toBeLessThan(luma(colourAt(plain, 0.1, 0.03)) * 0.85);
  expect(Math.abs(luma(colourAt(other, 0.5, 0.5)) - luma(colourAt(longer, 0.5, 0.5)))).toBeLessThan(4);
  await saved(page);
});

test('a boosted curve with one spot painted out', async ({ page, app }) => {
  const plain = await openBench(page, app, [{ kind: 'mono' }], await ball());
  await add(page, 'Tone', 'Curve');
  const curve = panelOf(page, 'Curve');
  await curve.getByRole('slider', { name: 'Point 2 of 2' }).focus();
  await press(page, 'Shift+ArrowLeft', 3);
  const boosted = await pictureOn(page);
  expect(luma(colourAt(boosted, 0.5, 0.5))).toBeGreaterThan(luma(colourAt(plain, 0.5, 0.5)) + 25);
  await page.getByRole('button', { name: 'New area', exact: true }).click();
  await page.getByRole('button', { name: /^More for Area/ }).click();
  await page.getByRole('menuitem', { name: 'Add the whole picture' }).click();
  expect(differs(await pictureOn(page), boosted)).toBeLessThan(3);
  await page.getByRole('button', { name: '− Take away' }).click();
  await press(page, ']', 5);
  const at = await pointAt(page, 0.5, 0.5);
  await page.mouse.click(at.x, at.y);
  const spared = await pictureOn(page);
  expect(Math.abs(luma(colourAt(spared, 0.5, 0.5)) - luma(colourAt(plain, 0.5, 0.5)))).toBeLessThan(6);
  expect(Math.abs(luma(colourAt(spared, 0.1, 0.5)) - luma(colourAt(boosted, 0.1, 0.5)))).toBeLessThan(1);
  await saved(page);
});

test('pigments are kept for all photographs, taken by key, brought in and saved as files', async ({
  page,
  app,
}) => {
  await openBench(page, app, [{ kind: 'wash' }], await ball());
  const box = page.getByRole('region', { name: 'Pigment box' });
  await page.getByRole('button', { name: 'Pigment colour' }).click();
  await page.getByRole('dialog', { name: 'Pigment colour' }).getByRole('textbox').fill('#3a7d5c');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await box.getByRole('button', { name: 'Keep this one' }).click();
  await page.getByRole('textbox', { name: 'Name of this pigment' }).fill('Verdigris');
  await page.keyboard.press('Enter');
  const own = box.getByRole('button', { name: 'Verdigris' });
  await expect(own).toHaveAttribute('aria-pressed', 'true');
  await box.getByRole('button', { name: 'Oxide' }).click();
  const oxide = await pictureOn(page);
  // The first in the box by its key.
  await page.getByRole('group', { name: /^The picture\./ }).focus();
  await page.keyboard.press('1');
  await expect(own).toHaveAttribute('aria-pressed', 'true');
  const green = colourAt(await pictureOn(page), 0.5, 0.5);
  expect(green[1]).toBeGreaterThan(green[0]);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await pictureOn(page)).data.equals(oxide.data)).toBe(true);

  // From a transparent tint to vivid, by keys; a double click gives back the pigment as it was.
  const spread = async () => {
    const colour = colourAt(await pictureOn(page), 0.5, 0.5);
    return Math.max(...colour) - Math.min(...colour);
  };
  const vividness = page.getByRole('slider', { name: 'From transparent to vivid' });
  const asTaken = await spread();
  await vividness.focus();
  await page.keyboard.press('Home');
  await expect.poll(spread).toBeLessThan(asTaken * 0.4);
  await page.keyboard.press('End');
  await expect.poll(spread).toBeGreaterThan(asTaken * 1.1);
  await page.locator('[data-kind]').filter({ has: vividness }).dblclick();
  await expect.poll(spread).toBe(asTaken);
  await box.getByRole('button', { name: 'Oxide' }).click();

  const file = box.getByLabel('Pigment file');
  await file.setInputFiles({ name: 'broken.json', mimeType: 'application/json', buffer: Buffer.from('{') });
  await expect(page.getByText(/broken\.json: the JSON is broken/)).toBeVisible();
  const more = writePigments([
    { name: 'Creosote', pigment: { kind: 'flat', colour: '#3b2a1c' }, depth: 0.4 },
  ]);
  await file.setInputFiles({ name: 'tar.json', mimeType: 'application/json', buffer: Buffer.from(more) });
  await expect(box.getByRole('button', { name: 'Creosote' })).toBeVisible();
  const download = page.waitForEvent('download');
  await box.getByRole('button', { name: 'More for the pigment box' }).click();
  await page.getByRole('menuitem', { name: 'Save as CSS' }).click();
  expect((await download).suggestedFilename()).toBe('pigments.css');
  // On another photograph the box is the same.
  await openBench(page, app, [{ kind: 'wash' }], await ball());
  await expect(
    page.getByRole('region', { name: 'Pigment box' }).getByRole('button', { name: 'Verdigris' }),
  ).toBeVisible();
});

test('an area goes out as a grey PNG and comes back in its place', async ({ page, app }) => {
  await openBench(page, app, [{ kind: 'wash' }], await ball());
  await page.getByRole('button', { name: 'New area', exact: true }).click();
  await press(page, ']', 6);
  await drag(page, [0.3, 0.4], [0.4, 0.4]);
  const painted = await pictureOn(page);
  expect(chroma(colourAt(painted, 0.35, 0.4))).toBeGreaterThan(0.05);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^More for Area/ }).click();
  await page.getByRole('menuitem', { name: 'Save as a file' }).click();
  const file = await (await download).path();
  const { channels, width, height } = await sharp(file).metadata();
  expect([channels, width, height]).toEqual([1, 900, 600]);

  await openBench(page, app, [{ kind: 'wash' }], await ball());
  await page.getByRole('button', { name: 'New area', exact: true }).click();
  const input = page.getByLabel('Area file');
  await input.setInputFiles({
    name: 'no.png',
    mimeType: 'image/png',
    buffer: Buffer.from('not a picture at all, but long enough'),
  });
  await expect(page.getByText(/^no\.png: /)).toBeVisible();
  await input.setInputFiles(file);
  await expect(page.getByText('Grey picture')).toBeVisible();
  const back = await pictureOn(page);
  for (const [u, v] of [
    [0.35, 0.4],
    [0.3, 0.45],
    [0.6, 0.6],
  ]) {
    expect(chroma(colourAt(back, u, v))).toBeCloseTo(chroma(colourAt(painted, u, v)), 1);
  }
  await saved(page);
});

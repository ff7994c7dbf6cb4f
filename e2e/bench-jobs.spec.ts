import sharp from 'sharp';
import { tiff16 } from '../server/testing/pictures';
import { expect, test } from './app';
import { colourAt, pictureOn } from './picture';
import { add, choose, chroma, drag, openBench, panelOf, pointAt, press, saved, type } from './work';

/** Whole jobs on the Bench, by mouse and by keys, seen in the pixels. */

test('a matte print: darks lifted, lights greyed, an oval vignette drawn on the picture', async ({
  page,
  app,
}) => {
  await openBench(page, app);
  await add(page, 'Mono', 'Mono');
  await add(page, 'Tone', 'Curve');
  const curve = panelOf(page, 'Curve');
  await curve.getByRole('slider', { name: 'Point 1 of 2' }).focus();
  await page.keyboard.press('Shift+ArrowUp');
  await curve.getByRole('slider', { name: 'Point 2 of 2' }).focus();
  await page.keyboard.press('Shift+ArrowDown');
  const matte = await pictureOn(page);
  expect(colourAt(matte, 0.003, 0.25)[0]).toBeGreaterThan(20);
  expect(colourAt(matte, 0.997, 0.25)[0]).toBeLessThan(238);

  await add(page, 'Finish', 'Vignette');
  await type(page, 'Amount', '-80');
  const even = await pictureOn(page);
  expect(colourAt(even, 0.995, 0.02)[0]).toBeLessThan(colourAt(matte, 0.995, 0.02)[0] * 0.85);
  expect(colourAt(even, 0.5, 0.5)[0]).toBeCloseTo(colourAt(matte, 0.5, 0.5)[0], 0);
  // Its middle is dragged to the right on the picture, by keys a little further, and its size drawn in.
  await drag(page, [0.5, 0.5], [0.8, 0.5]);
  await page.getByRole('button', { name: /^Middle of the vignette/ }).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByRole('textbox', { name: 'Centre across, number' })).toHaveValue('85');
  const moved = await pictureOn(page);
  expect(colourAt(moved, 0.03, 0.75)[0]).toBeLessThan(colourAt(even, 0.03, 0.75)[0] - 8);
  expect(colourAt(moved, 0.97, 0.6)[0]).toBeGreaterThan(colourAt(even, 0.97, 0.6)[0]);
  await page.getByRole('button', { name: /^Size of the vignette/ }).focus();
  await press(page, 'Shift+ArrowLeft', 8);
  expect(colourAt(await pictureOn(page), 0.6, 0.65)[0]).toBeLessThan(colourAt(moved, 0.6, 0.65)[0] - 5);
  await saved(page);
});

test('selenium on a picture with automatic response, then pulled on the picture', async ({ page, app }) => {
  await openBench(page, app);
  await add(page, 'Mono', 'Mono');
  await choose(page, /^Luminance|Method/, 'Response by hue');
  await page.getByRole('button', { name: 'Automatic' }).click();
  await expect(page.getByRole('button', { name: 'Undo: Mono: automatic' })).toBeVisible();
  await add(page, 'Tone', 'Baths');
  const baths = panelOf(page, 'Baths');
  await baths.getByRole('button', { name: /Bath 1 toner/ }).click();
  await page.getByRole('option', { name: 'Selenium' }).click();
  const toned = await pictureOn(page);
  expect(chroma(colourAt(toned, 0.25, 0.25))).toBeGreaterThan(0.008);

  await page.locator('[data-tray]').first().click();
  // The red field is pulled up: it gets lighter, the green one and the greys stay.
  const at = await pointAt(page, 0.25, 0.75);
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  await page.mouse.move(at.x, at.y - 60, { steps: 6 });
  await expect(page.getByRole('status', { name: 'Pulled' })).toContainText('Red');
  await page.mouse.move(at.x, at.y - 90, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo: Pull' })).toBeVisible();
  const pulled = await pictureOn(page);
  expect(colourAt(pulled, 0.25, 0.75)[0]).toBeGreaterThan(colourAt(toned, 0.25, 0.75)[0] + 6);
  expect(Math.abs(colourAt(pulled, 0.75, 0.75)[0] - colourAt(toned, 0.75, 0.75)[0])).toBeLessThan(4);
  expect(Math.abs(colourAt(pulled, 0.5, 0.25)[0] - colourAt(toned, 0.5, 0.25)[0])).toBeLessThan(2);
  // On grey there is nothing to pull, and that is said.
  const grey = await pointAt(page, 0.5, 0.25);
  await page.mouse.click(grey.x, grey.y);
  await expect(page.getByText('That place is grey')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await pictureOn(page)).data.equals(toned.data)).toBe(true);
});

test('a family that is held lights up, and a hue of a split tone is seen at full strength', async ({
  page,
  app,
}) => {
  await openBench(page, app);
  await add(page, 'Mono', 'Mono');
  await choose(page, /^Luminance|Method/, 'Response by hue');
  const rest = await pictureOn(page);
  const red = page.getByRole('slider', { name: 'Response by hue red' });
  const box = (await red.locator('..').boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  const held = await pictureOn(page);
  expect(colourAt(held, 0.25, 0.75)[0]).toBeGreaterThan(colourAt(rest, 0.25, 0.75)[0] * 0.97);
  expect(colourAt(held, 0.75, 0.75)[0]).toBeLessThan(colourAt(rest, 0.75, 0.75)[0] * 0.7);
  await page.mouse.up();
  await expect.poll(async () => (await pictureOn(page)).data.equals(rest.data)).toBe(true);

  await add(page, 'Tone', 'Split tone');
  await type(page, 'Highlights saturation', '6');
  const faint = await pictureOn(page);
  await page.getByRole('slider', { name: 'Highlights hue' }).focus();
  await page.keyboard.down('ArrowRight');
  expect(chroma(colourAt(await pictureOn(page), 0.8, 0.25))).toBeGreaterThan(
    chroma(colourAt(faint, 0.8, 0.25)) * 3,
  );
  await page.keyboard.up('ArrowRight');
  expect(chroma(colourAt(await pictureOn(page), 0.8, 0.25))).toBeLessThan(
    chroma(colourAt(faint, 0.8, 0.25)) * 1.3,
  );
  // The hue is given to the shadows.
  await page.getByRole('button', { name: 'Copy the hue of highlights' }).click();
  await page.getByRole('menuitem', { name: 'To shadows' }).click();
  await expect(page.getByRole('textbox', { name: 'Shadows hue, number' })).toHaveValue('41°');
});

test('a split tone with more tone in the shadows, grain under the loupe, sent out grey and in colour', async ({
  page,
  app,
}) => {
  await openBench(page, app);
  await add(page, 'Mono', 'Mono');
  await add(page, 'Tone', 'Split tone');
  await type(page, 'Shadows hue', '215');
  await type(page, 'Shadows saturation', '50');
  await type(page, 'Highlights hue', '40');
  await type(page, 'Highlights saturation', '30');
  const even = await pictureOn(page);
  // More of the scale for the shadows: the middle handle of the ramp is dragged to the right.
  const ramp = (await page.locator('[data-ramp]').boundingBox())!;
  await page.mouse.move(ramp.x + ramp.width * 0.55, ramp.y + ramp.height / 2);
  await page.mouse.down();
  await page.mouse.move(ramp.x + ramp.width * 0.75, ramp.y + ramp.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByRole('textbox', { name: 'Balance, number' })).toHaveValue(/^[-−]5\d$/);
  const shifted = await pictureOn(page);
  const blueness = (rgb: number[]) => rgb[2] - rgb[0];
  expect(blueness(colourAt(shifted, 0.5, 0.25))).toBeGreaterThan(blueness(colourAt(even, 0.5, 0.25)) + 5);

  await add(page, 'Finish', 'Grain');
  await type(page, 'Amount', '60');
  await expect(page.getByRole('img', { name: /^The picture at 1:1/ })).toHaveAttribute('data-drawn', /\d/);
  const grained = await pictureOn(page);
  let rough = 0;
  for (let x = 0; x < 40; x++) {
    const at = (Math.round(grained.height / 4) * grained.width + Math.round(grained.width / 2) + x) * 4;
    rough = Math.max(rough, Math.abs(grained.data[at] - shifted.data[at]));
  }
  expect(rough).toBeGreaterThan(3);
  await saved(page);

  await page.getByRole('button', { name: 'Send out', exact: true }).click();
  await expect(page).toHaveURL(/send-out/);
  const settings = page.getByRole('region', { name: 'Settings' });
  const files = page.getByRole('link', { name: /^Download/ });
  for (const [profile, channels] of [
    ['Grey, embedded', 1],
    ['sRGB, embedded', 3],
  ] as const) {
    const before = await files.count();
    await settings.getByRole('button', { name: /Colour profile/ }).click();
    await page.getByRole('option', { name: profile }).click();
    await settings.getByRole('button', { name: 'Send out' }).click();
    await expect(files).toHaveCount(before + 1, { timeout: 60_000 });
    const download = page.waitForEvent('download');
    await files.nth(before).click();
    const file = sharp(await (await download).path());
    expect((await file.metadata()).channels).toBe(channels);
    const { data, info } = await file.raw().toBuffer({ resolveWithObject: true });
    const at = (Math.round(info.height / 4) * info.width + Math.round(info.width * 0.3)) * info.channels;
    if (channels === 3) expect(data[at + 2]).toBeGreaterThan(data[at]);
  }
});

test('a gradient map with three stops at 87 % over colour', async ({ page, app }) => {
  const bare = await openBench(page, app);
  await add(page, 'Tone', 'Gradient map');
  const panel = panelOf(page, 'Gradient map');
  await panel.getByRole('button', { name: 'Add a stop' }).click();
  await panel.getByRole('button', { name: /Colour of stop 3/ }).click();
  await page.getByRole('dialog', { name: 'Colour of stop 3' }).getByRole('textbox').fill('#8a6a48');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  const whole = await pictureOn(page);
  expect(chroma(colourAt(whole, 0.5, 0.25))).toBeGreaterThan(0.03);
  await type(page, 'Strength', '87');
  const aged = await pictureOn(page);
  // The picture's own colour comes through, faded.
  const difference = (shot: typeof aged) => {
    const [left, right] = [colourAt(shot, 0.25, 0.75), colourAt(shot, 0.75, 0.75)];
    return left[0] - left[1] - (right[0] - right[1]);
  };
  expect(difference(aged)).toBeGreaterThan(difference(whole) + 10);
  expect(difference(aged)).toBeLessThan(difference(bare) * 0.4);
  await saved(page);
});

test('a sepia filter limited by reach on a lifted black', async ({ page, app }) => {
  await openBench(page, app);
  await add(page, 'Mono', 'Mono');
  await add(page, 'Tone', 'Curve');
  await panelOf(page, 'Curve').getByRole('slider', { name: 'Point 1 of 2' }).focus();
  await page.keyboard.press('Shift+ArrowUp');
  await add(page, 'Tone', 'Colour filter');
  const filter = panelOf(page, 'Colour filter');
  await filter.getByRole('button', { name: /^Colour/ }).click();
  await page.getByRole('dialog').getByRole('textbox').fill('#a8763e');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await type(page, 'Density', '70');
  const all = await pictureOn(page);
  expect(chroma(colourAt(all, 0.02, 0.25))).toBeGreaterThan(0.01);
  await filter.getByRole('button', { name: /^Reach/ }).click();
  await filter.getByRole('slider', { name: 'Tones beneath is whole from' }).focus();
  await press(page, 'Shift+ArrowRight', 5);
  await filter.getByRole('slider', { name: 'Tones beneath begins at' }).focus();
  await press(page, 'Shift+ArrowRight', 3);
  const reached = await pictureOn(page);
  expect(chroma(colourAt(reached, 0.02, 0.25))).toBeLessThan(0.004);
  expect(chroma(colourAt(reached, 0.8, 0.25))).toBeCloseTo(chroma(colourAt(all, 0.8, 0.25)), 2);
  await saved(page);
});

test('five grey stops in luminosity, a soft-light curve, above inks and a three-way balance', async ({
  page,
  app,
}) => {
  await openBench(page, app);
  await add(page, 'Ground', 'Inks');
  await type(page, 'Tones highlights yellow', '40');
  await add(page, 'Ground', 'Three-way balance');
  await type(page, 'Shadows hue', '220');
  await type(page, 'Shadows amount', '60');
  const balanced = await pictureOn(page);
  const tint = colourAt(balanced, 0.9, 0.25);
  expect(tint[0] - tint[2]).toBeGreaterThan(15);
  expect(colourAt(balanced, 0.25, 0.25)[2]).toBeGreaterThan(colourAt(balanced, 0.25, 0.25)[0]);

  await add(page, 'Tone', 'Gradient map');
  const map = panelOf(page, 'Gradient map');
  for (let i = 0; i < 3; i++) await map.getByRole('button', { name: 'Add a stop' }).click();
  await map.getByRole('button', { name: 'Even' }).click();
  await choose(page, /Mix/, 'Luminosity');
  const stops = map.getByRole('slider', { name: /^Stop \d of 5/ });
  await expect(stops).toHaveCount(5);
  const before = await pictureOn(page);
  // The middle stop is slid down as in levels: the picture gets lighter, its colours stay.
  const ats = await stops.evaluateAll(all => all.map(s => Number(s.getAttribute('aria-valuenow'))));
  const order = ats.map((at, i) => ({ at, i })).sort((a, b) => a.at - b.at);
  await stops.nth(order[2].i).focus();
  await press(page, 'Shift+ArrowLeft', 1);
  const lighter = await pictureOn(page);
  expect(colourAt(lighter, 0.5, 0.25)[1]).toBeGreaterThan(colourAt(before, 0.5, 0.25)[1] + 5);
  expect(colourAt(lighter, 0.9, 0.25)[0] - colourAt(lighter, 0.9, 0.25)[2]).toBeGreaterThan(10);

  await add(page, 'Tone', 'Curve');
  await choose(page, /Mix/, 'Soft light');
  const soft = await pictureOn(page);
  expect(colourAt(soft, 0.08, 0.25)[1]).toBeLessThan(colourAt(lighter, 0.08, 0.25)[1] - 5);
  expect(colourAt(soft, 0.85, 0.25)[1]).toBeGreaterThan(colourAt(lighter, 0.85, 0.25)[1]);
  await saved(page);
});

test('a colour table at part strength, desaturated to a hint', async ({ page, app }) => {
  await openBench(page, app);
  await add(page, 'Mono', 'Mono');
  await add(page, 'Tone', 'Colour table');
  const panel = panelOf(page, 'Colour table');
  const warm = 'LUT_1D_SIZE 2\n0.1 0.05 0\n1 0.9 0.7\n';
  await panel
    .getByLabel('Colour table file')
    .setInputFiles({ name: 'warm.cube', mimeType: 'text/plain', buffer: Buffer.from(warm) });
  await expect(panel.getByRole('button', { name: /warm/ })).toBeVisible();
  const full = chroma(colourAt(await pictureOn(page), 0.5, 0.25));
  await type(page, 'Strength', '60');
  const part = chroma(colourAt(await pictureOn(page), 0.5, 0.25));
  expect(part / full).toBeGreaterThan(0.5);
  expect(part / full).toBeLessThan(0.7);
  await type(page, 'Saturation', '-70');
  const hint = chroma(colourAt(await pictureOn(page), 0.5, 0.25));
  expect(hint).toBeLessThan(part * 0.6);
  expect(hint).toBeGreaterThan(0.002);
  await saved(page);
});

/** A grid of lines that a camera tilted up would give: uprights that converge upwards. */
const converging = () =>
  tiff16(900, 600, (x, y) => {
    const lean = ((x - 450) * (1 - y / 600)) / 450;
    const straight = x - 450 + lean * 0;
    const u = straight / (0.72 + (0.28 * y) / 600);
    const line = Math.abs(((u + 4000) % 100) - 50) < 4;
    return line ? [8000, 8000, 9000] : [52000, 50000, 46000];
  });

test('a keystone by two drawn lines, cropped, with glow', async ({ page, app }) => {
  const before = await openBench(page, app, [], await converging());
  await page.getByRole('button', { name: /^Frame/ }).click();
  const panel = panelOf(page, 'Frame');
  await panel.getByRole('button', { name: 'Draw two lines' }).click();
  // Two of the lines, at u = 250 and u = -250, each from the foot to the top.
  const onLine = (u: number, v: number): [number, number] => [(450 + u * (0.72 + 0.28 * v)) / 900, v];
  await drag(page, onLine(-250, 0.95), onLine(-250, 0.05));
  await expect(panel.getByText('And now along a second one.')).toBeVisible();
  await drag(page, onLine(250, 0.95), onLine(250, 0.05));
  await expect(page.getByRole('button', { name: 'Undo: Frame: two lines' })).toBeVisible();
  await expect(panel.getByRole('textbox', { name: 'Verticals, number' })).not.toHaveValue('0');
  await panel.getByRole('button', { name: 'Done' }).click();
  const upright = await pictureOn(page);
  // Each line stands: where it is dark near the top it is dark near the foot.
  const columns = (shot: typeof upright, v: number) => {
    const y = Math.round(v * (shot.height - 1));
    const dark: number[] = [];
    for (let x = 1; x < shot.width - 1; x++) {
      const at = (i: number) => shot.data[(y * shot.width + i) * 4];
      if (at(x) < 90 && at(x) <= at(x - 1) && at(x) < at(x + 1)) dark.push(x / shot.width);
    }
    return dark;
  };
  const apart = (shot: typeof upright) => {
    const [top, foot] = [columns(shot, 0.1), columns(shot, 0.9)];
    const nearest = (v: number) => Math.min(...foot.map(f => Math.abs(f - v)));
    return Math.max(...top.map(nearest));
  };
  expect(apart(before)).toBeGreaterThan(0.02);
  expect(apart(upright)).toBeLessThan(0.012);
  // No corner is empty.
  for (const [u, v] of [
    [0.003, 0.005],
    [0.997, 0.005],
    [0.003, 0.995],
    [0.997, 0.995],
  ]) {
    expect(colourAt(upright, u, v, 1)[0] - colourAt(upright, u, v, 1)[2]).toBeGreaterThan(-12);
  }

  // Cropped square, then a corner dragged in, then moved by keys.
  await page.getByRole('button', { name: /^Frame/ }).click();
  await choose(page, /Ratio/, 'Square');
  await panel.getByRole('button', { name: 'Done' }).click();
  const square = await pictureOn(page);
  expect(Math.abs(square.width - square.height)).toBeLessThanOrEqual(2);
  await page.getByRole('button', { name: /^Frame/ }).click();
  const corner = page.getByRole('button', { name: 'Bottom right of the crop' });
  const box = (await corner.boundingBox())!;
  await page.mouse.move(box.x + 12, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x - 60, box.y - 70, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo: Frame: crop' })).toBeVisible();
  await page.getByRole('group', { name: /^Crop\./ }).focus();
  await page.keyboard.press('Shift+ArrowLeft');
  await panel.getByRole('button', { name: 'Done' }).click();

  await add(page, 'Finish', 'Glow');
  await type(page, 'Amount', '0');
  const without = await pictureOn(page);
  expect(Math.abs(without.width - without.height)).toBeLessThanOrEqual(2);
  await type(page, 'Amount', '80');
  const glowing = await pictureOn(page);
  const darkest = (shot: typeof without) => {
    let least = 255;
    const y = Math.round(shot.height / 2);
    for (let x = 10; x < shot.width - 10; x++) least = Math.min(least, shot.data[(y * shot.width + x) * 4]);
    return least;
  };
  expect(darkest(glowing)).toBeGreaterThan(darkest(without) + 8);
  await saved(page);
  await page.reload();
  expect(darkest(await pictureOn(page))).toBe(darkest(glowing));
});

test('a frame is straightened by a line, turned and mirrored, and all of it undone', async ({
  page,
  app,
}) => {
  const bare = await openBench(page, app);
  await page.getByRole('button', { name: /^Frame/ }).click();
  const panel = panelOf(page, 'Frame');
  await panel.getByRole('button', { name: 'Draw a level line' }).click();
  await drag(page, [0.2, 0.5], [0.8, 0.54]);
  // 540 pixels to the right, 24 down.
  await expect(panel.getByRole('textbox', { name: 'Angle, number' })).toHaveValue(/^[-−]2\.5°$/);
  await panel.getByRole('button', { name: 'Right' }).click();
  await panel.getByRole('button', { name: 'Mirror' }).click();
  await panel.getByRole('button', { name: 'Done' }).click();
  const turned = await pictureOn(page);
  expect(turned.height).toBeGreaterThan(turned.width);
  // Turned right, the colours of the foot are on the left; mirrored, on the right.
  expect(chroma(colourAt(turned, 0.75, 0.25))).toBeGreaterThan(0.05);
  expect(chroma(colourAt(turned, 0.25, 0.25))).toBeLessThan(0.01);
  await saved(page);
  await page.getByRole('button', { name: /^Frame/ }).click();
  await panel.getByRole('button', { name: 'As photographed' }).click();
  await panel.getByRole('button', { name: 'Done' }).click();
  expect((await pictureOn(page)).data.equals(bare.data)).toBe(true);
});

test('neutral white is picked on the picture; advice speaks and is taken', async ({ page, app }) => {
  const cast = await tiff16(600, 400, (x, y) => {
    if (x < 150 && y < 200) return [0, 0, 0];
    const v = x / 599;
    return [Math.round(65535 * v), Math.round(65535 * v * 0.9), Math.round(65535 * v * 0.7)];
  });
  await openBench(page, app, [], cast);
  await add(page, 'Ground', 'White balance');
  await page.getByRole('button', { name: 'Pick neutral on the picture' }).click();
  const at = await pointAt(page, 0.6, 0.6);
  await page.mouse.click(at.x, at.y);
  await expect(page.getByRole('button', { name: 'Undo: White balance neutral' })).toBeVisible();
  expect(chroma(colourAt(await pictureOn(page), 0.6, 0.6))).toBeLessThan(0.012);
  // What is read under the pointer, which has not moved since, is of the picture as it is now.
  const reading = page.locator('[aria-label="Under the pointer"]');
  await expect(reading.locator('span').filter({ hasText: 'Chroma' }).locator('b')).toHaveText(/^[0-3]$/);

  await add(page, 'Mono', 'Mono');
  await add(page, 'Tone', 'Tint');
  await type(page, 'Saturation', '50');
  const advice = page.getByRole('complementary', { name: 'Advice' });
  await expect(advice).toContainText('solid black');
  const before = colourAt(await pictureOn(page), 0.1, 0.2)[0];
  await advice.getByRole('button', { name: 'Lift the black' }).click();
  await expect(page.locator('[data-tray]')).toHaveCount(4);
  expect(colourAt(await pictureOn(page), 0.1, 0.2)[0]).toBeGreaterThan(before + 12);
  await expect(advice).toBeHidden();
  // A step that does nothing here, waved away.
  await add(page, 'Tone', 'Saturation');
  await page.keyboard.press('Escape');
});

test('steps are named, copied and grouped; groups fold, switch and are named; twenty stay workable', async ({
  page,
  app,
}) => {
  const many = Array.from({ length: 14 }, () => ({ kind: 'curve' }));
  await openBench(page, app, [
    { kind: 'light' },
    { kind: 'mono' },
    ...many,
    { kind: 'tint', settings: { saturation: 0.6 } },
  ]);
  const trays = page.locator('[data-tray]');
  const more = () => page.getByRole('complementary').getByRole('button', { name: 'More', exact: true });
  await trays.last().click();
  await more().click();
  await page.getByRole('menuitem', { name: 'Name' }).click();
  await page.getByRole('textbox', { name: 'Name of this step' }).fill('Warm base');
  await page.keyboard.press('Enter');
  await expect(trays.last()).toContainText('Warm base');
  await trays.last().focus();
  await page.keyboard.press('Control+d');
  await page.keyboard.press('Control+d');
  await page.keyboard.press('Control+d');
  await expect(trays).toHaveCount(20);
  await expect(trays.last()).toContainText('Warm base');
  await trays.last().click();
  await more().click();
  await page.getByRole('menuitem', { name: 'Group with the one before' }).click();
  const group = page.getByRole('group', { name: 'Group 1, 2 steps' });
  await expect(group).toBeVisible();
  const toned = await pictureOn(page);
  await group.getByRole('button', { name: 'More for Group 1' }).click();
  await page.getByRole('menuitem', { name: 'Name' }).click();
  await page.getByRole('textbox', { name: 'Name of this group' }).fill('Evening');
  await page.keyboard.press('Enter');
  const evening = page.getByRole('group', { name: 'Evening, 2 steps' });
  await evening.getByRole('button', { name: 'Fold Evening' }).click();
  await expect(trays).toHaveCount(18);
  await evening.getByRole('button', { name: 'More for Evening' }).click();
  await page.getByRole('menuitem', { name: 'Switch off' }).click();
  await expect(evening).toContainText('Off');
  expect(chroma(colourAt(await pictureOn(page), 0.5, 0.25))).toBeLessThanOrEqual(
    chroma(colourAt(toned, 0.5, 0.25)) + 0.001,
  );
  await evening.getByRole('button', { name: 'Unfold Evening' }).click();
  await expect(trays).toHaveCount(20);
  await saved(page);
  // Every tray can be reached by keys, and comes into sight.
  await trays.first().focus();
  await press(page, 'ArrowRight', 19);
  await expect(trays.last()).toBeInViewport();
});

test('what is lost at the ends is counted, and marked on the picture by button and by key', async ({
  page,
  app,
}) => {
  const bare = await openBench(page, app, [{ kind: 'light', settings: { exposure: 1.2 } }]);
  const mark = page.getByRole('button', { name: /^Mark what is lost/ });
  await expect(mark).toHaveAccessibleName(/[1-9]\d*\.\d % white/);
  await mark.click();
  const marked = await pictureOn(page);
  const [r, g, b] = colourAt(marked, 0.98, 0.25);
  expect(r - b).toBeGreaterThan(150);
  expect(g).toBeLessThan(160);
  expect(colourAt(marked, 0.3, 0.25)).toEqual(colourAt(bare, 0.3, 0.25));
  await page.getByRole('group', { name: /^The picture\./ }).focus();
  await page.keyboard.press('m');
  expect((await pictureOn(page)).data.equals(bare.data)).toBe(true);
});

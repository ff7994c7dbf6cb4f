import { expect, test } from './app';
import { colourAt, pictureOn } from './picture';
import { chroma, openBench, saved } from './work';

/** The controls of single settings, by mouse and by keys, seen in the pixels. */

test('automatic response keeps apart what luminance makes one', async ({ page, app }) => {
  const plain = await openBench(page, app, [{ kind: 'mono', settings: { method: 'response' } }]);
  const gap = (shot: typeof plain) => Math.abs(colourAt(shot, 0.25, 0.75)[0] - colourAt(shot, 0.75, 0.75)[0]);
  expect(gap(plain)).toBeLessThan(10);
  await page.getByRole('button', { name: 'Automatic' }).click();
  await expect(page.getByRole('button', { name: 'Undo: Mono: automatic' })).toBeVisible();
  expect(gap(await pictureOn(page))).toBeGreaterThan(25);
});

test('a mix is tried while it is pointed at, and a reach limits the tones', async ({ page, app }) => {
  const toned = await openBench(page, app, [
    { kind: 'mono' },
    { kind: 'tint', settings: { saturation: 0.6 } },
  ]);
  const panel = page.getByRole('complementary', { name: 'Tint' });
  await panel.getByRole('button', { name: /Mix/ }).click();
  await page.getByRole('option', { name: 'Multiply' }).hover();
  await expect
    .poll(async () => colourAt(await pictureOn(page), 0.5, 0.2)[0])
    .toBeLessThan(colourAt(toned, 0.5, 0.2)[0] - 20);
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await pictureOn(page)).data.equals(toned.data)).toBe(true);
  // Pointed at and taken, it stays; undone, it is as before.
  await panel.getByRole('button', { name: /Mix/ }).click();
  await page.getByRole('option', { name: 'Multiply' }).hover();
  await page.getByRole('option', { name: 'Multiply' }).click();
  await expect(panel.getByRole('button', { name: /Mix/ })).toContainText('Multiply');
  await expect(page.getByRole('button', { name: 'Undo: Tint mix' })).toBeVisible();
  expect(colourAt(await pictureOn(page), 0.5, 0.2)[0]).toBeLessThan(colourAt(toned, 0.5, 0.2)[0] - 20);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await pictureOn(page)).data.equals(toned.data)).toBe(true);

  await panel.getByRole('button', { name: /^Reach/ }).click();
  const end = panel.getByRole('slider', { name: 'Tones beneath is whole to' });
  await end.focus();
  for (let i = 0; i < 6; i++) await page.keyboard.press('Shift+ArrowLeft');
  const limit = panel.getByRole('slider', { name: 'Tones beneath ends at' });
  await limit.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowLeft');
  const limited = await pictureOn(page);
  expect(chroma(colourAt(limited, 0.8, 0.2))).toBeLessThan(0.005);
  expect(chroma(colourAt(limited, 0.25, 0.2))).toBeGreaterThan(0.02);
  await panel.getByRole('button', { name: 'Reach all tones' }).click();
  expect((await pictureOn(page)).data.equals(toned.data)).toBe(true);
});

test('a colour table is brought in, carried by the take, and a broken one is named', async ({
  page,
  app,
}) => {
  const plain = await openBench(page, app, [{ kind: 'mono' }, { kind: 'colour-table' }]);
  const panel = page.getByRole('complementary', { name: 'Colour table' });
  const file = panel.getByLabel('Colour table file');
  await file.setInputFiles({
    name: 'broken.cube',
    mimeType: 'text/plain',
    buffer: Buffer.from('LUT_3D_SIZE 2\n1 2\n'),
  });
  await expect(page.getByText(/broken\.cube: line 2/)).toBeVisible();
  const warm = 'LUT_1D_SIZE 2\n0.1 0.05 0\n1 0.9 0.7\n';
  await file.setInputFiles({ name: 'amber.cube', mimeType: 'text/plain', buffer: Buffer.from(warm) });
  await expect(panel.getByRole('button', { name: 'amber', exact: true })).toBeVisible();
  const [r, , b] = colourAt(await pictureOn(page), 0.5, 0.2);
  expect(r).toBeGreaterThan(b + 30);
  await saved(page);
  await page.reload();
  expect(colourAt(await pictureOn(page), 0.5, 0.2)[0]).toBeCloseTo(r, 0);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await pictureOn(page)).data.equals(plain.data)).toBe(true);

  // It is kept for all photographs: tried while pointed at, taken, named, grouped, removed and brought back.
  const row = panel.getByRole('button', { name: 'amber', exact: true });
  await row.hover();
  await expect.poll(async () => colourAt(await pictureOn(page), 0.5, 0.2)[0]).toBeGreaterThan(b + 30);
  await panel.getByRole('button', { name: 'Bring in' }).hover();
  await expect.poll(async () => (await pictureOn(page)).data.equals(plain.data)).toBe(true);
  await row.click();
  await expect(page.getByRole('button', { name: 'Undo: Colour table amber' })).toBeVisible();
  expect(colourAt(await pictureOn(page), 0.5, 0.2)[0]).toBeCloseTo(r, 0);
  await panel.getByRole('button', { name: 'More for amber' }).click();
  await page.getByRole('menuitem', { name: 'Name' }).click();
  await page.getByRole('textbox', { name: 'Name of this table' }).fill('Lamp oil');
  await page.keyboard.press('Enter');
  await panel.getByRole('button', { name: 'More for Lamp oil' }).click();
  await page.getByRole('menuitem', { name: 'Put into a group' }).click();
  await page.getByRole('textbox', { name: 'Group of this table' }).fill('Evening');
  await page.keyboard.press('Enter');
  await expect(panel.getByRole('group', { name: 'Evening' })).toContainText('Lamp oil');
  await panel.getByRole('button', { name: 'More for Lamp oil' }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await expect(panel.getByRole('group', { name: 'Evening' })).toBeHidden();
  // The take carries it on.
  expect(colourAt(await pictureOn(page), 0.5, 0.2)[0]).toBeCloseTo(r, 0);
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).last().click();
  await expect(panel.getByRole('group', { name: 'Evening' })).toBeVisible();
});

test('all conversions side by side on the picture, one taken by mouse, another by keys', async ({
  page,
  app,
}) => {
  const luminance = await openBench(page, app, [{ kind: 'mono' }]);
  const gap = (shot: typeof luminance) =>
    Math.abs(colourAt(shot, 0.25, 0.75)[0] - colourAt(shot, 0.75, 0.75)[0]);
  await page.getByRole('button', { name: 'All conversions' }).click();
  const board = page.getByRole('region', { name: 'Choose a mono' });
  await expect(board.getByRole('button', { pressed: true })).toHaveText(/Luminance/);
  await board.getByRole('button', { name: /Response by hue auto/ }).click();
  await expect(board).toBeHidden();
  await expect(page.getByRole('button', { name: 'Undo: Mono: response by hue' })).toBeVisible();
  expect(gap(await pictureOn(page))).toBeGreaterThan(gap(luminance) + 20);

  await page.getByRole('button', { name: 'All conversions' }).click();
  const average = board.getByRole('button', { name: 'Average' });
  await average.focus();
  await expect(board.getByRole('heading', { name: 'Average' })).toBeVisible();
  await page.keyboard.press('Enter');
  const shown = await pictureOn(page);
  expect(colourAt(shown, 0.25, 0.75)[0]).toBeCloseTo(((0.75 + 0.36 + 0.36) / 3) * 255, -1);
  await page.getByRole('button', { name: 'All conversions' }).click();
  await page.keyboard.press('Escape');
  await expect(board).toBeHidden();
  expect((await pictureOn(page)).data.equals(shown.data)).toBe(true);
});

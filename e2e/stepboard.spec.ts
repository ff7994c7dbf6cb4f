import { expect, test } from './app';
import { colourAt, differs, pictureOn } from './picture';
import { chroma, drag, openBench, panelOf, pointAt, saved } from './work';

const board = (page: Parameters<typeof panelOf>[0]) => panelOf(page, 'Add a step');

test('what is pointed at shows in the print, and goes with the pointer; a press adds it, and its panel has the focus', async ({
  page,
  app,
}) => {
  const bare = await openBench(page, app);
  await page.getByRole('button', { name: 'Add a step to Tone' }).click();
  const find = board(page).getByRole('searchbox');
  await expect(find).toBeFocused();
  // The groups of the stage come first; every kind is there once by its own name.
  await expect(board(page).getByRole('region').first()).toHaveAttribute('aria-label', 'Toning baths');
  await expect(board(page).getByRole('button', { name: 'Grain', exact: true })).toHaveCount(1);
  const copper = board(page).getByRole('button', { name: 'Copper', exact: true });
  await expect(copper.locator('canvas[data-drawn]')).toBeVisible();
  await copper.hover();
  await expect(page.getByRole('status').filter({ hasText: 'Trying' })).toContainText('Copper');
  const shown = async () => colourAt(await pictureOn(page), 0.5, 0.25);
  await expect.poll(async () => chroma(await shown())).toBeGreaterThan(0.02);
  await page.getByRole('heading', { name: 'Add a step' }).hover();
  await expect.poll(async () => differs(await pictureOn(page), bare)).toBeLessThan(1);
  await expect(page.locator('[data-tray]')).toHaveCount(0);

  // By the keyboard: what is found is gone to, looked at, and added.
  // What is typed is typed: none of it is a key of the Bench.
  await find.focus();
  await page.keyboard.type('sepia, then gold');
  await expect(find).toHaveValue('sepia, then gold');
  await expect(board(page).locator('[data-card]')).toHaveCount(1);
  await find.fill('selen');
  await expect(board(page).locator('[data-card]')).toHaveCount(2);
  await find.press('ArrowDown');
  await expect(board(page).getByRole('button', { name: 'Selenium', exact: true })).toBeFocused();
  await expect(page.getByRole('status').filter({ hasText: 'Trying' })).toContainText('Selenium');
  const tried = await pictureOn(page);
  await page.keyboard.press('Enter');
  await expect(panelOf(page, 'Baths').getByRole('heading', { name: 'Baths', level: 2 })).toBeFocused();
  expect(differs(await pictureOn(page), tried)).toBeLessThan(2);
  await expect(page.getByRole('button', { name: 'Undo: Add selenium' })).toBeEnabled();
  await saved(page);

  // Left without a choice, the focus is where it came from.
  await page.getByRole('button', { name: 'Add a step to Finish' }).click();
  await page.keyboard.type('gr');
  await page.keyboard.press('Escape');
  await expect(find).toHaveValue('');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Add a step to Finish' })).toBeFocused();
  await expect(page.locator('[data-tray]')).toHaveCount(1);
});

test('a new wash colours nothing until it is painted, and the brush is in hand', async ({ page, app }) => {
  const bare = await openBench(page, app);
  await page.getByRole('button', { name: 'Add a step to Colour' }).click();
  await board(page).getByRole('searchbox').fill('hand tint');
  await page.keyboard.press('Enter');
  await expect(panelOf(page, 'Wash')).toBeVisible();
  expect(differs(await pictureOn(page), bare)).toBeLessThan(1);
  await drag(page, [0.4, 0.25], [0.6, 0.25]);
  const painted = await pictureOn(page);
  expect(chroma(colourAt(painted, 0.5, 0.25))).toBeGreaterThan(0.03);
  expect(chroma(colourAt(painted, 0.5, 0.05))).toBeLessThan(0.01);
});

test('any step here, but not there: one press, and a spot is painted out', async ({ page, app }) => {
  const light = { kind: 'light', id: 'l', stage: 'ground', settings: { exposure: 1 } };
  const lit = await openBench(page, app, [light]);
  await page.locator('[data-tray]').first().click();
  await page.getByRole('button', { name: 'Not here' }).click();
  await expect(page.getByRole('button', { name: 'Undo: Light not everywhere' })).toBeEnabled();
  expect(differs(await pictureOn(page), lit)).toBeLessThan(2);
  const at = await pointAt(page, 0.4, 0.25);
  await page.mouse.click(at.x, at.y);
  const spared = await pictureOn(page);
  expect(colourAt(spared, 0.4, 0.25)[0]).toBeLessThan(colourAt(lit, 0.4, 0.25)[0] - 30);
  expect(Math.abs(colourAt(spared, 0.8, 0.25)[0] - colourAt(lit, 0.8, 0.25)[0])).toBeLessThan(2);
});

import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { expect, test } from './app';
import { colourAt, differs, pictureOn } from './picture';
import { add, openBench, panelOf, pointAt, saved, type } from './work';

/** Tinting in one act, on the demo's photographs: strokes that find things, that spread, and that keep to edges. */

type Place = [number, number];

/** A hand that tints, and counts what it does. */
function hand(page: Page) {
  let actions = 0;
  return {
    actions: () => actions,
    take: async (name: string) => {
      actions++;
      await page.getByRole('group', { name: 'Pigments' }).getByRole('button', { name, exact: true }).click();
    },
    stroke: async (...places: Place[]) => {
      actions++;
      const [first, ...rest] = await Promise.all(places.map(([u, v]) => pointAt(page, u, v)));
      await page.mouse.move(first.x, first.y);
      await page.mouse.down();
      for (const to of rest) await page.mouse.move(to.x, to.y, { steps: 4 });
      await page.mouse.up();
    },
    press: async (name: string, role: 'button' | 'radio' = 'button') => {
      actions++;
      await page.getByRole(role, { name, exact: true }).first().click();
    },
  };
}

const hueOf = ([r, g, b]: readonly number[]) => ({ warm: r - b, green: g - (r + b) / 2 });

test('the keeper’s chair is recoloured by a few strokes that spread, in fewer than 40 actions', async ({
  page,
  app,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await openBench(page, app, [{ kind: 'mono' }], await readFile('demo/photographs/keepers-chair.jpg'));
  const bare = await pictureOn(page);
  const { take, stroke, press, actions } = hand(page);
  await press('Tint');
  await expect(panelOf(page, 'Tint')).toBeVisible();
  await page.getByText('Spreads', { exact: true }).click();
  const washes = page.getByRole('region', { name: 'Washes' }).getByRole('listitem');
  const lay = async (count: number, name: string, ...places: Place[]) => {
    await take(name);
    await stroke(...places);
    await expect(washes).toHaveCount(count);
  };
  await lay(1, 'Oxide', [0.4, 0.36], [0.48, 0.38], [0.4, 0.42], [0.48, 0.46], [0.42, 0.48]);
  await lay(2, 'Linen', [0.28, 0.575], [0.46, 0.575]);
  await lay(3, 'Iron', [0.68, 0.47], [0.78, 0.5], [0.68, 0.56], [0.78, 0.62], [0.7, 0.67]);
  await stroke([0.73, 0.06], [0.73, 0.34]);
  await lay(4, 'Water', [0.15, 0.1], [0.4, 0.15], [0.6, 0.1], [0.6, 0.3]);
  await stroke([0.88, 0.1], [0.9, 0.4]);
  await lay(5, 'Plank', [0.1, 0.75], [0.5, 0.8], [0.85, 0.92], [0.2, 0.9]);
  await saved(page);
  const shot = await pictureOn(page);
  expect(differs(shot, bare)).toBeGreaterThan(5);
  // The shawl red, the wall blue on both sides of the pipe, the floor brown.
  const shawl = hueOf(colourAt(shot, 0.44, 0.42));
  const [wall, other] = [hueOf(colourAt(shot, 0.3, 0.2)), hueOf(colourAt(shot, 0.87, 0.3))];
  expect(shawl.warm).toBeGreaterThan(25);
  expect(wall.warm).toBeLessThan(-8);
  expect(other.warm).toBeLessThan(-8);
  expect(hueOf(colourAt(shot, 0.5, 0.88)).warm).toBeGreaterThan(10);
  expect(actions()).toBeLessThan(40);
  // Another window begins with what was found here, and shows the same to the last bit; so does one that finds it anew.
  const shown = async (window: Page) => {
    await window.goto(page.url());
    const { data } = await pictureOn(window);
    await window.close();
    return data;
  };
  const known = await shown(await page.context().newPage());
  const alone = await page.context().newPage();
  await alone.route('**/found', route => route.abort());
  expect((await shown(alone)).equals(known)).toBe(true);
  // Strokes of one pigment, however quickly laid, are undone one by one.
  await stroke([0.2, 0.83], [0.4, 0.86]);
  await stroke([0.2, 0.86], [0.4, 0.89]);
  const undo = page.getByRole('button', { name: /^Undo: More plank/ });
  await expect(undo).toBeEnabled();
  await page.keyboard.press('Control+z');
  await expect(undo).toBeEnabled();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Undo: Tint with plank/ })).toBeEnabled();
  // Each is an ordinary wash: undone and done again one by one.
  await page.keyboard.press('Control+z');
  await expect(washes).toHaveCount(4);
  await page.keyboard.press('Control+Shift+z');
  await expect(washes).toHaveCount(5);
});

test('a press finds a thing and tints it; a press on it later chooses its wash; the rest and the inverse are one action', async ({
  page,
  app,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await openBench(
    page,
    app,
    [{ kind: 'mono' }],
    await readFile('demo/photographs/quinces-and-enamel-jug.jpg'),
  );
  const { take, stroke, press } = hand(page);
  await page.keyboard.press('w');
  const panel = panelOf(page, 'Tint');
  await expect(panel).toBeVisible();
  await take('Quince');
  // What would be found shows while the pointer rests, and is not kept.
  const rest = await pointAt(page, 0.2, 0.62);
  await page.mouse.move(rest.x, rest.y);
  const warmAt = async (u: number, v: number) => hueOf(colourAt(await pictureOn(page), u, v)).warm;
  await expect.poll(() => warmAt(0.2, 0.62)).toBeGreaterThan(20);
  const away = await pointAt(page, 0.5, 1.2);
  await page.mouse.move(away.x, away.y);
  await expect.poll(() => warmAt(0.2, 0.62)).toBeLessThan(2);
  await stroke([0.16, 0.6], [0.22, 0.6], [0.23, 0.66], [0.17, 0.67]);
  const washes = page.getByRole('region', { name: 'Washes' }).getByRole('listitem');
  await expect(washes).toHaveCount(1);
  await expect(washes.first()).toContainText('Quince');
  await take('Ferry blue');
  await stroke([0.6, 0.25], [0.6, 0.5], [0.64, 0.6]);
  await expect(washes).toHaveCount(2);
  await saved(page);
  // A press on the quince takes its wash up again.
  await stroke([0.2, 0.63]);
  await expect(washes.first().getByRole('button')).toHaveAttribute('aria-current', 'true');
  await expect(washes).toHaveCount(2);
  await take('Plank');
  await press('The rest');
  await expect(washes).toHaveCount(3);
  await expect(washes.last()).toContainText('The rest');
  const shot = await pictureOn(page);
  expect(hueOf(colourAt(shot, 0.2, 0.63)).warm).toBeGreaterThan(20);
  expect(hueOf(colourAt(shot, 0.1, 0.9)).warm).toBeGreaterThan(5);
  await press('Same again');
  await expect(washes).toHaveCount(4);
  await saved(page);
  // Two pigments and an area are changed afterwards, in the steps that these are.
  await washes.first().getByRole('button').click();
  await page.keyboard.press('w');
  const step = panelOf(page, 'Quince wash');
  await expect(step).toBeVisible();
  await step.getByRole('button', { name: 'Oxide', exact: true }).click();
  await saved(page);
  const greenAt = async () => hueOf(colourAt(await pictureOn(page), 0.2, 0.63)).green;
  await expect.poll(greenAt).toBeLessThan(hueOf(colourAt(shot, 0.2, 0.63)).green - 5);
});

test('the still life is recoloured by a dozen strokes, given an accent, a curve, a fringe and a vignette, and changed afterwards', async ({
  page,
  app,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  const file = await readFile('demo/photographs/quinces-and-enamel-jug.jpg');
  await openBench(page, app, [{ kind: 'mono' }], file);
  const bare = await pictureOn(page);
  const { take, stroke, press } = hand(page);
  await press('Tint');
  const panel = panelOf(page, 'Tint');
  await page.getByText('Spreads', { exact: true }).click();
  const washes = page.getByRole('region', { name: 'Washes' }).getByRole('listitem');
  // Nine strokes of five pigments.
  await take('Quince');
  await stroke([0.15, 0.61], [0.2, 0.58], [0.24, 0.62], [0.2, 0.68], [0.16, 0.65]);
  await expect(washes).toHaveCount(1);
  await stroke([0.1, 0.51], [0.08, 0.58], [0.1, 0.62]);
  await stroke([0.87, 0.65], [0.91, 0.64], [0.92, 0.7], [0.87, 0.71]);
  await take('Linen');
  await stroke([0.15, 0.78], [0.35, 0.74], [0.4, 0.85], [0.15, 0.93]);
  await expect(washes).toHaveCount(2);
  await take('Stone');
  await stroke([0.6, 0.2], [0.6, 0.5], [0.66, 0.6], [0.67, 0.3]);
  await stroke([0.475, 0.36], [0.46, 0.26], [0.49, 0.18]);
  await expect(washes).toHaveCount(3);
  await take('Water');
  await stroke([0.1, 0.1], [0.4, 0.2], [0.3, 0.4]);
  await stroke([0.9, 0.1], [0.85, 0.4]);
  await expect(washes).toHaveCount(4);
  await take('Plank');
  await stroke([0.65, 0.74], [0.95, 0.85]);
  await expect(washes).toHaveCount(5);
  await saved(page);
  const tinted = await pictureOn(page);
  expect(differs(tinted, bare)).toBeGreaterThan(4);
  const warm = (u: number, v: number, of = tinted) => hueOf(colourAt(of, u, v)).warm;
  expect(warm(0.2, 0.63)).toBeGreaterThan(25);
  expect(warm(0.89, 0.68)).toBeGreaterThan(25);
  expect(warm(0.3, 0.2)).toBeLessThan(-5);
  expect(warm(0.85, 0.8)).toBeGreaterThan(10);
  // An accent within the fruit: a second pigment on the same area, chosen from those that suit it.
  await washes.filter({ hasText: 'Quince' }).getByRole('button').click();
  await press('Same again');
  await expect(washes).toHaveCount(6);
  const suits = panel.getByRole('group', { name: /^Suits/ });
  await expect(suits).toBeVisible();
  const fruit = async () => String(colourAt(await pictureOn(page), 0.2, 0.63));
  const before = await fruit();
  const accent = suits.getByRole('button').filter({ hasNotText: 'Quince' }).first();
  await accent.hover();
  await expect.poll(fruit).not.toBe(before);
  const off = await pointAt(page, 0.5, 1.2);
  await page.mouse.move(off.x, off.y);
  await expect.poll(fruit).toBe(before);
  const name = (await accent.textContent())!;
  await accent.click();
  await expect(page.getByRole('button', { name: `Undo: Pigment ${name.toLowerCase()}` })).toBeEnabled();
  await page.keyboard.press('w');
  await expect(panelOf(page, /wash/)).toBeVisible();
  await type(page, 'Bleed', '0.5');
  await type(page, 'Strength', '40');
  // A little inside the edge it is decided what the colours at the edge become.
  const edges = async () => {
    const shot = await pictureOn(page);
    return String(Array.from({ length: 100 }, (_, i) => colourAt(shot, 0.79 + i / 500, 0.68)));
  };
  const plain = await edges();
  await type(page, 'Area fringe', '0.4');
  await expect.poll(edges).not.toBe(plain);
  await saved(page);
  // A curve for the cloth alone, and a vignette.
  await add(page, 'Finish', 'Curve');
  const curve = panelOf(page, 'Curve');
  await curve.getByText('Linen', { exact: true }).first().click();
  await curve.getByRole('slider', { name: 'Point 1 of 2' }).focus();
  await page.keyboard.press('Shift+ArrowUp');
  await saved(page);
  await add(page, 'Finish', 'Vignette');
  await type(page, 'Amount', '-40');
  await saved(page);
  const finished = await pictureOn(page);
  const lightness = (of: typeof finished, u: number, v: number) => colourAt(of, u, v)[1];
  expect(lightness(finished, 0.02, 0.02)).toBeLessThan(lightness(tinted, 0.02, 0.02));
  expect(warm(0.2, 0.63, finished)).toBeGreaterThan(25);
  // Two pigments and one area are changed afterwards; all else stays.
  await page.locator('[data-tray]', { hasText: 'Water' }).first().click();
  await panelOf(page, 'Water wash').getByRole('button', { name: 'Dusk', exact: true }).click();
  await page.locator('[data-tray]', { hasText: 'Plank' }).first().click();
  await panelOf(page, 'Plank wash').getByRole('button', { name: 'Iron', exact: true }).click();
  await type(page, 'Area grow', '0.2');
  await saved(page);
  const changed = await pictureOn(page);
  expect(warm(0.3, 0.2, changed)).toBeGreaterThan(warm(0.3, 0.2, finished) + 5);
  expect(warm(0.85, 0.8, changed)).toBeLessThan(warm(0.85, 0.8, finished) - 5);
  expect(Math.abs(warm(0.2, 0.63, changed) - warm(0.2, 0.63, finished))).toBeLessThan(4);
});

test('a colour is taken from another photograph of the series, and one that the series uses again', async ({
  page,
  app,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await openBench(page, app, [{ kind: 'mono' }]);
  await page.keyboard.press('w');
  const panel = panelOf(page, 'Tint');
  await panel.getByRole('button', { name: 'A colour from a photograph of the series' }).click();
  const dialog = page.getByRole('dialog', { name: 'A colour from a photograph' });
  const reading = dialog.getByRole('application');
  await reading.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowLeft');
  const said = /#[0-9a-f]{6}/;
  await expect(reading).toHaveAccessibleName(said);
  const [colour] = said.exec((await reading.getAttribute('aria-label'))!)!;
  await page.keyboard.press('Enter');
  await expect(dialog).toBeHidden();
  await expect(panel.getByRole('button', { name: 'In the hand' })).toBeVisible();
  const { stroke } = hand(page);
  await stroke([0.3, 0.3], [0.4, 0.4]);
  await expect(page.getByRole('region', { name: 'Washes' }).getByRole('listitem')).toHaveCount(1);
  await saved(page);
  await panel.getByRole('button', { name: /Pigment box/ }).click();
  await page.getByRole('menuitem', { name: 'This series' }).click();
  const used = panel.getByRole('group', { name: 'Pigments of this series' }).getByRole('button');
  await expect(used).toHaveCount(1);
  await expect(used).toHaveAttribute('title', /; in one photograph$/);
  expect(await used.locator('i').evaluate(e => getComputedStyle(e).backgroundColor)).toBe(
    `rgb(${[1, 3, 5].map(k => parseInt(colour.slice(k, k + 2), 16)).join(', ')})`,
  );
});

test('the area finder mends what it found, and the brush keeps to edges', async ({ page, app }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  const file = await readFile('demo/photographs/quinces-and-enamel-jug.jpg');
  const masks = [{ id: 'm', name: 'Fruit', parts: [] }];
  const wash = { kind: 'wash', mask: 'm', settings: { pigment: { kind: 'flat', colour: '#c02020' } } };
  await openBench(page, app, [{ kind: 'mono' }, wash], file, masks);
  const bare = await pictureOn(page);
  const { stroke } = hand(page);
  await page.locator('[data-tray]').last().click();
  await page.getByRole('button', { name: 'Finder', exact: true }).click();
  await stroke([0.86, 0.64], [0.9, 0.62], [0.92, 0.7], [0.87, 0.73]);
  await expect(page.getByText('Found by one stroke')).toBeVisible();
  await expect.poll(async () => hueOf(colourAt(await pictureOn(page), 0.89, 0.68)).warm).toBeGreaterThan(30);
  // Around it, with what takes away: nothing beyond.
  await page.getByRole('button', { name: '− Take away' }).click();
  await stroke(
    [0.8, 0.6],
    [0.8, 0.74],
    [0.86, 0.81],
    [0.96, 0.78],
    [0.975, 0.64],
    [0.9, 0.55],
    [0.81, 0.585],
  );
  await expect(page.getByText('Found by two strokes')).toBeVisible();
  const found = await pictureOn(page);
  expect(
    Math.abs(hueOf(colourAt(found, 0.99, 0.65)).warm - hueOf(colourAt(bare, 0.99, 0.65)).warm),
  ).toBeLessThan(4);
  await page.getByRole('button', { name: '+ Add' }).click();
  await page.getByRole('button', { name: 'Keep edges', exact: true }).click();
  // Along the rim of the jug, half beyond it.
  await stroke([0.56, 0.3], [0.555, 0.45], [0.54, 0.55]);
  await saved(page);
  const kept = await pictureOn(page);
  expect(hueOf(colourAt(kept, 0.56, 0.4)).warm).toBeGreaterThan(20);
  await expect(page.getByText('Found by two strokes')).toBeVisible();
});

import type { Page } from '@playwright/test';
import { expect, test } from './app';
import { colourAt, pictureOn } from './picture';
import { choose, openBench, pointAt, saved, type } from './work';

const light = { kind: 'light', id: 'l', stage: 'ground', settings: { exposure: 0.5 } };

const strip = (page: Page) => page.getByRole('listbox', { name: /^Test strip/ });
const hung = (page: Page) => expect(page.locator('[data-test-strip=done]')).toBeVisible();
const words = async (page: Page) =>
  (await strip(page).getByRole('option').allTextContents()).map(t => t.replace(' EV', '')).join(' ');

/** What the strip shows at a place of the picture, and which band lies there. */
async function stripAt(page: Page, u: number, v: number): Promise<number[]> {
  const at = await pointAt(page, u, v);
  return page.locator('[data-test-strip] canvas').evaluate((e: HTMLCanvasElement, { x, y }) => {
    const box = e.getBoundingClientRect();
    const place = [Math.floor(x - box.left), Math.floor(y - box.top)] as const;
    return [...e.getContext('2d')!.getImageData(...place, 1, 1).data].slice(0, 3);
  }, at);
}

test('bands of another value each are what that value gives, and none is taken until it is', async ({
  page,
  app,
}) => {
  await openBench(page, app, [light]);
  await page.locator('[data-tray]').first().click();
  const undone = await page.getByRole('button', { name: /^Undo/ }).getAttribute('aria-label');
  await page.getByRole('slider', { name: 'Exposure' }).focus();
  await page.keyboard.press('t');
  await hung(page);
  const values = (await words(page)).replace('Keep ', '').split(' ');
  expect(values).toHaveLength(7);
  expect(await words(page)).toContain('Keep +0.50');
  expect(await page.getByRole('button', { name: /^Undo/ }).getAttribute('aria-label')).toBe(undone);
  const places = values.map((_, i) => [(i + 0.5) / 7, i % 2 ? 0.2 : 0.8] as const);
  const seen = [];
  for (const [u, v] of places) seen.push(await stripAt(page, u, v));
  // It is set between what and in how many it hangs.
  await page.getByRole('textbox', { name: 'Exposure to, number' }).fill('1.5');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'How many of Exposure, number' }).fill('3');
  await page.keyboard.press('Enter');
  await expect(strip(page).getByRole('option')).toHaveCount(3);
  await page.keyboard.press('Escape');
  await expect(strip(page)).toHaveCount(0);
  for (const i of [0, 2, 5]) {
    await type(page, 'Exposure', values[i]);
    const shot = await pictureOn(page);
    const [u, v] = places[i];
    const there = colourAt(shot, u, v, 0);
    for (let k = 0; k < 3; k++) expect(Math.abs(there[k] - seen[i][k])).toBeLessThanOrEqual(3);
  }
});

test('a band is taken by arrows and Enter or by a press, as one change with a name', async ({
  page,
  app,
}) => {
  await openBench(page, app, [light]);
  await page.locator('[data-tray]').first().click();
  const exposure = page.getByRole('textbox', { name: 'Exposure, number' });
  await page.getByRole('slider', { name: 'Exposure' }).focus();
  await page.keyboard.press('t');
  await hung(page);
  await expect(strip(page)).toBeFocused();
  await page.keyboard.press('ArrowRight');
  const chosen = await strip(page).locator('[data-pointed]').textContent();
  await page.keyboard.press('Enter');
  await expect(strip(page)).toHaveCount(0);
  await expect(exposure).toHaveValue(chosen!.replace(' EV', ''));
  await saved(page);
  await page.getByRole('button', { name: `Undo: Light exposure ${chosen}` }).click();
  await expect(exposure).toHaveValue('+0.50');

  // By the menu of the step, and by a press; the one that is set changes nothing.
  await page.getByRole('button', { name: 'Test strip', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Contrast', exact: true }).click();
  await hung(page);
  const first = await strip(page).getByRole('option').first().textContent();
  const at = await pointAt(page, 0.05, 0.5);
  await page.mouse.move(at.x, at.y);
  await page.mouse.click(at.x, at.y);
  await expect(page.getByRole('textbox', { name: 'Contrast, number' })).toHaveValue(first!);
  await page.getByRole('slider', { name: 'Contrast' }).focus();
  await page.keyboard.press('t');
  await hung(page);
  await page.keyboard.press('Enter');
  await expect(strip(page)).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^Undo: Light contrast/ })).toBeEnabled();
});

test('a second control makes a grid, choices hang as well, and the wheel goes on moving the picture', async ({
  page,
  app,
}) => {
  await openBench(page, app, [light]);
  await page.locator('[data-tray]').first().click();
  await page.getByRole('slider', { name: 'Exposure' }).focus();
  await page.keyboard.press('t');
  await hung(page);
  await page.getByRole('slider', { name: 'Contrast' }).focus();
  await page.keyboard.press('t');
  await expect(strip(page).getByRole('option')).toHaveCount(15);
  await hung(page);
  const low = await stripAt(page, 0.3, 0.1);
  const high = await stripAt(page, 0.95, 0.1);
  expect(high[0]).toBeGreaterThan(low[0]);
  const now = strip(page).locator('[data-now]');
  await expect(now).toHaveCount(1);
  await expect(now).toContainText('Keep +0.50');
  const before = (await page.locator('[data-print]').boundingBox())!;
  const at = await pointAt(page, 0.5, 0.5);
  await page.mouse.move(at.x, at.y);
  await page.mouse.wheel(0, -500);
  await expect
    .poll(async () => (await page.locator('[data-print]').boundingBox())!.width)
    .toBeGreaterThan(before.width);
  await hung(page);
  await page.getByRole('button', { name: 'Put away' }).click();
  await page.keyboard.press('f');

  await page.getByRole('button', { name: 'Test strip', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Mix', exact: true }).click();
  await hung(page);
  expect(await words(page)).toContain('Keep Normal');
  const bands = await strip(page).getByRole('option').count();
  expect(bands).toBeGreaterThan(12);
  // A multiplied band is what the mix gives.
  const place = (await strip(page).getByRole('option', { name: 'Multiply' }).boundingBox())!;
  const print = (await page.locator('[data-print]').boundingBox())!;
  const [u, v] = [
    (place.x + place.width / 2 - print.x - 7) / (print.width - 14),
    (place.y + place.height / 3 - print.y - 7) / (print.height - 14),
  ];
  const seen = await stripAt(page, u, v);
  await page.keyboard.press('Escape');
  await choose(page, /Mix$/, 'Multiply');
  const there = colourAt(await pictureOn(page), u, v, 0);
  for (let k = 0; k < 3; k++) expect(Math.abs(there[k] - seen[k])).toBeLessThanOrEqual(3);
});

test('numbers of an area and the strength of the whole hang as well', async ({ page, app }) => {
  const area = {
    id: 'm1',
    name: 'Left',
    parts: [{ kind: 'linear', op: 'add', from: [0.3, 0.5], to: [0.5, 0.5] }],
  };
  await openBench(page, app, [{ ...light, mask: 'm1', settings: { exposure: 2 } }], undefined, [area]);
  await page.locator('[data-tray]').first().click();
  await page.getByRole('slider', { name: 'Area grow' }).focus();
  await page.keyboard.press('t');
  await hung(page);
  expect(await words(page)).toContain('Keep');
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Undo: Area grow/ })).toBeEnabled();
  await page.getByRole('slider', { name: 'Strength of the whole treatment' }).focus();
  await page.keyboard.press('t');
  await hung(page);
  const [weak, whole] = [await stripAt(page, 0.05, 0.25), await stripAt(page, 0.97, 0.25)];
  expect(weak).not.toEqual(whole);
  await page.keyboard.press('Home');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: /^Strength of the whole treatment/ })).toHaveValue('40');
});

test('a finger takes the band that it presses, whatever was pointed at before; parts of an area hang as well', async ({
  page,
  app,
}) => {
  const oval = { kind: 'oval', centre: [0.5, 0.5], radii: [0.3, 0.3], feather: 0.5 };
  await openBench(page, app, [{ ...light, mask: 'm' }], undefined, [{ id: 'm', parts: [oval] }]);
  await page.locator('[data-tray]').first().click();
  await page.getByRole('slider', { name: 'Exposure' }).focus();
  await page.keyboard.press('t');
  await hung(page);
  const bands = await strip(page).getByRole('option').allTextContents();
  // The mouse rests on the first; the finger presses the last without having moved there.
  const first = await pointAt(page, 0.05, 0.5);
  await page.mouse.move(first.x, first.y);
  const last = await pointAt(page, 0.95, 0.5);
  const finger = await page.context().newCDPSession(page);
  const touchPoints = [{ ...last, id: 0 }];
  await finger.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints });
  await finger.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await expect(strip(page)).toHaveCount(0);
  const taken = bands.at(-1)!.replace(' EV', '');
  await expect(page.getByRole('textbox', { name: 'Exposure, number' })).toHaveValue(taken);

  // The softness of the oval, by the sign in the head.
  await page.getByRole('button', { name: 'Test strip', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Area softness', exact: true }).click();
  await hung(page);
  await strip(page).focus();
  await page.keyboard.press('ArrowRight');
  const chosen = await strip(page).locator('[data-pointed]').textContent();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: `Undo: Area softness ${chosen}` })).toBeEnabled();
});

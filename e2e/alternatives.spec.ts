import type { Page } from '@playwright/test';
import { expect, test } from './app';
import { differs, pictureOn } from './picture';
import { choose, openBench, panelOf, saved } from './work';

const light = { kind: 'light', id: 'l', stage: 'ground', settings: { exposure: 0.5 } };
const mono = (method: string) => ({ kind: 'mono', id: 'm', stage: 'mono', settings: { method } });
const tint = { kind: 'tint', id: 't', stage: 'tone', settings: { hue: 40, saturation: 0.3 } };

const trays = (page: Page) => page.locator('[data-tray]');
const chips = (page: Page) => page.getByRole('group', { name: 'Alternatives in this tray' });

test('two conversions over one light lie in one tray, and one key switches them', async ({ page, app }) => {
  const averaged = await openBench(page, app, [light, mono('average'), tint]);
  const plain = await openBench(page, app, [light, mono('luminance'), tint]);
  expect(differs(plain, averaged)).toBeGreaterThan(4);
  await trays(page).filter({ hasText: 'Mono' }).click();
  // No alternative yet: the key says what there is to do.
  await page.keyboard.press('e');
  await expect(page.getByText('Its menu adds an alternative')).toBeVisible();
  await panelOf(page, 'Mono').getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Add an alternative' }).click();
  const board = panelOf(page, 'Add a step');
  await expect(board.getByRole('heading', { name: 'Add an alternative' })).toBeVisible();
  // The menu has let the focus go: what is typed is looked for, and none of it is a command.
  await expect(board.getByRole('searchbox')).toBeFocused();
  await page.keyboard.type('m');
  await expect(board.getByRole('searchbox')).toHaveValue('m');
  await page.keyboard.press('Escape');
  // What it would be shows in the place of the one that is there.
  await board.getByRole('button', { name: 'Old plate', exact: true }).hover();
  await expect(page.getByRole('status').filter({ hasText: 'Trying' })).toContainText('adds it beside Mono');
  await expect.poll(async () => differs(await pictureOn(page), plain)).toBeGreaterThan(4);
  await board.getByRole('searchbox').fill('the same');
  await page.keyboard.press('Enter');
  await expect(panelOf(page, 'Mono').getByRole('heading', { name: 'Mono', level: 2 })).toBeFocused();
  expect(differs(await pictureOn(page), plain)).toBeLessThan(1);
  await choose(page, /Method/, 'Average');
  expect(differs(await pictureOn(page), averaged)).toBeLessThan(1);
  await expect(trays(page)).toHaveCount(3);
  await expect(chips(page).getByRole('button')).toHaveText(['Luminance', 'Average', '']);

  await page.keyboard.press('e');
  await expect(chips(page).getByRole('button', { name: 'Luminance' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  expect(differs(await pictureOn(page), plain)).toBeLessThan(1);
  await page.keyboard.press('Shift+E');
  expect(differs(await pictureOn(page), averaged)).toBeLessThan(1);
  await page.getByRole('button', { name: 'Average, alternative 2 of 2: the next one' }).click();
  expect(differs(await pictureOn(page), plain)).toBeLessThan(1);
  // The other one is looked at without being taken.
  await chips(page).getByRole('button', { name: 'Average' }).hover();
  await expect(page.getByRole('status').filter({ hasText: 'Trying' })).toContainText('Average');
  await expect.poll(async () => differs(await pictureOn(page), averaged)).toBeLessThan(1);
  await page.getByRole('heading', { name: 'Mono', level: 2 }).hover();
  await expect.poll(async () => differs(await pictureOn(page), plain)).toBeLessThan(1);

  // By keys alone: a chip that is pressed keeps the focus, and so does a control that both have.
  const average = chips(page).getByRole('button', { name: 'Average' });
  await average.focus();
  await page.keyboard.press('Enter');
  await expect(average).toHaveAttribute('aria-pressed', 'true');
  await expect(average).toBeFocused();
  const strength = page.getByRole('slider', { name: 'Strength', exact: true });
  await strength.focus();
  await page.keyboard.press('e');
  await expect(chips(page).getByRole('button', { name: 'Luminance' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await expect(strength).toBeFocused();

  // Undone, the panel is that of the one at work; it is as it was after a reload.
  await page.keyboard.press('Control+z');
  await expect(chips(page).getByRole('button', { name: 'Average' })).toHaveAttribute('aria-pressed', 'true');
  await expect(panelOf(page, 'Mono').getByRole('button', { name: /^Average Method/ })).toBeVisible();
  await saved(page);
  await page.reload();
  expect(differs(await pictureOn(page), averaged)).toBeLessThan(1);
  await expect(trays(page)).toHaveCount(3);
});

test('a tray of alternatives is gone along, moved, lit and emptied as one', async ({ page, app }) => {
  const lying = (id: string, method: string, aside: boolean) => ({
    ...mono(method),
    id,
    alternative: { tray: 'a1', aside },
  });
  const shown = await openBench(page, app, [
    light,
    lying('x', 'luminance', true),
    lying('y', 'average', false),
    tint,
  ]);
  await expect(trays(page)).toHaveCount(3);
  const order = () => trays(page).evaluateAll(all => all.map(e => e.getAttribute('data-tray')).join(' '));
  expect(await order()).toBe('l y t');
  await trays(page).first().click();
  await trays(page).first().press('ArrowRight');
  await expect(trays(page).nth(1)).toBeFocused();
  await trays(page).nth(1).press('ArrowRight');
  await expect(trays(page).nth(2)).toBeFocused();

  const lamp = page.getByRole('slider', { name: /^Lamp/ });
  await expect(lamp).toHaveAttribute('aria-valuemax', '3');
  await lamp.press('ArrowLeft');
  await expect(lamp).toHaveAttribute('aria-valuetext', 'After Mono');
  await lamp.press('ArrowLeft');
  await expect(lamp).toHaveAttribute('aria-valuetext', 'After Light');
  await lamp.press('End');
  expect(differs(await pictureOn(page), shown)).toBeLessThan(1);

  // It goes into the stage before, whole, and beyond the light.
  await trays(page).nth(1).click();
  await trays(page).nth(1).press('Alt+ArrowLeft');
  await expect(page.getByRole('group', { name: 'Ground' }).locator('[data-holds="x y"]')).toBeFocused();
  await trays(page).nth(1).press('Alt+ArrowLeft');
  await expect.poll(order).toBe('y l t');
  // Quick moves of one tray are one change.
  await page.keyboard.press('Control+z');
  await expect.poll(order).toBe('l y t');

  // Whoever is taken away leaves its place to the other.
  await trays(page).nth(1).press('Delete');
  await expect.poll(order).toBe('l x t');
  await expect(trays(page).nth(1)).toBeFocused();
  await expect(page.locator('[data-turn]')).toHaveCount(0);
  const plain = await pictureOn(page);
  expect(differs(plain, shown)).toBeGreaterThan(4);
  await page.keyboard.press('Control+z');
  await expect.poll(order).toBe('l y t');
  await panelOf(page, 'Mono').getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Lay its alternatives out' }).click();
  await expect.poll(order).toBe('l x y t');
  expect(differs(await pictureOn(page), shown)).toBeLessThan(1);
});

import { expect, type Page } from '@playwright/test';
import { test } from './app';
import { chart, openBench, panelOf } from './work';

/** What a control does: a sentence and small pictures, on pointing at its name, on `?`, on touch. */

const card = (page: Page) => page.locator('[data-told]');
const name = (page: Page, of: string) => page.locator(`aside [data-tells="${of}"]`);

/** The small pictures of the card, by their colours. */
const shown = (page: Page) =>
  card(page)
    .locator('canvas')
    .evaluateAll((all: HTMLCanvasElement[]) =>
      all.map(c => Array.from(c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data)),
    );

const split = {
  id: 'one',
  kind: 'split-tone',
  settings: { shadows: { hue: 230, saturation: 0.5 }, highlights: { hue: 40, saturation: 0.4 } },
};

test('pointing at a name shows a sentence and three pictures that differ, and leaving it ends that', async ({
  page,
  app,
}) => {
  await openBench(page, app, [{ id: 'mono', kind: 'mono' }, split], await chart());
  await expect(panelOf(page, 'Split tone')).toBeVisible();
  await name(page, 'Shadows saturation').hover();
  await expect(card(page)).toContainText('How much of that hue the shadows take.');
  await expect(card(page)).toContainText('Now 50');
  await expect(card(page).locator('canvas[data-drawn]')).toHaveCount(3);
  const pictures = await shown(page);
  const apart = (a: number[], b: number[]) => a.reduce((sum, v, i) => sum + Math.abs(v - b[i]), 0) / a.length;
  expect(apart(pictures[0], pictures[1])).toBeGreaterThan(0.5);
  expect(apart(pictures[1], pictures[2])).toBeGreaterThan(0.5);
  await page.mouse.move(400, 300);
  await expect(card(page)).toHaveCount(0);
});

test('? on a control asks about it, again or Escape ends it; elsewhere it lists the keys', async ({
  page,
  app,
}) => {
  await openBench(page, app, [{ id: 'mono', kind: 'mono' }, split], await chart());
  const hue = panelOf(page, 'Split tone').getByRole('slider', { name: 'Shadows hue' });
  await hue.focus();
  await page.keyboard.press('?');
  await expect(card(page)).toHaveAttribute('data-told', 'Shadows hue');
  await expect(page.getByRole('status').filter({ hasText: 'The hue of the shadows' })).toBeVisible();
  await page.keyboard.press('?');
  await expect(card(page)).toHaveCount(0);
  await page.keyboard.press('?');
  await expect(card(page)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(card(page)).toHaveCount(0);
  await expect(hue).toBeFocused();
  // In the number as well: it is not written there.
  const number = page.getByRole('textbox', { name: 'Balance, number' });
  await number.focus();
  const before = await number.inputValue();
  await page.keyboard.press('?');
  await expect(card(page)).toHaveAttribute('data-told', 'Balance');
  expect(await number.inputValue()).toBe(before);
  // A choice tells of the one that is taken.
  await panelOf(page, 'Split tone').getByRole('button', { name: /Mix$/ }).focus();
  await page.keyboard.press('?');
  await expect(card(page)).toContainText('Normal: It covers what is beneath.');
  await page.locator('[data-stage-of-picture]').focus();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeVisible();
});

test('words of the trade are told where the pointer rests on them, and listed in the help', async ({
  page,
  app,
}) => {
  await openBench(page, app, [{ id: 'mono', kind: 'mono' }], await chart());
  await page.locator('[data-word="Ground"]').hover();
  await expect(page.getByRole('tooltip')).toContainText('The first stage, in colour');
  await page.mouse.move(500, 300);
  await expect(page.locator('[data-word-told]')).toHaveCount(0);
  await page.getByRole('button', { name: /^Help/ }).click();
  await page.getByRole('dialog').getByText('Words', { exact: true }).click();
  await expect(page.getByRole('region', { name: 'All words' })).toContainText('Test strip');
  await expect(page.getByRole('region', { name: 'All words' })).toContainText(
    'each with another value of one control',
  );
});

test.describe('by touch', () => {
  test.use({ hasTouch: true });
  test('a tap on the name shows it, a tap elsewhere ends it', async ({ page, app }) => {
    await openBench(page, app, [{ id: 'mono', kind: 'mono' }, split], await chart());
    await name(page, 'Crossover').tap();
    await expect(card(page)).toContainText('How gently one hue gives way');
    await panelOf(page, 'Split tone').getByRole('heading', { name: 'Split tone' }).tap();
    await expect(card(page)).toHaveCount(0);
  });
});

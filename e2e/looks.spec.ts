import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { png8 } from '../server/testing/pictures';
import type { App } from '../server/testing/running';
import { expect, test } from './app';
import { colourAt, pictureOn, settled } from './picture';

/** Looks and copied treatments, from one photograph to others. */

const step = (kind: string, settings: object = {}, more: object = {}) => ({ kind, settings, ...more });
const treatmentOf = (steps: object[], more: object = {}) => ({
  format: 'lampwash-treatment',
  version: 1,
  steps,
  ...more,
});

/** A series of so many even grey photographs, the first treated. */
async function seriesOf(app: App, count: number, steps: object[], more: object = {}) {
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'Looks' });
  const photographs: { id: string; currentTakeId: string }[] = [];
  for (let i = 0; i < count; i++) {
    const file = await png8(300, 200, () => [150, 150, 150 + i]);
    photographs.push(await app.bringIn(series.id, file, `grey-${i}.png`));
  }
  const treatment = treatmentOf(steps, more);
  await app.api('PUT', `/api/takes/${photographs[0].currentTakeId}/treatment`, { revision: 1, treatment });
  return photographs;
}
const open = async (page: Page, app: App, { id }: { id: string }) => {
  await page.goto(`${app.url}/photographs/${id}`);
  await settled(page);
};
const trays = (page: Page) => page.locator('[data-tray]');
const names = (page: Page) => trays(page).locator('.name span:first-child').allTextContents();
const board = (page: Page) => page.getByRole('complementary', { name: 'Looks' });
const look = (page: Page, name: string) => board(page).locator(`[data-card="${name}"]`);

test('a lone vignette is kept as a look, and laid on a third photograph at half strength', async ({
  page,
  app,
}) => {
  const dark = step('vignette', { amount: -0.8, feather: 0.5 });
  const photographs = await seriesOf(app, 3, [step('light', { exposure: 0.5 }), dark]);
  await open(page, app, photographs[0]);
  await page.keyboard.press('l');
  await board(page).getByRole('button', { name: 'More for looks' }).click();
  await page.getByRole('menuitem', { name: 'Keep this treatment as a look' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Dark edges');
  await page.getByRole('checkbox', { name: 'Light' }).uncheck();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(look(page, 'Dark edges')).toBeVisible();

  await open(page, app, photographs[2]);
  const bare = colourAt(await pictureOn(page), 0.02, 0.02)[0];
  await page.keyboard.press('l');
  await board(page).getByRole('searchbox').fill('dark ed');
  await expect(board(page).locator('[data-card]')).toHaveCount(1);

  // Seen in the print while it is pointed at, and gone when it is left.
  await look(page, 'Dark edges').hover();
  await expect(page.getByRole('status').filter({ hasText: 'Trying' })).toContainText('Dark edges');
  await expect.poll(async () => colourAt(await pictureOn(page), 0.02, 0.02)[0]).toBeLessThan(bare - 25);
  const full = colourAt(await pictureOn(page), 0.02, 0.02)[0];
  await board(page).getByRole('heading', { name: 'Looks', exact: true }).hover();
  await expect.poll(async () => colourAt(await pictureOn(page), 0.02, 0.02)[0]).toBe(bare);
  expect(await names(page)).toEqual([]);

  const strength = board(page).getByRole('textbox', { name: /Strength of the look/ });
  await strength.fill('50');
  await strength.press('Enter');
  await look(page, 'Dark edges').focus();
  await page.keyboard.press('Enter');
  await expect.poll(() => names(page)).toEqual(['Vignette']);
  await expect(page.getByRole('textbox', { name: 'Strength, number' })).toHaveValue('50');
  await settled(page);
  const half = colourAt(await pictureOn(page), 0.02, 0.02)[0];
  expect(half).toBeGreaterThan(full + 8);
  expect(half).toBeLessThan(bare - 8);
  // One undo for all of it.
  await page.keyboard.press('Control+z');
  await expect.poll(() => names(page)).toEqual([]);
});

test('a look of several steps is a group that stays open; files of looks go out and come in', async ({
  page,
  app,
}) => {
  const [, photograph] = await seriesOf(app, 2, [step('mono')]);
  await open(page, app, photograph);
  await page.keyboard.press('l');
  await look(page, 'Harbour cold').scrollIntoViewIfNeeded();
  await look(page, 'Harbour cold').click();
  await expect.poll(() => names(page)).toEqual(['Mono', 'Split tone', 'Vignette']);
  await expect(page.getByRole('group', { name: /^Harbour cold, / }).first()).toBeVisible();
  await trays(page).nth(1).click();
  await expect(page.getByRole('slider', { name: 'Shadows saturation' })).toBeVisible();

  await page.getByRole('button', { name: 'More for Harbour cold' }).first().click();
  await page.getByRole('menuitem', { name: 'Copy, to lay on elsewhere' }).click();
  await expect(page.getByText('2 steps are copied.')).toBeVisible();

  // Wrong files are named, a right one is taken in.
  await page.keyboard.press('l');
  const give = (name: string, content: unknown) =>
    page.getByLabel('File of looks').setInputFiles({
      name,
      mimeType: 'application/json',
      buffer: Buffer.from(typeof content === 'string' ? content : JSON.stringify(content)),
    });
  await give('broken.look.json', '{');
  await expect(page.getByText('broken.look.json: not JSON')).toBeVisible();
  const file = (of: object) => ({ format: 'lampwash-look', version: 1, looks: [of] });
  await give('odd.look.json', file({ name: 'Odd', treatment: treatmentOf([step('magic')]) }));
  await expect(page.getByText(/looks\[0\]\.treatment\.steps\[0\].*unknown step kind/)).toBeVisible();
  await give(
    'salt.look.json',
    file({ name: 'Salt air', group: 'Coast', treatment: treatmentOf([step('tint')]) }),
  );
  await expect(look(page, 'Salt air')).toBeVisible();
  const download = page.waitForEvent('download');
  await board(page).getByRole('button', { name: 'More for looks' }).click();
  await page.getByRole('menuitem', { name: 'Save my looks as a file' }).click();
  const written = JSON.parse(readFileSync(await (await download).path(), 'utf8')) as {
    looks: { name: string }[];
  };
  expect(written.looks.map(l => l.name)).toContain('Salt air');

  // Regrouped, put aside, brought back.
  await board(page).getByRole('button', { name: 'More for Salt air' }).click();
  await page.getByRole('menuitem', { name: 'Name and group' }).click();
  await page.getByRole('combobox', { name: 'Group' }).fill('Harbour');
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(
    board(page).getByRole('region', { name: 'Harbour' }).locator('[data-card="Salt air"]'),
  ).toBeVisible();
  await board(page).getByRole('button', { name: 'More for Salt air' }).click();
  await page.getByRole('menuitem', { name: 'Put aside' }).click();
  await expect(look(page, 'Salt air')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await expect(look(page, 'Salt air')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(board(page)).toHaveCount(0);
});

test('a range of trays is copied and laid on another photograph; painted areas stay behind unless ticked', async ({
  page,
  app,
}) => {
  const stroke = {
    points: [
      [0.2, 0.2, 1],
      [0.8, 0.8, 1],
    ],
    radius: 0.1,
    hardness: 0.5,
    flow: 1,
  };
  const masks = [{ id: 'm', name: 'Hull', parts: [{ kind: 'brush', strokes: [stroke] }] }];
  const pigment = { kind: 'flat', colour: '#a03020' };
  const steps = [
    step('mono'),
    step('tint', { saturation: 0.5 }),
    step('wash', { pigment }, { mask: 'm' }),
    step('grain', { amount: 0.2 }),
  ];
  const photographs = await seriesOf(app, 2, steps, { masks });
  await open(page, app, photographs[0]);
  await trays(page).nth(0).click();
  await trays(page)
    .nth(2)
    .click({ modifiers: ['Shift'] });
  await expect(page.locator('[data-picked]')).toHaveCount(3);
  await page.keyboard.press('Control+c');
  await expect(page.getByText('3 steps are copied.')).toBeVisible();

  await page.getByRole('navigation', { name: 'Neighbouring photographs' }).getByRole('link').nth(1).click();
  await expect(page).toHaveURL(new RegExp(photographs[1].id));
  await settled(page);
  await page.keyboard.press('Control+v');
  const dialog = page.getByRole('dialog', { name: 'Lay on what was copied' });
  await expect(dialog).toContainText('2 steps: Mono, Tint. 1 on painted areas stays behind.');
  await dialog.getByRole('button', { name: 'Lay on' }).click();
  await expect.poll(() => names(page)).toEqual(['Mono', 'Tint']);

  await page.keyboard.press('Control+v');
  await dialog.getByRole('radio', { name: 'In their place' }).click();
  await dialog.getByRole('checkbox', { name: /With painted areas/ }).check();
  await dialog.getByRole('button', { name: 'Lay on' }).click();
  await expect.poll(() => names(page)).toEqual(['Mono', 'Tint', 'Wash']);
  await settled(page);
  const [r, g, b] = colourAt(await pictureOn(page), 0.5, 0.5);
  expect(r - (g + b) / 2).toBeGreaterThan(15);
});

test('the last treatment is carried over by one key, and adjusted', async ({ page, app }) => {
  const photographs = await seriesOf(app, 3, [step('mono'), step('tint', { hue: 30, saturation: 0.6 })]);
  // The one before it is bare: that before serves.
  await open(page, app, photographs[2]);
  await page.keyboard.press('c');
  await expect.poll(() => names(page)).toEqual(['Mono', 'Tint']);
  await expect(page.getByText(/The treatment of .+ is carried over/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(() => names(page)).toEqual([]);
});

test('what is no treatment is refused by name', async ({ page, app, context }) => {
  const [photograph] = await seriesOf(app, 1, [step('mono')]);
  await open(page, app, photograph);
  await context.grantPermissions(['clipboard-read', 'clipboard-write'], { origin: app.url });
  await page.evaluate(() => navigator.clipboard.writeText('{"format":"lampwash-treatment","version":9}'));
  await page.keyboard.press('Control+v');
  await expect(page.getByText(/What is on the clipboard is not a treatment: version/)).toBeVisible();
  await page.evaluate(() => navigator.clipboard.writeText('some words'));
  await page.keyboard.press('Control+v');
  await expect(page.getByText('On the clipboard is no treatment.')).toBeVisible();
  // In a box of numbers the clipboard is that of the box.
  await page.evaluate(() => navigator.clipboard.writeText('42'));
  const strength = page.getByRole('textbox', { name: 'Strength, number' });
  await strength.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+v');
  await page.keyboard.press('Enter');
  await expect(strength).toHaveValue('42');
  expect(await names(page)).toEqual(['Mono']);
});

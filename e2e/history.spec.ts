import type { Page } from '@playwright/test';
import { expect, test } from './app';
import { colourAt, differs, pictureOn } from './picture';
import { openBench, panelOf, saved, type } from './work';

const light = { kind: 'light', id: 'l', stage: 'ground', settings: { exposure: 0.5 } };
const history = (page: Page) => panelOf(page, 'History');
const entries = async (page: Page) => history(page).locator('[data-state]').allTextContents();

/** Exposure by steps, each an entry of its own. */
async function lighten(page: Page, values: readonly string[]) {
  await page.locator('[data-tray]').first().click();
  for (const value of values) {
    await type(page, 'Exposure', value);
    await saved(page);
  }
}

test('the history tells what each change did, is looked at, gone along, and kept over a reload', async ({
  page,
  app,
}) => {
  await openBench(page, app, [light]);
  await lighten(page, ['1.00', '-1.00', '0.20']);
  const now = await pictureOn(page);
  await page.keyboard.press('y');
  await expect(history(page)).toBeVisible();
  expect((await entries(page)).slice(0, 3)).toEqual([
    'Light exposure -1.00 EV → +0.20 EV',
    'Light exposure +1.00 EV → -1.00 EV',
    'Light exposure +0.50 EV → +1.00 EV',
  ]);
  // Looked at while pointed at, and let go of again.
  const dark = history(page).getByRole('button', { name: /^Light exposure \+1\.00/ });
  await dark.hover();
  await expect
    .poll(async () => colourAt(await pictureOn(page), 0.6, 0.25)[0])
    .toBeLessThan(colourAt(now, 0.6, 0.25)[0] - 20);
  await page.getByRole('heading', { name: 'History' }).hover();
  await expect.poll(async () => differs(await pictureOn(page), now)).toBeLessThan(1);

  // Two back at once; what lies ahead stays, and is there behind a reload.
  await history(page)
    .getByRole('button', { name: /^Light exposure \+0\.50/ })
    .click();
  await expect(history(page).locator('[aria-current]')).toHaveText('Light exposure +0.50 EV → +1.00 EV');
  await saved(page);
  const back = await pictureOn(page);
  await page.reload();
  await expect.poll(async () => differs(await pictureOn(page), back)).toBeLessThan(2);
  await page.keyboard.press('y');
  await expect(history(page).locator('[aria-current]')).toHaveText('Light exposure +0.50 EV → +1.00 EV');
  expect(await entries(page)).toHaveLength(5);
  await page.keyboard.press('Control+Shift+z');
  await expect(history(page).locator('[aria-current]')).toHaveText(/-1\.00 EV$/);

  // A take is made of a state, and the state stands beside the picture.
  await history(page)
    .getByRole('button', { name: /^More for Light exposure -1\.00/ })
    .click();
  await page.getByRole('menuitem', { name: 'Compare with it' }).click();
  await expect(page.getByRole('button', { name: /^First picture: After Light exposure/ })).toBeVisible();
  await history(page)
    .getByRole('button', { name: /^More for Light exposure -1\.00/ })
    .click();
  await page.getByRole('menuitem', { name: 'Make a take of it' }).click();
  await expect(page.getByRole('button', { name: 'Take B' })).toHaveAttribute('aria-current', 'true');
  await page.locator('[data-tray]').first().click();
  await expect(page.getByRole('textbox', { name: 'Exposure, number' })).toHaveValue('+0.20');
});

import type { Page } from '@playwright/test';
import { png8 } from '../server/testing/pictures';
import type { App } from '../server/testing/running';
import { expect, test } from './app';
import { settled } from './picture';

/** A look that a series shares: laid on, changed at one photograph, followed by the others. */

interface Photo {
  id: string;
  currentTakeId: string;
}
interface Step {
  kind: string;
  settings: Record<string, unknown>;
}
const open = async (page: Page, app: App, { id }: Photo) => {
  await page.goto(`${app.url}/photographs/${id}`);
  await settled(page);
};
const board = (page: Page) => page.getByRole('complementary', { name: 'Looks' });
const held = (page: Page) => page.getByRole('note', { name: 'Held by Dusk brown' });
const saved = (page: Page) => expect(page.getByText('Saved', { exact: true })).toBeVisible();

/** A series of three grey photographs, the first toned. */
async function seriesOf(app: App) {
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'Shared' });
  const photographs: Photo[] = [];
  for (let i = 0; i < 3; i++) {
    const file = await png8(300, 200, () => [150, 150, 150 + i]);
    photographs.push(await app.bringIn(series.id, file, `grey-${i}.png`));
  }
  const steps = [{ kind: 'tint', settings: { hue: 40, saturation: 0.4 } }, { kind: 'vignette' }];
  const treatment = { format: 'lampwash-treatment', version: 1, steps };
  await app.api('PUT', `/api/takes/${photographs[0].currentTakeId}/treatment`, { revision: 1, treatment });
  return { seriesId: series.id, photographs };
}
const settingsIn = async (app: App, { currentTakeId }: Photo) => {
  const take = await app.api<{ treatment: { steps: Step[] } }>('GET', `/api/takes/${currentTakeId}`);
  return Object.fromEntries(take.treatment.steps.map(s => [s.kind, s.settings]));
};
const hue = async (app: App, of: Photo) => (await settingsIn(app, of)).tint?.hue;
async function type(page: Page, name: string | RegExp, value: string) {
  const box = page.getByRole('textbox', { name });
  await box.fill(value);
  await box.press('Enter');
}

/** Shares the treatment at hand as a look, on the board that is left open. */
async function share(page: Page) {
  await page.keyboard.press('l');
  await board(page).getByRole('button', { name: 'More for looks' }).click();
  await page.getByRole('menuitem', { name: 'Share this treatment in the series' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Dusk brown');
  await page.getByRole('button', { name: 'Keep it' }).click();
}

test('is changed at one photograph, followed by the others, each keeping what it changed itself', async ({
  page,
  app,
}) => {
  const { photographs } = await seriesOf(app);
  const [first, second, third] = photographs;
  await open(page, app, first);
  await share(page);
  await expect(board(page).locator('[data-card="Dusk brown"]')).toContainText('2 steps, 1 use it');

  for (const photograph of [second, third]) {
    await open(page, app, photograph);
    await page.keyboard.press('l');
    await board(page).locator('[data-card="Dusk brown"]').click();
    await saved(page);
  }
  // The third has a hue of its own from here on.
  await page.locator('[data-tray]').first().click();
  await expect(held(page)).toContainText('What you change here stays here.');
  await type(page, /^Hue/, '200');
  await expect(held(page)).toContainText('Changed here: hue.');
  await saved(page);

  await open(page, app, first);
  await page.locator('[data-tray]').first().click();
  await type(page, /^Hue/, '20');
  await type(page, /^Saturation/, '60');
  await expect(held(page)).toContainText('Changed here: hue and saturation.');
  await held(page).getByRole('button', { name: 'Change it for all' }).click();
  const told = page.getByText('Dusk brown is changed. Two other takes followed.');
  await expect(told).toBeVisible();
  await expect(held(page)).toContainText('What you change here stays here.');
  await expect.poll(() => hue(app, first)).toBe(20);
  expect([await hue(app, second), await hue(app, third)]).toEqual([20, 200]);
  const saturation = async (of: Photo) => (await settingsIn(app, of)).tint.saturation;
  expect([await saturation(second), await saturation(third)]).toEqual([0.6, 0.6]);

  // One undo takes it back everywhere, and what was changed here is as it was before.
  await page.locator('div').filter({ has: told }).last().getByRole('button', { name: 'Undo' }).click();
  await expect(held(page)).toContainText('Changed here: hue and saturation.');
  await expect.poll(() => hue(app, second)).toBe(40);
  expect(await hue(app, third)).toBe(200);
  await expect.poll(() => hue(app, first)).toBe(20);
});

test('is taken as it is shared, followed again after an undo, and let go of', async ({ page, app }) => {
  const { seriesId, photographs } = await seriesOf(app);
  const [first] = photographs;
  await open(page, app, first);
  await share(page);
  await page.locator('[data-tray]').first().click();
  await type(page, /^Hue/, '90');
  await held(page).getByRole('button', { name: 'More for Dusk brown' }).click();
  await page.getByRole('menuitem', { name: 'As it is shared' }).click();
  await expect(page.getByRole('textbox', { name: /^Hue/ })).toHaveValue('40°');
  await saved(page);

  // Changed from elsewhere, and taken back here alone.
  const [look] = await app.api<{ id: string; revision: number; treatment: { steps: Step[] } }[]>(
    'GET',
    `/api/series/${seriesId}/looks`,
  );
  look.treatment.steps[0].settings.hue = 75;
  await app.api('PUT', `/api/shared-looks/${look.id}`, { revision: 1, treatment: look.treatment });
  await expect.poll(() => hue(app, first)).toBe(75);
  await open(page, app, first);
  await page.keyboard.press('Control+z');
  await page.locator('[data-tray]').first().click();
  await expect(held(page)).toContainText('As it was before it was changed.');
  await held(page).getByRole('button', { name: 'Follow it' }).click();
  await expect(page.getByRole('textbox', { name: /^Hue/ })).toHaveValue('75°');
  await held(page).getByRole('button', { name: 'More for Dusk brown' }).click();
  await page.getByRole('menuitem', { name: 'Let go of Dusk brown here' }).click();
  await expect(held(page)).toHaveCount(0);
  await page.keyboard.press('l');
  await expect(board(page).locator('[data-card="Dusk brown"]')).toContainText('0 use it');
});

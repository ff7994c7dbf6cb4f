import { expect, type Page } from '@playwright/test';
import type { App } from '../server/testing/running';
import { test } from './app';
import { colourAt, pictureOn } from './picture';
import { chart, chroma, saved } from './work';

/** The first hour: from an empty shelf to a first print, alone or with the tour; the demo taken off and laid out again. */

const tour = (page: Page) => page.getByRole('region', { name: 'Tour' });
const at = (page: Page, title: string) =>
  expect(tour(page).getByRole('heading', { name: title })).toBeVisible();

async function emptyShelf(page: Page, app: App) {
  await page.goto(app.url);
  await expect(page.getByRole('heading', { name: 'An empty shelf' })).toBeVisible();
}

test('from the empty shelf to a toned print that is sent out, in eight actions at most', async ({
  page,
  empty: app,
}) => {
  await emptyShelf(page, app);
  let actions = 0;
  const chooser = page.waitForEvent('filechooser');
  actions++;
  await page.getByRole('button', { name: 'Choose files' }).click();
  actions++;
  await (await chooser).setFiles({ name: 'harbour.tif', mimeType: 'image/tiff', buffer: await chart() });
  const print = page.getByRole('row').first();
  await expect(print).toContainText('harbour', { ignoreCase: true });
  actions++;
  await print.dblclick();
  await pictureOn(page);
  actions++;
  await page.getByRole('button', { name: /^Darkroom toned/ }).click();
  await saved(page);
  expect(chroma(colourAt(await pictureOn(page), 0.85, 0.2))).toBeGreaterThan(0.01);
  actions++;
  await page.getByRole('button', { name: 'Send out', exact: true }).click();
  actions++;
  await page.locator('[data-tour=send]').click();
  await expect(page.getByRole('link', { name: /\.jpg/ }).or(page.getByText(/\.jpg/)).first()).toBeVisible();
  expect(actions).toBeLessThanOrEqual(8);
});

test('the tour is the work itself: it follows what is done, is left by Escape and taken up again', async ({
  page,
  empty: app,
}) => {
  await emptyShelf(page, app);
  await page.getByRole('button', { name: 'Take the tour' }).click();
  await at(page, 'Bring in a photograph');
  await tour(page).getByRole('button', { name: 'Bring in ours' }).click();
  await at(page, 'Open it');
  await page.getByRole('row').first().dblclick();
  await at(page, 'To black and white');
  const bare = await pictureOn(page);
  expect(chroma(colourAt(bare, 0.2, 0.65))).toBeGreaterThan(0.02);
  await page.getByRole('button', { name: /^Black and white/ }).click();
  await at(page, 'Tone it');
  expect(chroma(colourAt(await pictureOn(page), 0.2, 0.65))).toBeLessThan(0.005);

  await page.keyboard.press('Escape');
  await expect(tour(page)).toHaveCount(0);
  // Another visit: the help goes on with it.
  await page.reload();
  await pictureOn(page);
  await page.getByRole('button', { name: /^Help/ }).click();
  await page.getByRole('button', { name: 'Go on with the tour' }).click();
  await at(page, 'Tone it');
  await page.getByRole('button', { name: 'Add a step to Tone' }).click();
  await page.getByRole('button', { name: 'Sepia', exact: true }).click();
  await at(page, 'Tint one thing');
  await page.getByRole('button', { name: 'Tint', exact: true }).click();
  const box = (await page.locator('[data-stage-of-picture]').boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.22, box.y + box.height * 0.57);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.25, box.y + box.height * 0.6, { steps: 6 });
  await page.mouse.up();
  await at(page, 'Look at both');
  await page.keyboard.press('w');
  await page.getByRole('button', { name: 'Half and half' }).click();
  await at(page, 'Send it out');
  await page.getByRole('button', { name: 'Half and half' }).click();
  await page.locator('[data-tour=send-out]').click();
  await at(page, 'Write the file');
  await page.locator('[data-tour=send]').click();
  await at(page, 'That is the whole way');
  await tour(page).getByRole('button', { name: 'Done' }).click();
  await expect(tour(page)).toHaveCount(0);
  // What was made is ordinary work.
  const [series] = await app.api<{ title: string; photographs: number; treated: number }[]>(
    'GET',
    '/api/series',
  );
  expect(series).toMatchObject({ title: 'First print', photographs: 1, treated: 1 });
});

test('an empty series says what comes next', async ({ page, app }) => {
  const { id } = await app.api<{ id: string }>('POST', '/api/series', { title: 'Sluice gates' });
  await page.goto(`${app.url}/series/${id}`);
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: /Lay photographs down here/ }).click();
  await (await chooser).setFiles({ name: 'gulls.tif', mimeType: 'image/tiff', buffer: await chart() });
  await expect(page.getByRole('row')).toHaveCount(1);
  await expect(page.getByRole('button', { name: /Lay photographs down here/ })).toHaveCount(0);
});

test('the demo is laid out from the menu, taken off, and brought back by undo', async ({
  page,
  empty: app,
}) => {
  test.setTimeout(240_000);
  await emptyShelf(page, app);
  await page.getByRole('button', { name: 'Lay out the demo' }).click();
  const ferry = page.getByRole('article', { name: 'Saltmarsh Ferry' });
  await expect(ferry).toBeVisible({ timeout: 120_000 });
  const more = page.getByRole('button', { name: 'More for the shelf' });
  await more.click();
  await page.getByRole('menuitem', { name: 'Take the demo off' }).click();
  await expect(ferry).toHaveCount(0);
  await expect(page.getByRole('heading', { name: 'An empty shelf' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(ferry).toBeVisible();
  await more.click();
  await page.getByRole('menuitem', { name: 'Take the demo off' }).click();
  await expect(ferry).toHaveCount(0);
  await more.click();
  await expect(page.getByRole('menuitem', { name: 'Lay out the demo' })).toBeVisible();
});

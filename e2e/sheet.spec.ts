import type { Page } from '@playwright/test';
import { png8 } from '../server/testing/pictures';
import { expect, test } from './app';
import type { App } from '../server/testing/running';

async function seriesOf(app: App, count: number, title = 'In order') {
  const series = await app.api<{ id: string }>('POST', '/api/series', { title });
  for (let i = 0; i < count; i++) {
    await app.bringIn(
      series.id,
      await png8(120, 80, () => [40 * i, 100, 200 - 30 * i]),
      `print ${'abcdef'[i]}.png`,
    );
  }
  return series.id;
}
const order = async (page: Page) =>
  (await page.getByRole('row').locator('b').allTextContents()).map(t => t.replace(/^\d+Print /, '')).join('');

test('prints are ordered by drag and by keys, and stay so', async ({ page, app }) => {
  const id = await seriesOf(app, 4);
  await page.goto(`${app.url}/series/${id}`);
  await expect.poll(() => order(page)).toBe('abcd');
  const rows = page.getByRole('row');
  const first = (await rows.nth(0).boundingBox())!;
  const from = (await rows.nth(3).boundingBox())!;
  await page.mouse.move(from.x + 50, from.y + 50);
  await page.mouse.down();
  await page.mouse.move(from.x + 20, from.y + 55, { steps: 4 });
  await page.mouse.move(first.x + 12, first.y + 50, { steps: 8 });
  await page.waitForTimeout(200);
  await page.mouse.up();
  await expect.poll(() => order(page)).toBe('dabc');

  await rows.nth(0).focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('row', { name: 'Print a' })).toBeFocused();
  await page.getByRole('button', { name: 'Move Print d' }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect.poll(() => order(page)).not.toBe('dabc');
  const after = await order(page);
  await page.reload();
  await expect.poll(() => order(page)).toBe(after);
});

test('ranges are taken with Shift, taken out and put back', async ({ page, app }) => {
  const id = await seriesOf(app, 5);
  await page.goto(`${app.url}/series/${id}`);
  await page.getByRole('row', { name: 'Print b' }).click();
  await page.getByRole('row', { name: 'Print d' }).click({ modifiers: ['Shift'] });
  await expect(page.getByText('3 selected')).toBeVisible();
  await page.getByRole('button', { name: 'More for the selected' }).click();
  await page.getByRole('menuitem', { name: 'Take out of the series' }).click();
  await expect.poll(() => order(page)).toBe('ae');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => order(page)).toBe('abcde');
});

test('thumbnails come in three sizes, and the size is kept', async ({ page, app }) => {
  const id = await seriesOf(app, 2);
  await page.goto(`${app.url}/series/${id}`);
  const width = async () => (await page.getByRole('row').first().boundingBox())!.width;
  const widths: number[] = [];
  for (const size of ['Small', 'Medium', 'Large']) {
    await page.getByRole('radio', { name: size }).click();
    widths.push(await width());
  }
  expect(widths[0]).toBeLessThan(widths[1]);
  expect(widths[1]).toBeLessThan(widths[2]);
  await page.reload();
  expect(await width()).toBe(widths[2]);
  await page.getByRole('radio', { name: 'Medium' }).click();
});

test('title and caption change where they stand; a print opens by Enter', async ({ page, app }) => {
  const id = await seriesOf(app, 1);
  await page.goto(`${app.url}/series/${id}`);
  await page.getByLabel('Title of the series').fill('Neap tide');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Neap tide' })).toBeVisible();
  await page.getByLabel('Caption').fill('Two days of still water.');
  await page.getByLabel('Caption').blur();
  await expect
    .poll(async () => (await app.api<{ caption: string }>('GET', `/api/series/${id}`)).caption)
    .toBe('Two days of still water.');
  await page.getByRole('row').first().focus();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/photographs/);
});

test('files laid down on the shelf begin a series; a series leaves the shelf and returns', async ({
  page,
  app,
}) => {
  await page.goto(app.url);
  await expect(page.getByText('Lay photographs down here')).toBeVisible();
  const bytes = Array.from(await png8(60, 40, () => [90, 80, 70]));
  await page.evaluate(data => {
    const transfer = new DataTransfer();
    transfer.items.add(new File([new Uint8Array(data)], 'laid-down.png', { type: 'image/png' }));
    for (const type of ['dragenter', 'dragover', 'drop']) {
      window.dispatchEvent(new DragEvent(type, { dataTransfer: transfer, bubbles: true, cancelable: true }));
    }
  }, bytes);
  await expect(page).toHaveURL(/series/);
  await expect(page.getByRole('row', { name: 'Laid down' })).toBeVisible();
  await page.getByLabel('Title of the series').fill('Laid down here');
  const named = page.waitForResponse(r => r.request().method() === 'PATCH');
  await page.keyboard.press('Enter');
  await named;
  await page.goto(app.url);
  await page.getByRole('button', { name: 'More for Laid down here' }).click();
  await page.getByRole('menuitem', { name: 'Take off the shelf' }).click();
  await expect(page.getByRole('article', { name: 'Laid down here' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('article', { name: 'Laid down here' })).toBeVisible();
});

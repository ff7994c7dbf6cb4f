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
const choose = async (page: Page, what: 'Show' | 'Order', option: string) => {
  await page.getByRole('button', { name: what }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
};

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
  // A right click opens what may be done: with all that are selected, or with that print alone.
  await page.getByRole('row', { name: 'Print a' }).click({ button: 'right' });
  await expect(page.getByRole('menuitem', { name: 'Make it the cover' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('1 selected')).toBeVisible();
  await page.getByRole('row', { name: 'Print b' }).click();
  await page.getByRole('row', { name: 'Print d' }).click({ modifiers: ['Shift'] });
  await page.getByRole('row', { name: 'Print c' }).click({ button: 'right' });
  await expect(page.getByText('3 selected')).toBeVisible();
  await page.getByRole('menuitem', { name: 'Put aside' }).click();
  await expect.poll(() => order(page)).toBe('ae');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
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
  // What was brought back so is taken off again by the key.
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByRole('article', { name: 'Laid down here' })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('article', { name: 'Laid down here' })).toBeVisible();
  // By keys as well, and done again; a right click opens the same menu.
  await page.getByRole('article', { name: 'Laid down here' }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Take off the shelf' }).click();
  for (const [keys, count] of [
    ['Control+z', 1],
    ['Control+Shift+z', 0],
    ['Control+z', 1],
  ] as const) {
    await expect(page.getByRole('article', { name: 'Laid down here' })).toHaveCount(1 - count);
    await page.keyboard.press(keys);
    await expect(page.getByRole('article', { name: 'Laid down here' })).toHaveCount(count);
  }
});

test('all that is done on the sheet is undone and done again, step by step', async ({ page, app }) => {
  const id = await seriesOf(app, 4);
  await page.goto(`${app.url}/series/${id}`);
  await expect.poll(() => order(page)).toBe('abcd');
  const title = page.getByLabel('Title of the photograph');
  const cover = async () => (await app.api<{ coverId: string | null }>('GET', `/api/series/${id}`)).coverId;

  await page.getByRole('row', { name: 'Print b' }).click();
  await page.getByLabel('Caption of the photograph').fill('The north bank.');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Take the selected one' }).click();
  await expect.poll(cover).not.toBeNull();
  await page.getByRole('row', { name: 'Print c' }).focus();
  await page.keyboard.press('Space');
  await page.keyboard.press('Delete');
  await expect.poll(() => order(page)).toBe('abd');
  await expect(page.getByRole('button', { name: /^Undo: Put Print c aside/ })).toBeVisible();

  // Quickly, one after another.
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect.poll(() => order(page)).toBe('abcd');
  await expect.poll(cover).toBeNull();
  await page.getByRole('row', { name: 'Print b' }).click();
  await expect(title).toHaveValue('Print b');
  await expect(page.getByLabel('Caption of the photograph')).toHaveValue('');
  await expect(page.getByRole('banner').getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => order(page)).toBe('abd');
  await expect.poll(cover).not.toBeNull();
  await page.reload();
  await expect.poll(() => order(page)).toBe('abd');
});

test('prints are looked at by name and by what was done to them, and hung so when that is wanted', async ({
  page,
  app,
}) => {
  const id = await seriesOf(app, 4);
  const all = (
    await app.api<{ photographs: { id: string; currentTakeId: string }[] }>('GET', `/api/series/${id}`)
  ).photographs;
  await app.api('PUT', `/api/series/${id}/order`, {
    photographs: [all[2], all[0], all[3], all[1]].map(p => p.id),
  });
  const treatment = { format: 'lampwash-treatment', version: 1, steps: [{ kind: 'mono' }] };
  await app.api('PUT', `/api/takes/${all[3].currentTakeId}/treatment`, { revision: 1, treatment });
  await page.goto(`${app.url}/series/${id}`);
  await expect.poll(() => order(page)).toBe('cadb');
  await choose(page, 'Order', 'By name');
  await expect.poll(() => order(page)).toBe('abcd');
  // They keep the numbers that they hang under, and hang as before.
  expect(await page.getByRole('row').locator('b i').allTextContents()).toEqual(['2', '4', '1', '3']);
  await page.reload();
  await expect.poll(() => order(page)).toBe('cadb');
  await choose(page, 'Show', 'Bare');
  await expect.poll(() => order(page)).toBe('cab');
  await expect(page.getByText('Three photographs of 4. They hang as before.')).toBeVisible();
  await page.getByRole('button', { name: 'Select all' }).click();
  await expect(page.getByText('3 selected')).toBeVisible();
  await page.getByRole('button', { name: 'Select none' }).click();
  await choose(page, 'Order', 'By name');
  await expect.poll(() => order(page)).toBe('abc');
  await page.getByRole('button', { name: 'Hang them so' }).click();
  await choose(page, 'Show', 'All');
  await expect.poll(() => order(page)).toBe('abcd');
  await page.keyboard.press('Control+z');
  await expect.poll(() => order(page)).toBe('cadb');
  await choose(page, 'Show', 'Damaged');
  await expect(page.getByText('Nothing here is so.')).toBeVisible();
});

test('a long series shows what is in sight, in its shapes, and goes on as it is scrolled', async ({
  page,
  app,
}) => {
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'Long' });
  for (let i = 0; i < 80; i++) {
    const [width, height] = i % 2 ? [60, 90] : [90, 60];
    await app.bringIn(series.id, await png8(width, height, () => [i, 90, 200 - i]), `print-${i + 1}.png`);
  }
  // Pictures do not come: their places have the right shapes all the same.
  await page.route(/picture/, () => new Promise(() => undefined));
  await page.goto(`${app.url}/series/${series.id}`);
  const rows = page.getByRole('row');
  await expect(rows.first()).toBeVisible();
  expect(await rows.count()).toBeLessThan(45);
  const shape = async (name: string) => {
    const box = (await page.getByRole('row', { name, exact: true }).locator('.sheet').boundingBox())!;
    return box.width / box.height;
  };
  expect(await shape('Print 1')).toBeCloseTo(1.5, 1);
  expect(await shape('Print 2')).toBeCloseTo(2 / 3, 1);
  await rows.first().focus();
  await page.keyboard.press('End');
  await expect(page.getByRole('row', { name: 'Print 80', exact: true })).toBeVisible();
  await expect(page.getByRole('row', { name: 'Print 1', exact: true })).toHaveCount(0);
  await page.keyboard.press('Control+a');
  await expect(page.getByText('80 selected', { exact: true })).toBeVisible();
});

test('the cover is chosen on the Bench as well', async ({ page, app }) => {
  const id = await seriesOf(app, 2);
  const series = () =>
    app.api<{ coverId: string | null; photographs: { id: string }[] }>('GET', `/api/series/${id}`);
  const second = (await series()).photographs[1].id;
  await page.goto(`${app.url}/photographs/${second}`);
  await page.getByRole('button', { name: 'Details of this photograph' }).click();
  await page.getByRole('button', { name: 'Make it the cover' }).click();
  await expect(page.getByRole('button', { name: 'Cover of the series' })).toBeDisabled();
  expect((await series()).coverId).toBe(second);
});

test('a shelf with many series finds one, counts at once, and has the last touched first', async ({
  page,
  app,
}) => {
  for (let i = 0; i < 9; i++) await app.api('POST', '/api/series', { title: `Estuary ${i + 1}` });
  const id = await seriesOf(app, 2, 'Winter quay');
  await page.goto(app.url);
  await page.getByLabel('Find a series').fill('wint');
  await expect(page.getByRole('article')).toHaveCount(1);
  await page.getByRole('link', { name: 'Winter quay', exact: true }).click();
  await page.getByRole('row', { name: 'Print a' }).click();
  await page.keyboard.press('Delete');
  await expect.poll(() => order(page)).toBe('b');
  await page.getByRole('link', { name: 'All series' }).click();
  const first = page.getByRole('article').first();
  await expect(first).toBeVisible();
  await expect(first.getByRole('heading')).toHaveText('Winter quay');
  await expect(first.locator('dd').first()).toHaveText('1');
  expect(id).toBeTruthy();
});

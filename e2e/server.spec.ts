import sharp from 'sharp';
import { png8 } from '../server/testing/pictures';
import { expect, test } from './app';
import { settled } from './picture';
import { add, openBench, saved } from './work';

/** What the interface says of the server: that it is away, that a file is damaged or known, what lies put aside. */

/** The page complained of answers that were meant to be bad, and of nothing else. */
function onlyAnswers(faults: string[]): void {
  expect(faults.filter(fault => !/status of (409|503|500)/.test(fault))).toEqual([]);
  faults.length = 0;
}

test.describe('the database goes away and comes back', () => {
  test('the Bench says so, keeps what is changed, and goes on by itself', async ({ page, app, faults }) => {
    await openBench(page, app);
    await app.database(false);
    await add(page, 'Mono', 'Mono');
    // One notice says all of it: what is away, and where the change is.
    const slip = page.locator('[data-saving=waiting]');
    await expect(slip).toContainText(/database.*It is kept in this browser\./);
    await expect(page.getByText('The database is away.', { exact: true })).toHaveCount(0);
    // The bar has room for it: nothing lies over the takes.
    const mark = (await page.locator('[data-saving=waiting]').boundingBox())!;
    const takes = (await page.getByRole('group', { name: 'Takes of this photograph' }).boundingBox())!;
    expect(mark.x).toBeGreaterThanOrEqual(takes.x + takes.width);
    expect((await fetch(`${app.url}/api/health`)).status).toBe(503);
    await app.database(true);
    await expect(slip).toBeHidden({ timeout: 60_000 });
    await saved(page);
    await page.reload();
    await settled(page);
    await expect(page.locator('[data-tray]')).toHaveCount(1);
    onlyAnswers(faults);
  });

  test('a screen that could not be loaded is there as soon as it is back', async ({ page, app, faults }) => {
    await page.goto(app.url);
    await app.database(false);
    await page.goto(`${app.url}/put-aside`);
    await expect(page.getByText('The database is away.', { exact: true })).toBeVisible();
    await app.database(true);
    await expect(page.getByRole('region', { name: 'Put aside' })).toBeVisible({ timeout: 60_000 });
    onlyAnswers(faults);
  });
});

test('what is put aside is brought back, or removed for good after a question', async ({ page, app }) => {
  for (const title of ['Nets drying', 'Mud flats']) {
    const { id } = await app.api<{ id: string }>('POST', '/api/series', { title });
    await app.api('DELETE', `/api/series/${id}`);
  }
  await page.goto(app.url);
  await page.getByRole('link', { name: 'Put aside' }).click();
  await page.getByRole('button', { name: 'Bring Nets drying back' }).click();
  await expect(page.getByText('Nets drying is back.')).toBeVisible();
  await page.getByRole('button', { name: 'Remove Mud flats for good' }).press('Enter');
  await expect(page.getByRole('dialog')).toContainText('cannot be brought back');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.getByRole('button', { name: 'Remove Mud flats for good' }).click();
  await page.getByRole('button', { name: 'Remove for good', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Bring Mud flats back' })).toBeHidden();
  const shelf = await app.api<{ title: string }[]>('GET', '/api/series');
  expect(shelf.map(each => each.title)).toContain('Nets drying');
});

test.describe('files that are brought in', () => {
  test('the same once more is noticed and offered; a damaged one says so on its label', async ({
    page,
    app,
    faults,
  }) => {
    const { id } = await app.api<{ id: string }>('POST', '/api/series', { title: 'Once more' });
    const file = await png8(60, 40, (x, y) => [x * 4, y * 6, 128]);
    const jpeg = await sharp(await png8(300, 200, (x, y) => [(x * y) % 256, y, 128]))
      .jpeg()
      .toBuffer();
    await app.bringIn(id, file, 'jetty.png');
    await page.goto(`${app.url}/series/${id}`);
    await expect(page.getByRole('row', { name: 'Jetty' })).toHaveCount(1);
    const lay = (name: string, bytes: Buffer) =>
      page.evaluate(
        ([as, data]) => {
          const transfer = new DataTransfer();
          transfer.items.add(new File([new Uint8Array(data)], as));
          for (const type of ['dragenter', 'dragover', 'drop']) {
            window.dispatchEvent(
              new DragEvent(type, { dataTransfer: transfer, bubbles: true, cancelable: true }),
            );
          }
        },
        [name, Array.from(bytes)] as const,
      );
    await lay('jetty again.png', file);
    await expect(page.getByText('is in this series already, as “Jetty”.')).toBeVisible();
    await page.getByRole('button', { name: 'Bring it in again' }).click();
    await expect(page.getByRole('row', { name: 'Jetty again' })).toHaveCount(1);
    await lay('short.jpg', jpeg.subarray(0, jpeg.length / 2));
    await expect(page.getByText('It is damaged: the file ends too early.')).toBeVisible();
    await expect(page.getByRole('row', { name: 'Short' })).toContainText('Damaged');
    onlyAnswers(faults);
  });
});

test(
  'a page of an earlier build is loaded anew, once, as soon as nothing is held or unsaved',
  { tag: '@alone' },
  async ({ page, app }) => {
    let loads = 0;
    page.on('load', () => loads++);
    await openBench(page, app);
    const before = loads;
    await page.route('**/api/**', async route => {
      const response = await route.fetch();
      await route.fulfill({ response, headers: { ...response.headers(), 'lampwash-build': 'of tomorrow' } });
    });
    // Something is held while the new build is noticed.
    const picture = page.locator('canvas[data-picture]');
    const box = (await picture.boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await add(page, 'Mono', 'Mono');
    await page.mouse.down();
    await saved(page);
    await page.waitForTimeout(1500);
    await page.mouse.up();
    await expect.poll(() => loads, { timeout: 60_000 }).toBe(before + 1);
    await settled(page);
    await expect(page.locator('[data-tray]')).toHaveCount(1);
    await page.waitForTimeout(2500);
    expect(loads).toBe(before + 1);
  },
);

test('a take whose picture cannot be made says why in its place; all others are shown', async ({
  page,
  app,
  faults,
}) => {
  const { id } = await app.api<{ id: string }>('POST', '/api/series', { title: 'One of three' });
  const photographs = [];
  for (let i = 0; i < 3; i++) {
    photographs.push(
      await app.bringIn(id, await png8(60 + i, 40, (x, y) => [x * 4, y * 6, 128]), `${i}.png`),
    );
  }
  await page.route(`**/api/takes/${photographs[1].currentTakeId}/picture**`, route =>
    route.fulfill({
      status: 422,
      contentType: 'application/problem+json',
      body: JSON.stringify({
        title: 'This is too much work for one picture.',
        detail: 'It took more than 120 seconds.',
      }),
    }),
  );
  await page.goto(`${app.url}/series/${id}`);
  const rows = page.getByRole('row');
  await expect(rows.nth(1).getByRole('img', { name: /too much work for one picture/ })).toBeVisible();
  for (const i of [0, 2]) {
    await expect
      .poll(() =>
        rows
          .nth(i)
          .locator('img')
          .evaluate((img: HTMLImageElement) => img.naturalWidth),
      )
      .toBeGreaterThan(10);
  }
  expect(faults.filter(fault => !/status of 422/.test(fault))).toEqual([]);
  faults.length = 0;
});

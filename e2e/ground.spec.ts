import type { Page } from '@playwright/test';
import sharp from 'sharp';
import type { Take } from '../contract/takes';
import { png8 } from '../server/testing/pictures';
import { expect, test } from './app';
import type { App } from '../server/testing/running';
import { colourAt, pictureOn, settled } from './picture';
import { add, drag, openBench, panelOf, press, saved, type } from './work';

/** What the Bench stands on: saves that are small, undo that counts, pictures that belong to their photograph. */

const takeIdOf = async (page: Page, app: App): Promise<string> => {
  const photographId = new URL(page.url()).pathname.split('/').at(-1);
  return (await app.api<{ currentTakeId: string }>('GET', `/api/photographs/${photographId}`)).currentTakeId;
};
const takeOf = async (page: Page, app: App) =>
  app.api<Take>('GET', `/api/takes/${await takeIdOf(page, app)}`);
const kinds = (take: Take) => take.treatment.steps.map(s => s.kind).join(' ');
const trays = (page: Page) => page.locator('[data-tray]');

/** Everything that goes to the server is on its way for so long. */
const slowed = (page: Page, ms: number) =>
  page.route('**/api/takes/**', async route => {
    await new Promise(done => setTimeout(done, ms));
    await route.continue().catch(() => undefined);
  });

test('edits, four quick undos and redos over a slow network: each counts, and the server has what is shown', async ({
  page,
  app,
}) => {
  await openBench(page, app);
  await slowed(page, 150);
  for (const [stage, kind] of [
    ['Ground', 'Light'],
    ['Mono', 'Mono'],
    ['Tone', 'Tint'],
    ['Finish', 'Grain'],
    ['Finish', 'Vignette'],
  ]) {
    await add(page, stage, kind);
  }
  await expect(trays(page)).toHaveCount(5);
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
  await expect(trays(page)).toHaveCount(1);
  await page.keyboard.press('Control+Shift+z');
  await expect(trays(page)).toHaveCount(2);
  // An edit while all that is still on its way.
  await add(page, 'Tone', 'Split tone');
  await expect(page.locator('[data-saving=saving]')).toBeVisible();
  await saved(page);
  expect(kinds(await takeOf(page, app))).toBe('light mono split-tone');
  await page.reload();
  await settled(page);
  await expect(trays(page)).toHaveCount(3);
  // Behind the reload, at once.
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(trays(page)).toHaveCount(0);
  await saved(page);
  expect(kinds(await takeOf(page, app))).toBe('');
});

test('a large table and area pictures are saved, each once, and are there after a reload', async ({
  page,
  app,
}) => {
  test.setTimeout(120_000);
  const before = await openBench(page, app, [{ kind: 'mono' }, { kind: 'wash' }]);
  const lines = ['LUT_3D_SIZE 65'];
  for (let i = 0; i < 65 ** 3; i++) {
    const [r, g, b] = [i % 65, Math.floor(i / 65) % 65, Math.floor(i / 4225)].map(v => v / 64);
    lines.push(`${(0.2 + 0.8 * r).toFixed(6)} ${(0.9 * g).toFixed(6)} ${(0.6 * b).toFixed(6)}`);
  }
  const sent: number[] = [];
  page.on('request', request => {
    if (request.method() === 'PATCH') sent.push((request.postData() ?? '').length);
  });
  await add(page, 'Tone', 'Colour table');
  await panelOf(page, 'Colour table')
    .getByLabel('Colour table file')
    .setInputFiles({ name: 'large.cube', mimeType: 'text/plain', buffer: Buffer.from(lines.join('\n')) });
  await expect(panelOf(page, 'Colour table').getByRole('button', { name: /large/ }).first()).toBeVisible();
  const toned = await pictureOn(page);
  expect(colourAt(toned, 0.05, 0.25)[0]).toBeGreaterThan(colourAt(before, 0.05, 0.25)[0] + 15);
  // An area of 20 megapixels.
  await trays(page).filter({ hasText: 'Wash' }).click();
  await page.getByRole('button', { name: 'New area', exact: true }).click();
  const area = await sharp({ create: { width: 5464, height: 3660, channels: 3, background: '#000' } })
    .composite([
      {
        input: { create: { width: 2732, height: 3660, channels: 3, background: '#fff' } },
        left: 0,
        top: 0,
      },
    ])
    .toColourspace('b-w')
    .png()
    .toBuffer();
  await page.getByLabel('Area file').setInputFiles({ name: 'half.png', mimeType: 'image/png', buffer: area });
  await expect(page.getByText('Grey picture')).toBeVisible();
  const tinted = await pictureOn(page);
  await saved(page);
  expect(Math.max(...sent)).toBeLessThan(6000);
  await page.reload();
  const again = await pictureOn(page);
  for (const u of [0.1, 0.4, 0.6, 0.9]) {
    colourAt(again, u, 0.75).forEach((v, i) => expect(v).toBeCloseTo(colourAt(tinted, u, 0.75)[i], 0));
  }
  // Within the area the wash that lay on all is still there, elsewhere it is gone.
  colourAt(tinted, 0.25, 0.75).forEach((v, i) => expect(v).toBeCloseTo(colourAt(toned, 0.25, 0.75)[i], 0));
  expect(colourAt(tinted, 0.9, 0.75)).not.toEqual(colourAt(toned, 0.9, 0.75));
});

test('a change that the server never takes is said, and can become a new take', async ({
  page,
  app,
  faults,
}) => {
  await openBench(page, app, [{ kind: 'light' }]);
  await page.route('**/api/takes/*/treatment', route =>
    route.fulfill({
      status: 400,
      contentType: 'application/problem+json',
      body: JSON.stringify({ type: 'about:blank', status: 400, title: 'The treatment is not valid.' }),
    }),
  );
  let asked = 0;
  page.on('request', request => request.method() === 'PATCH' && asked++);
  await add(page, 'Mono', 'Mono');
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('The treatment is not valid.');
  await page.waitForTimeout(2500);
  expect(asked).toBe(1);
  const download = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Write a treatment file' }).click();
  expect((await download).suggestedFilename()).toBe('take-a.treatment.json');
  await dialog.getByRole('button', { name: 'Save as a new take' }).click();
  await expect(page.getByRole('button', { name: 'Take B' })).toHaveAttribute('aria-current', 'true');
  await expect(trays(page)).toHaveCount(2);
  expect(kinds(await takeOf(page, app))).toBe('light mono');
  faults.length = 0;
});

test('leaving with something unsaved is asked about, and what was not sent comes back', async ({
  page,
  app,
  faults,
}) => {
  await openBench(page, app);
  await page.route('**/api/takes/*/treatment', route => route.abort());
  await add(page, 'Mono', 'Mono');
  await expect(page.locator('[data-saving=waiting]')).toContainText('It is kept in this browser');
  const asked = new Promise<string>(done =>
    page.once('dialog', dialog => {
      done(dialog.type());
      void dialog.accept();
    }),
  );
  await page.unroute('**/api/takes/*/treatment');
  await page.route('**/api/takes/*/treatment', route => route.abort());
  await page.reload();
  expect(await asked).toBe('beforeunload');
  await page.unroute('**/api/takes/*/treatment');
  await page.reload();
  await settled(page);
  await expect(trays(page)).toHaveCount(1);
  await saved(page);
  expect(kinds(await takeOf(page, app))).toBe('mono');
  faults.length = 0;
});

test(
  'a picture whose pixels are slow is not drawn on the next one',
  { tag: '@alone' },
  async ({ page, app }) => {
    const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'Two' });
    const red = await app.bringIn(series.id, await png8(700, 500, () => [200, 30, 30]), 'red.png');
    const blue = await app.bringIn(series.id, await png8(700, 500, () => [30, 30, 200]), 'blue.png');
    await page.goto(`${app.url}/photographs/${blue.id}`);
    await settled(page);
    await page.route(`**/api/photographs/${red.id}/pixels/**`, async route => {
      await new Promise(done => setTimeout(done, 2500));
      await route.continue().catch(() => undefined);
    });
    const strip = page.getByRole('navigation', { name: 'Neighbouring photographs' });
    await strip.getByRole('link', { name: /red/i }).click();
    await page.waitForTimeout(400);
    await strip.getByRole('link', { name: /blue/i }).click();
    await settled(page);
    const shown = await pictureOn(page);
    expect(colourAt(shown, 0.5, 0.5)[2]).toBeGreaterThan(150);
    await page.waitForTimeout(3500);
    const later = await pictureOn(page);
    expect(colourAt(later, 0.5, 0.5)).toEqual(colourAt(shown, 0.5, 0.5));
  },
);

test('a worker that dies is started again and draws on; the second time it is said', async ({
  page,
  app,
}) => {
  await openBench(page, app, [{ kind: 'mono' }]);
  const before = await pictureOn(page);
  /** Ends all workers that compute. */
  const kill = async () => {
    const workers = page.workers();
    expect(workers.length).toBeGreaterThan(0);
    await Promise.all(workers.map(worker => worker.evaluate(() => self.close()).catch(() => undefined)));
  };
  await kill();
  await expect.poll(() => page.workers().length).toBeGreaterThan(0);
  const after = await pictureOn(page);
  expect(colourAt(after, 0.7, 0.25)).toEqual(colourAt(before, 0.7, 0.25));
  await expect(page.getByText(/has stopped twice/)).toHaveCount(0);
  await add(page, 'Tone', 'Tint');
  await type(page, 'Saturation', '80');
  const toned = await pictureOn(page);
  expect(colourAt(toned, 0.5, 0.25)[0]).not.toBeCloseTo(colourAt(before, 0.5, 0.25)[0], 0);
  await kill();
  await expect(page.getByText(/has stopped twice/)).toBeVisible();
  const last = await pictureOn(page);
  expect(colourAt(last, 0.5, 0.25)).toEqual(colourAt(toned, 0.5, 0.25));
});

test('the trays follow what is painted, and the tones behind a curve the crop', async ({ page, app }) => {
  await openBench(page, app, [{ kind: 'wash', mix: 'normal' }]);
  const basin = () =>
    trays(page)
      .first()
      .locator('.dish')
      .evaluate(e => e.innerHTML);
  await page.getByRole('button', { name: 'New area', exact: true }).click();
  await press(page, ']', 8);
  await settled(page);
  await expect.poll(basin).toContain('svg');
  const bare = await basin();
  await drag(page, [0.2, 0.3], [0.8, 0.3]);
  await expect.poll(basin).not.toBe(bare);
  const painted = await basin();
  await drag(page, [0.2, 0.6], [0.8, 0.6]);
  await expect.poll(basin).not.toBe(painted);

  await add(page, 'Tone', 'Curve');
  const tones = () => page.locator('svg path.tones').getAttribute('d');
  await expect.poll(tones).toMatch(/L/);
  const whole = await tones();
  await page.getByRole('button', { name: 'Frame: crop, straighten, turn' }).click();
  await page.getByRole('button', { name: 'Right of the crop', exact: true }).focus();
  await press(page, 'Shift+ArrowLeft', 8);
  await page.getByRole('button', { name: 'Frame: crop, straighten, turn' }).click();
  await trays(page).filter({ hasText: 'Curve' }).click();
  await expect.poll(tones).not.toBe(whole);
});

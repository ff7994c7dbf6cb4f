import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { expect, type APIRequestContext } from '@playwright/test';
import sharp from 'sharp';
import { test } from './app';

/** A series goes out: held, gone on with, one failing, and all of it taken as one zip; settings kept under a name. */

async function twelve(request: APIRequestContext, origin: string) {
  const post = async (path: string, data: object) =>
    (await request.post(`${origin}${path}`, { data })).json();
  const series = await post('/api/series', { title: 'Low water' });
  for (let i = 0; i < 12; i++) {
    const buffer = await sharp({
      create: { width: 900 + i, height: 600, channels: 3, background: { r: 20 * i, g: 120, b: 90 } },
    })
      .png()
      .toBuffer();
    const file = { name: `plate-${i + 1}.png`, mimeType: 'image/png', buffer };
    await request.post(`${origin}/api/series/${series.id}/photographs`, { multipart: { file } });
  }
  return series as { id: string };
}

test('twelve files are held, go on, one is stopped and tried again, and come as one zip', async ({
  page,
  app,
  request,
  faults,
}, info) => {
  const series = await twelve(request, app.url);
  await page.goto(`${app.url}/series/${series.id}/send-out`);
  const settings = page.getByRole('region', { name: 'Settings' });
  const queue = page.getByRole('complementary', { name: 'Going out' });

  await settings.getByRole('radio', { name: 'TIFF' }).click();
  await settings.getByRole('radio', { name: 'Deflate' }).click();
  await settings.getByRole('button', { name: /Size$/ }).click();
  await page.getByRole('option', { name: 'Long edge, pixels' }).click();
  const pixels = settings.getByRole('textbox', { name: 'Long edge in pixels' });
  await pixels.fill('300');
  await pixels.press('Enter');
  await settings.getByRole('button', { name: 'Remove Series' }).click();
  await settings.getByRole('button', { name: 'Add to the name' }).click();
  await page.getByRole('menuitem', { name: 'Original’s name' }).click();
  await expect(settings.getByText('01-plate-1-a-plate-1.tif')).toBeVisible();

  // Kept under a name, changed, and taken again.
  await page.getByRole('button', { name: /^Settings kept as/ }).click();
  await page.getByRole('menuitem', { name: 'Keep these under a name …' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('For the gallery');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Settings kept as For the gallery' })).toBeVisible();
  await settings.getByRole('radio', { name: 'PNG' }).click();
  await page.getByRole('button', { name: 'Settings kept as none' }).click();
  await page.getByRole('menuitem', { name: 'For the gallery' }).click();
  await expect(settings.getByRole('radio', { name: 'TIFF' })).toBeChecked();

  await settings.getByRole('textbox', { name: 'Author' }).fill('Ada Fenn');
  await settings.getByRole('textbox', { name: 'Author' }).press('Enter');
  // What is kept of one original is damaged.
  const { photographs } = await app.api<{ photographs: { title: string; sha256: string }[] }>(
    'GET',
    `/api/series/${series.id}`,
  );
  const { sha256 } = photographs.find(p => p.title === 'Plate 7')!;
  const [{ bytes }] = await app.query('SELECT bytes FROM blob_chunks WHERE sha256 = $1', [sha256]);
  const keep = (now: unknown) =>
    app.query('UPDATE blob_chunks SET bytes = $2 WHERE sha256 = $1', [sha256, now]);
  await keep(Buffer.from('nothing that is a picture'));
  for (const cache of ['originals', 'pixels']) {
    await rm(join(app.home, 'cache', cache), { recursive: true, force: true });
  }

  await page.getByRole('button', { name: 'Send out twelve' }).click();
  await queue.getByRole('button', { name: 'Pause' }).click();
  await expect(queue.getByRole('button', { name: 'Go on' })).toBeVisible();
  const held = queue.locator('li[data-state="paused"]');
  await expect(queue.locator('li[data-state="running"]')).toHaveCount(0);
  const count = await held.count();
  expect(count).toBeGreaterThan(0);
  const before = await queue.getByRole('listitem').allInnerTexts();
  await page.reload();
  await expect(held).toHaveCount(count);
  expect(await queue.getByRole('listitem').allInnerTexts()).toEqual(before);

  // One is stopped where it stands, and the rest goes on without it.
  await queue.getByRole('button', { name: 'Stop Plate 12' }).click();
  await queue.getByRole('button', { name: 'Go on' }).click();
  await expect(queue.getByText('10 of 12 done, 1 failed')).toBeVisible({ timeout: 60_000 });
  // It says why; once that is mended it goes out.
  await expect(queue.locator('li[data-state="failed"]')).toContainText(/^Plate 7Failed: \S/);
  await keep(bytes);
  await rm(join(app.home, 'cache', 'originals'), { recursive: true, force: true });
  await queue.getByRole('button', { name: 'Try Plate 7 again' }).click();
  await expect(queue.getByText('11 of 12 done')).toBeVisible({ timeout: 60_000 });
  await queue.getByRole('button', { name: 'Try Plate 12 again' }).click();
  await expect(queue.getByText('12 of 12 done')).toBeVisible({ timeout: 60_000 });
  await expect(queue.locator('li b')).toHaveText(Array.from({ length: 12 }, (_, i) => `Plate ${i + 1}`));

  const downloading = page.waitForEvent('download');
  await queue.getByRole('link', { name: 'Twelve as one zip' }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toBe('low-water.zip');
  const path = info.outputPath('low-water.zip');
  await download.saveAs(path);
  const listed = execFileSync('unzip', ['-Z1', path]).toString().trim().split('\n');
  expect(listed).toHaveLength(12);
  expect(listed[4]).toBe('05-plate-5-a-plate-5.tif');
  const file = execFileSync('unzip', ['-p', path, listed[4]], { maxBuffer: 1e8 });
  expect(await sharp(file).metadata()).toMatchObject({ format: 'tiff', width: 300, density: 300 });
  expect(file.includes('Ada Fenn')).toBe(true);
  expect(readFileSync(path).length).toBeGreaterThan(1000);

  await queue.getByRole('button', { name: 'Clear the done' }).click();
  await expect(queue.getByText(/^Nothing is going out/)).toBeVisible();
  // The browser complains of the small picture that there was none of meanwhile.
  expect(faults.filter(f => !/status of 500/.test(f))).toEqual([]);
  faults.length = 0;
});

test('a contact sheet and pairs are made of what goes out, with text that can be read', async ({
  page,
  app,
  request,
}, info) => {
  const series = await twelve(request, app.url);
  await page.goto(`${app.url}/series/${series.id}/send-out`);
  const made = async (name: RegExp, change: () => Promise<void>) => {
    await page.getByRole('button', { name }).click();
    const dialog = page.getByRole('dialog');
    await change();
    const downloading = page.waitForEvent('download');
    await dialog.getByRole('button', { name: 'Make the PDF' }).click();
    const download = await downloading;
    await expect(dialog).toBeHidden();
    const path = info.outputPath(download.suggestedFilename());
    await download.saveAs(path);
    const run = (program: string, ...args: string[]) => execFileSync(program, args).toString();
    return {
      name: download.suggestedFilename(),
      text: run('pdftotext', '-layout', path, '-'),
      info: run('pdfinfo', path),
    };
  };
  const sheet = await made(/^Contact sheet/, async () => {
    await page.getByRole('textbox', { name: 'Columns' }).fill('4');
    await page.getByRole('textbox', { name: 'Columns' }).press('Tab');
    await page.getByRole('radio', { name: 'Across' }).click();
  });
  expect(sheet.name).toBe('low-water-contact-sheet.pdf');
  expect(sheet.info).toMatch(/Pages:\s+2\n/);
  expect(sheet.info).toMatch(/841\.\d+ x 595/);
  expect(sheet.text).toMatch(/9\s+Plate 9\s+10\s+Plate 10/);
  // What was chosen last is there again.
  const pairs = await made(/^Before and after/, async () => {
    await expect(page.getByRole('textbox', { name: 'Columns' })).toHaveValue('4');
  });
  expect(pairs.name).toBe('low-water-before-and-after.pdf');
  expect(pairs.text.match(/As it came/g)).toHaveLength(12);
});

test('a take is written as a colour table within what it says, and as a treatment', async ({
  page,
  app,
}, info) => {
  const series = (await app.api<{ id: string; title: string }[]>('GET', '/api/series')).find(
    s => s.title === 'Saltmarsh Ferry',
  )!;
  await page.goto(`${app.url}/series/${series.id}/send-out`);
  await page.getByRole('button', { name: /^Colour table/ }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('radio', { name: '17 a side' }).click();
  await expect(dialog.getByText(/it is ΔE [\d.]+ from the take in the mean, [\d.]+ at worst/)).toBeVisible({
    timeout: 60_000,
  });
  await expect(dialog.getByText(/^Left out, since no table can hold/)).toContainText('looks beyond a colour');
  const saved = async (press: () => Promise<void>) => {
    const downloading = page.waitForEvent('download');
    await press();
    const download = await downloading;
    const path = info.outputPath(download.suggestedFilename());
    await download.saveAs(path);
    return { name: download.suggestedFilename(), path };
  };
  const table = await saved(() => dialog.getByRole('button', { name: 'Save the table' }).click());
  expect(table.name).toMatch(/^ferry-boat-at-slack-water-\w-17\.cube$/);
  const lines = readFileSync(table.path, 'utf8').trim().split('\n');
  expect(lines[1]).toBe('LUT_3D_SIZE 17');
  expect(lines).toHaveLength(2 + 17 ** 3);
  const zip = await saved(() => page.getByRole('button', { name: /^Treatments/ }).click());
  const listed = execFileSync('unzip', ['-Z1', zip.path]).toString().trim().split('\n');
  expect(listed).toHaveLength(12);
  const first = execFileSync('unzip', ['-p', zip.path, listed[0]], { maxBuffer: 1e8 }).toString();
  expect(JSON.parse(first)).toMatchObject({ format: 'lampwash-treatment', version: 1 });
});

test('a print that has too few pixels says so; a folder is written where the browser can', async ({
  page,
  app,
  request,
}) => {
  const series = await twelve(request, app.url);
  await page.goto(`${app.url}/series/${series.id}/send-out`);
  const settings = page.getByRole('region', { name: 'Settings' });
  await settings.getByRole('button', { name: /Size$/ }).click();
  await page.getByRole('option', { name: 'Print, long edge in inches' }).click();
  await expect(settings.getByText('The smallest picture has 75 dots an inch at this size.')).toBeVisible();
  await settings.getByRole('button', { name: /What files tell$/ }).click();
  await page.getByRole('option', { name: 'Nothing' }).click();
  await expect(settings.getByRole('textbox', { name: 'Author' })).toBeHidden();

  await page.evaluate(() => {
    const written: Record<string, number> = {};
    Object.assign(globalThis, {
      written,
      showDirectoryPicker: () =>
        Promise.resolve({
          getFileHandle: (name: string) =>
            Promise.resolve({
              createWritable: () =>
                Promise.resolve(
                  new WritableStream<Uint8Array>({
                    write: chunk => void (written[name] = (written[name] ?? 0) + chunk.length),
                  }),
                ),
            }),
        }),
    });
  });
  await page.getByRole('button', { name: 'Send out twelve' }).click();
  const queue = page.getByRole('complementary', { name: 'Going out' });
  await expect(queue.getByText('12 of 12 done')).toBeVisible({ timeout: 60_000 });
  await queue.getByRole('button', { name: 'Into a folder' }).click();
  await expect(queue.getByText('Twelve files written')).toBeVisible();
  const written = await page.evaluate(
    // eslint-disable-next-line no-restricted-syntax -- what the page's stand-in of a folder noted
    () => (globalThis as unknown as { written: Record<string, number> }).written,
  );
  expect(Object.keys(written)).toHaveLength(12);
  for (const size of Object.values(written)) expect(size).toBeGreaterThan(500);
});

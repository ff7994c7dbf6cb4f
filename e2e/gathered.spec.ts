import { expect, type Page } from '@playwright/test';
import { zipSync } from 'fflate';
import sharp from 'sharp';
import { test } from './app';
import { arrived, openBench } from './work';

/** Photographs go in however they are laid down: pasted, dropped on any screen, in a zip. */

const jpeg = (shade: number) =>
  sharp({ create: { width: 60, height: 40, channels: 3, background: { r: shade, g: 90, b: 60 } } })
    .jpeg()
    .toBuffer();

/** Lets go of files over the window, or pastes them. */
async function give(
  page: Page,
  how: 'drop' | 'paste',
  files: { name: string; type: string; bytes: Uint8Array }[],
) {
  const told = files.map(({ name, type, bytes }) => ({
    name,
    type,
    base64: Buffer.from(bytes).toString('base64'),
  }));
  await page.evaluate(
    ({ how: by, told: all }) => {
      const data = new DataTransfer();
      for (const { name, type, base64 } of all) {
        data.items.add(new File([Uint8Array.from(atob(base64), c => c.charCodeAt(0))], name, { type }));
      }
      const event =
        by === 'drop'
          ? new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true })
          : new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true });
      document.body.dispatchEvent(event);
    },
    { how, told },
  );
}

const slip = (page: Page) => page.getByRole('region', { name: 'Bringing in' });

test('a zip with one broken file, dropped on each screen: the good ones go in, the broken one is named on top', async ({
  page,
  app,
  faults,
}) => {
  const bare = await openBench(page, app);
  expect(bare.width).toBeGreaterThan(0);
  const id = page.url().split('/').at(-1)!;
  const { seriesId, currentTakeId } = await app.api<{ seriesId: string; currentTakeId: string }>(
    'GET',
    `/api/photographs/${id}`,
  );
  const count = async () =>
    (await app.api<{ photographs: unknown[] }>('GET', `/api/series/${seriesId}`)).photographs.length;
  let shade = 20;
  let there = await count();
  for (const path of [
    `/photographs/${id}`,
    `/series/${seriesId}`,
    `/series/${seriesId}/send-out?takes=${currentTakeId}`,
  ]) {
    await page.goto(app.url + path);
    await arrived(page);
    const zip = zipSync({
      'roll/2.jpg': new Uint8Array(await jpeg((shade += 7))),
      'roll/1.jpg': new Uint8Array(await jpeg((shade += 7))),
      'roll/broken.jpg': Uint8Array.of(1, 2, 3, 4),
      '__MACOSX/roll/._1.jpg': Uint8Array.of(1),
    });
    await give(page, 'drop', [{ name: 'roll.zip', type: 'application/zip', bytes: zip }]);
    await expect(slip(page).getByRole('status'), path).toHaveText('Two photographs brought in, one file not');
    const rows = slip(page).getByRole('listitem');
    await expect(rows.first()).toContainText('broken.jpg');
    await expect(rows.first()).toContainText(/not a picture|not a JPEG/);
    expect(await count()).toBe((there += 2));
    // The page is still there: the browser has not opened the file.
    expect(page.url()).toContain(path.split('?')[0]);
  }
  const { photographs } = await app.api<{ photographs: { fileName: string }[] }>(
    'GET',
    `/api/series/${seriesId}`,
  );
  expect(photographs.slice(-2).map(p => p.fileName)).toEqual(['1.jpg', '2.jpg']);
  // What was refused is an error of the file, told by the server.
  faults.length = 0;
});

test('on the shelf a zip begins a series; one that holds no photograph says so', async ({ page, app }) => {
  await page.goto(app.url);
  await arrived(page);
  const zip = zipSync({ 'a.jpg': new Uint8Array(await jpeg(200)) });
  await give(page, 'drop', [{ name: 'one.zip', type: 'application/zip', bytes: zip }]);
  await expect(page).toHaveURL(/\/series\//);
  await expect(page.getByRole('row')).toHaveCount(1);
  await give(page, 'drop', [
    { name: 'letters.zip', type: 'application/zip', bytes: zipSync({ 'letter.doc': Uint8Array.of(1) }) },
  ]);
  await expect(slip(page)).toContainText('letter.doc in it: not a photograph');
});

test('a picture is pasted, on the bench and on the sheet', async ({ page, app }) => {
  await openBench(page, app);
  const id = page.url().split('/').at(-1)!;
  const { seriesId } = await app.api<{ seriesId: string }>('GET', `/api/photographs/${id}`);
  const pasted = async (shade: number) => [
    {
      name: 'image.png',
      type: 'image/png',
      bytes: new Uint8Array(
        await sharp(await jpeg(shade))
          .png()
          .toBuffer(),
      ),
    },
  ];
  await give(page, 'paste', await pasted(30));
  await expect(slip(page).getByRole('status')).toHaveText('One photograph brought in');
  await page.goto(`${app.url}/series/${seriesId}`);
  await expect(page.getByRole('row')).toHaveCount(2);
  await give(page, 'paste', await pasted(60));
  await expect(page.getByRole('row')).toHaveCount(3);
  await expect(page.getByRole('row').nth(2)).toContainText(/Pasted/);
});

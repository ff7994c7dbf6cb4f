import { createHash } from 'node:crypto';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { expect, type Page } from '@playwright/test';
import { extract } from 'tar-stream';
import { startApp } from '../server/testing/running';
import { test } from './app';
import { differs, pictureOn } from './picture';

/** What is inside is never trapped: the whole shelf and single series go out as files, and come in elsewhere, by the screens. */

/** The name and the SHA-256 of each entry of an archive, but for the head, which tells the time. */
async function hashesOf(archive: Buffer): Promise<Record<string, string>> {
  const tar = extract();
  Readable.from([archive]).pipe(tar);
  const found: Record<string, string> = {};
  for await (const entry of tar) {
    const bytes = await buffer(entry);
    if (entry.header.name !== 'lampwash.json') {
      found[entry.header.name] = createHash('sha256').update(bytes).digest('hex');
    }
  }
  return found;
}

const slip = (page: Page) => page.getByRole('region', { name: 'Bringing in' });

/** Chooses of a menu what makes the browser keep a file. */
async function kept(page: Page, menu: string, entry: string) {
  await page.getByRole('button', { name: menu, exact: true }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: entry }).click();
  const file = await download;
  return { name: file.suggestedFilename(), path: await file.path() };
}

/** Puts files into a folder of their own: what is chosen by its path may be of any size. */
async function laidDown(files: Record<string, Buffer>): Promise<{ paths: string[]; folder: string }> {
  const folder = await mkdtemp(join(tmpdir(), 'lampwash-archives-'));
  const paths = Object.keys(files).map(name => join(folder, name));
  await Promise.all(Object.values(files).map((bytes, at) => writeFile(paths[at], bytes)));
  return { paths, folder };
}

/** Takes files in by the entry of the shelf's menu. */
async function taken(page: Page, paths: string[]) {
  await page.getByRole('button', { name: 'More for the shelf', exact: true }).click();
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('menuitem', { name: 'Take in a backup or a package' }).click();
  const chooser = await choosing;
  await chooser.setFiles(paths);
}

test('the whole shelf is backed up, and taken in by an empty one: all is equal by hash', async ({
  page,
  app,
}) => {
  test.setTimeout(180_000);
  await page.goto(app.url);
  const { name, path } = await kept(page, 'More for the shelf', 'Back up the whole shelf');
  expect(name).toMatch(/^lampwash-shelf-\d{4}-\d\d-\d\d\.tar$/);
  const archive = await readFile(path);
  const was = await hashesOf(archive);
  expect(Object.keys(was).filter(n => n.startsWith('blobs/')).length).toBeGreaterThanOrEqual(12);

  const { paths, folder } = await laidDown({ [name]: archive, 'boat.jpg': Buffer.from('no archive') });
  const empty = await startApp({ LAMPWASH_DEMO: '0' });
  try {
    await page.goto(empty.url);
    await expect(page.getByRole('heading', { name: 'An empty shelf' })).toBeVisible();
    // An empty shelf offers it by itself.
    const choosing = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Take in a backup' }).click();
    await (await choosing).setFiles(paths);
    await expect(slip(page).getByRole('status')).toHaveText('One file brought in, one file not');
    await expect(slip(page).getByText('This is no backup and no package: those end in .tar.')).toBeVisible();
    await expect(slip(page).getByText(/On the shelf: .*Saltmarsh Ferry/)).toBeVisible();
    await expect(page.getByRole('article', { name: 'Saltmarsh Ferry' })).toBeVisible();

    const { path: again } = await kept(page, 'More for the shelf', 'Back up the whole shelf');
    expect(await hashesOf(await readFile(again))).toEqual(was);
  } finally {
    await page.goto('about:blank');
    await empty.close();
    await rm(folder, { recursive: true });
  }
});

test('a series is given away and taken in elsewhere, and looks as it did; a broken package is named, and tells the way out', async ({
  page,
  app,
  faults,
}) => {
  test.setTimeout(180_000);
  const boat = async (of: string) => {
    const get = async <T>(path: string) => (await (await fetch(of + path)).json()) as T;
    const [{ id }] = (await get<{ id: string; title: string }[]>('/api/series')).filter(
      s => s.title === 'Saltmarsh Ferry',
    );
    const { photographs } = await get<{ photographs: { id: string; title: string }[] }>(`/api/series/${id}`);
    await page.goto(
      `${of}/photographs/${photographs.find(p => p.title === 'Ferry boat at slack water')!.id}`,
    );
    return pictureOn(page);
  };
  const mine = await boat(app.url);
  await page.goto(app.url);
  const { name, path } = await kept(page, 'More for Saltmarsh Ferry', 'Give away as a package');
  expect(name).toBe('saltmarsh-ferry.series.tar');
  const bytes = await readFile(path);

  const { paths, folder } = await laidDown({
    'half.tar': bytes.subarray(0, bytes.length >> 1),
    [name]: bytes,
  });
  const elsewhere = await startApp({ LAMPWASH_DEMO: '0' });
  try {
    await page.goto(elsewhere.url);
    await taken(page, paths);
    await expect(slip(page).getByRole('status')).toHaveText('One file brought in, one file not');
    const [first] = await slip(page).getByRole('listitem').allTextContents();
    expect(first).toMatch(/half\.tar.*ends too early\. Copy it again/);
    const theirs = await boat(elsewhere.url);
    expect([theirs.width, theirs.height]).toEqual([mine.width, mine.height]);
    expect(differs(theirs, mine)).toBeLessThan(0.5);
    // The browser tells of the one that was refused.
    faults.length = 0;
  } finally {
    await page.goto('about:blank');
    await elsewhere.close();
    await rm(folder, { recursive: true });
  }
});

test('a page shows all that can be asked without the screens, found by a word, by keys', async ({
  page,
  app,
}) => {
  await page.goto(app.url);
  await page.getByRole('button', { name: 'More for the shelf', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Use it without its screens' }).click();
  await expect(page.getByRole('heading', { name: 'Without its screens', level: 2 })).toBeVisible();
  const addresses = page.locator('main summary');
  const description = await app.api<{ paths: Record<string, object> }>('GET', '/api/openapi.json');
  const declared = Object.values(description.paths).reduce((n, of) => n + Object.keys(of).length, 0);
  expect(declared).toBeGreaterThan(60);
  await expect(addresses).toHaveCount(declared);
  await page.getByRole('searchbox', { name: 'Find an address' }).fill('package');
  await expect(addresses).toHaveCount(2);
  await addresses.filter({ hasText: '/api/series/{id}/package' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(`curl -OJ '${app.url}/api/series/{id}/package'`)).toBeVisible();
  // No passphrase is set: nobody is told of tokens.
  await expect(page.getByRole('heading', { name: 'Tokens' })).toHaveCount(0);
});

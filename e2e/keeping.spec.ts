import type { Page } from '@playwright/test';
import { png8 } from '../server/testing/pictures';
import { expect, test } from './app';
import type { App } from '../server/testing/running';
import { settled } from './picture';
import { add } from './work';

interface TakeState {
  revision: number;
  treatment: { steps: { kind: string; settings: { exposure?: number } }[] };
  redo: string | null;
}

async function photographIn(app: App) {
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'Kept' });
  return app.bringIn(series.id, await png8(300, 200, x => [x % 256, 90, 40]), 'kept.png');
}
const saved = (page: Page) => expect(page.locator('[data-saving=saved]')).toBeVisible();
const kinds = (take: TakeState) => take.treatment.steps.map(s => s.kind).join(' ');

test.describe('two windows on one take', () => {
  const setUp = async (page: Page, app: App) => {
    const photograph = await photographIn(app);
    const other = await page.context().newPage();
    for (const p of [page, other]) {
      await p.goto(`${app.url}/photographs/${photograph.id}`);
      await settled(p);
    }
    await add(other, 'Mono', 'Mono');
    await saved(other);
    await add(page, 'Ground', 'Light');
    await expect(page.getByRole('dialog')).toContainText('changed in another window');
    return { photograph, take: () => app.api<TakeState>('GET', `/api/takes/${photograph.currentTakeId}`) };
  };

  test('keep both: mine becomes a take of its own', async ({ page, app, faults }) => {
    const { photograph, take } = await setUp(page, app);
    await page.getByRole('button', { name: 'Keep both, mine as a new take' }).click();
    await expect(page.getByRole('button', { name: 'Take B' })).toHaveAttribute('aria-current', 'true');
    expect(kinds(await take())).toBe('mono');
    const { takes } = await app.api<{ takes: { id: string }[] }>('GET', `/api/photographs/${photograph.id}`);
    expect(kinds(await app.api<TakeState>('GET', `/api/takes/${takes[1].id}`))).toBe('light');
    faults.length = 0;
  });

  test('show mine: theirs is one undo away', async ({ page, app, faults }) => {
    const { take } = await setUp(page, app);
    await page.getByRole('button', { name: 'Show mine' }).click();
    await saved(page);
    expect(kinds(await take())).toBe('light');
    await page.keyboard.press('Control+z');
    await expect.poll(async () => kinds(await take())).toBe('mono');
    faults.length = 0;
  });

  test('show the other window’s: mine is one redo away', async ({ page, app, faults }) => {
    const { take } = await setUp(page, app);
    await page.getByRole('button', { name: 'Show the other window’s' }).click();
    await expect.poll(async () => kinds(await take())).toBe('mono');
    await page.getByRole('button', { name: /^Redo: / }).click();
    await expect.poll(async () => kinds(await take())).toBe('light');
    faults.length = 0;
  });

  test('unanswered, mine outlives a closed window', async ({ page, app, faults }) => {
    const { photograph } = await setUp(page, app);
    const context = page.context();
    await page.close();
    const later = await context.newPage();
    await later.goto(`${app.url}/photographs/${photograph.id}`);
    await expect(later.getByRole('dialog')).toContainText('changed in another window');
    await later.getByRole('button', { name: 'Show mine' }).click();
    await expect(later.locator('[data-tray]')).toContainText('Light');
    faults.length = 0;
  });
});

test('a server killed while the Bench works: the edit is kept here and saved when it is back', async ({
  page,
  app,
  faults,
}) => {
  const photograph = await photographIn(app);
  await page.goto(`${app.url}/photographs/${photograph.id}`);
  await settled(page);
  await app.kill();
  await add(page, 'Ground', 'Light');
  await expect(page.locator('[data-saving=waiting]')).toContainText('kept in this browser');
  await app.start();
  await expect(page.locator('[data-saving=saved]')).toBeVisible({ timeout: 60_000 });
  const take = await app.api<TakeState>('GET', `/api/takes/${photograph.currentTakeId}`);
  expect(kinds(take)).toBe('light');
  faults.length = 0;
});

test(
  'a server killed between and during saves: every acknowledged save is there',
  { tag: '@alone' },
  async ({ app, faults }) => {
    test.setTimeout(180_000);
    const photograph = await photographIn(app);
    const path = `/api/takes/${photograph.currentTakeId}`;
    let { revision } = await app.api<TakeState>('GET', path);
    let acknowledged = 0;
    let sent = 0;
    for (let round = 0; round < 6; round++) {
      const stopAfter = 20 + round * 37;
      // Something is acknowledged in each round, however slow the machine: then it is cut off, sooner or later.
      let first = () => undefined as void;
      const cut = new Promise<void>(done => (first = done))
        .then(() => new Promise(done => setTimeout(done, stopAfter)))
        .then(() => app.kill());
      for (let alive = true; alive;) {
        sent++;
        const treatment = {
          format: 'lampwash-treatment',
          version: 1,
          steps: [{ kind: 'light', settings: { exposure: sent / 1000 } }],
        };
        try {
          revision = (await app.api<TakeState>('PUT', `${path}/treatment`, { revision, treatment })).revision;
          acknowledged = sent;
          first();
        } catch {
          alive = false;
        }
      }
      await cut;
      await app.start();
      const take = await app.api<TakeState>('GET', path);
      const kept = Math.round((take.treatment.steps[0]?.settings.exposure ?? 0) * 1000);
      // The save in flight at the cut may have been made without being acknowledged; none before it is lost.
      expect([acknowledged, sent]).toContain(kept);
      acknowledged = kept;
      revision = take.revision;
    }
    expect(acknowledged).toBeGreaterThan(5);
    faults.length = 0;
  },
);

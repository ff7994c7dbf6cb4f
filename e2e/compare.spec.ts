import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { expect, test } from './app';
import { colourAt, pictureOn, settled } from './picture';
import { drag, openBench, pointAt, saved, type } from './work';

const light = { kind: 'light', id: 'l', stage: 'ground', settings: { exposure: 1 } };
const mono = { kind: 'mono', id: 'm', stage: 'mono' };

/** Waits until the other picture is drawn as well. */
async function bothSettled(page: Page): Promise<void> {
  await settled(page);
  await expect
    .poll(() =>
      page.locator('canvas[data-beside]').evaluate((e: HTMLCanvasElement) => {
        const { wanted, shown, fine } = e.dataset;
        return wanted !== undefined && wanted === shown && fine === 'true';
      }),
    )
    .toBe(true);
}

/** What is seen on the screen at a point, in codes. */
async function seenAt(page: Page, { x, y }: { x: number; y: number }): Promise<number[]> {
  const shot = await page.screenshot({ clip: { x: Math.round(x), y: Math.round(y), width: 1, height: 1 } });
  return [...(await sharp(shot).removeAlpha().raw().toBuffer())];
}

const near = (a: readonly number[], b: readonly number[], by = 2) =>
  a.every((v, k) => Math.abs(v - b[k]) <= by);

test('half and half: bare on one side of the line, treated on the other, wherever it is moved', async ({
  page,
  app,
}) => {
  const bare = await openBench(page, app);
  await openBench(page, app, [light, mono]);
  const treated = await pictureOn(page);
  await page.keyboard.press('h');
  await bothSettled(page);
  const line = page.getByRole('slider', { name: /^Line between the halves/ });
  const check = async (u: number, v: number, isTreated: boolean) => {
    const seen = await seenAt(page, await pointAt(page, u, v));
    expect([u, v, near(seen, colourAt(treated, u, v, 0)), near(seen, colourAt(bare, u, v, 0))]).toEqual([
      u,
      v,
      isTreated,
      !isTreated,
    ]);
  };
  await check(0.4, 0.75, false);
  await check(0.48, 0.75, false);
  await check(0.6, 0.75, true);
  // The keys move it, and Enter lays it the other way.
  await line.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowLeft');
  await expect(line).toHaveAttribute('aria-valuenow', '20');
  await check(0.4, 0.75, true);
  await check(0.1, 0.75, false);
  await page.keyboard.press('Enter');
  await expect(line).toHaveAttribute('aria-orientation', 'vertical');
  await check(0.1, 0.75, true);
  await check(0.6, 0.6, true);
  await page.keyboard.press('End');
  // It is dragged below what is looked at.
  const grip = (await page.locator('[data-parting]').boundingBox())!;
  await page.mouse.move(grip.x + grip.width / 2, grip.y + grip.height / 2);
  await page.mouse.down();
  const to = await pointAt(page, 0.5, 0.9);
  await page.mouse.move(to.x, to.y, { steps: 5 });
  await page.mouse.up();
  await check(0.6, 0.75, false);
  // Both pictures are read at one place.
  const at = await pointAt(page, 0.7, 0.7);
  await page.mouse.move(at.x, at.y);
  const label = page.locator('[aria-label="Under the pointer"]');
  await expect(label.locator('[aria-label^="Chroma "]')).not.toHaveAttribute('aria-label', 'Chroma 0');
  await expect(label).toContainText('Chroma 0');
  // All of it is seen, and nothing lies over it.
  const [read, wall] = [
    (await label.boundingBox())!,
    (await page.getByRole('radiogroup', { name: 'Wall tone' }).locator('..').boundingBox())!,
  ];
  expect(read.x + read.width).toBeLessThanOrEqual(wall.x);
  expect(await label.evaluate(e => e.scrollWidth - e.clientWidth)).toBeLessThanOrEqual(0);
  // A work on the treatment goes on meanwhile, and is seen on its side.
  await page.locator('[data-tray]').first().click();
  await type(page, 'Exposure', '-1');
  await bothSettled(page);
  const darker = await seenAt(page, await pointAt(page, 0.6, 0.95));
  expect(darker[0]).toBeLessThan(colourAt(treated, 0.6, 0.95, 0)[0] - 30);
  await page.keyboard.press('h');
  await expect(page.locator('canvas[data-beside]')).toHaveCount(0);
});

test('side by side: two prints move and grow as one, and each is what its label says', async ({
  page,
  app,
}) => {
  await openBench(page, app, [light, mono]);
  await page.keyboard.press('s');
  await bothSettled(page);
  const prints = page.locator('[data-print]');
  await expect(prints).toHaveCount(2);
  const own = await pictureOn(page);
  const other = async () =>
    page.locator('canvas[data-beside]').evaluate(
      (e: HTMLCanvasElement, place) => {
        const at = (n: number, share: number) => Math.round(n * share);
        return [
          ...e.getContext('2d')!.getImageData(at(e.width, place[0]), at(e.height, place[1]), 1, 1).data,
        ];
      },
      [0.3, 0.6] as const,
    );
  const bare = await other();
  expect(bare[0]).toBeGreaterThan(bare[1] + 30);
  const there = colourAt(own, 0.2, 0.8);
  expect(Math.max(...there) - Math.min(...there)).toBeLessThan(3);

  // The first becomes the picture up to its first step: lit, and still coloured.
  await page.getByRole('button', { name: 'First picture: Bare' }).click();
  await page.getByRole('menuitem', { name: 'Light', exact: true }).click();
  await expect(page.getByRole('button', { name: 'First picture: Up to Light' })).toBeVisible();
  await bothSettled(page);
  const lit = await other();
  expect(lit[0]).toBeGreaterThan(bare[0] + 20);
  expect(lit[0]).toBeGreaterThan(lit[1] + 30);

  // The wheel on one grows both about the same place.
  const boxes = async () => Promise.all([0, 1].map(async i => (await prints.nth(i).boundingBox())!));
  const [a] = await boxes();
  await page.mouse.move(a.x + a.width * 0.4, a.y + a.height * 0.5);
  await page.mouse.wheel(0, -900);
  await expect.poll(async () => (await boxes())[0].width).toBeGreaterThan(a.width * 2);
  const [one, two] = await boxes();
  expect([two.width, two.height]).toEqual([one.width, one.height]);
  const wall = (await page.locator('[data-stage-of-picture]').boundingBox())!;
  expect(Math.abs(Math.abs(two.x - one.x) - wall.width / 2)).toBeLessThan(5);
  await page.keyboard.press('Shift+h');
  const [below, above] = await boxes();
  expect(below.x).toBe(above.x);
  expect(below.y).toBeGreaterThan(above.y);
});

test('another take, the picture without a step, and before the last change stand beside it', async ({
  page,
  app,
}) => {
  await openBench(page, app, [light]);
  await page.getByRole('button', { name: /^New take from/ }).click();
  await expect(page.getByRole('button', { name: 'Take B' })).toHaveAttribute('aria-current', 'true');
  await page.locator('[data-tray]').first().click();
  await type(page, 'Exposure', '-1');
  await saved(page);
  await page.keyboard.press('h');
  await bothSettled(page);
  const at = await pointAt(page, 0.3, 0.25);
  const bare = (await seenAt(page, at))[0];
  const showing = async (name: string, item: string) => {
    await page.getByRole('button', { name: /^First picture/ }).click();
    await page.getByRole('menuitem', { name: item, exact: true }).click();
    await expect(page.getByRole('button', { name: `First picture: ${name}` })).toBeVisible();
    await bothSettled(page);
    return (await seenAt(page, at))[0];
  };
  expect(await showing('Take A', 'A')).toBeGreaterThan(bare + 15);
  expect(await showing('Before the last change', 'Before the last change')).toBeGreaterThan(bare + 15);
  expect(await showing('Without Light', 'Without the chosen step')).toBe(bare);
  expect(await showing('Take B', 'This take as it is')).toBeLessThan(bare - 15);
  expect(await showing('Bare', 'Bare')).toBe(bare);
});

test('areas are painted on the treated side; on the other nothing is', async ({ page, app }) => {
  await openBench(page, app, [light]);
  await page.locator('[data-tray]').first().click();
  await page.getByRole('button', { name: 'New area', exact: true }).click();
  await expect(page.getByText(/^Nothing yet/)).toBeVisible();
  await page.keyboard.press('h');
  await bothSettled(page);
  const strokes = () => page.getByRole('button', { name: /^Undo: Paint/ });
  await drag(page, [0.1, 0.3], [0.3, 0.3]);
  await settled(page);
  await expect(strokes()).toHaveCount(0);
  await drag(page, [0.7, 0.25], [0.8, 0.25]);
  await settled(page);
  await expect(strokes()).toHaveCount(1);
  const seen = async (u: number) => (await seenAt(page, await pointAt(page, u, 0.25)))[0];
  expect(await seen(0.75)).toBeGreaterThan((await seen(0.9)) - 5);
  await page.keyboard.press('h');
  await expect.poll(async () => colourAt(await pictureOn(page), 0.75, 0.25)[0]).toBeGreaterThan(210);
});

test('tones and hues are charted, of the whole and of a dragged region', async ({ page, app }) => {
  const split = {
    kind: 'split-tone',
    id: 's',
    stage: 'tone',
    settings: { shadows: { hue: 230, saturation: 0.4 }, highlights: { hue: 45, saturation: 0.4 } },
  };
  await openBench(page, app, [mono, split]);
  await page.locator('[data-tray]').first().click();
  await page.getByRole('button', { name: 'Tones and hues' }).click();
  const drift = page.locator('[data-drift]');
  await expect(drift).toHaveAttribute('aria-label', /L\* 13: 2\d\d°.*L\* 88: [4-9]\d°/);
  // Of a bright region there is nothing of the shadows.
  await page.getByRole('button', { name: 'Of a region' }).click();
  await drag(page, [0.8, 0.1], [0.98, 0.4]);
  await expect(page.locator('[data-region]')).toBeVisible();
  await expect(drift).not.toHaveAttribute('aria-label', /L\* 13/);
  await expect(drift).toHaveAttribute('aria-label', /L\* 88/);
  await page.getByRole('button', { name: 'Of all of it' }).click();
  await expect(drift).toHaveAttribute('aria-label', /L\* 13/);
  await expect(page.locator('[data-region]')).toHaveCount(0);
});

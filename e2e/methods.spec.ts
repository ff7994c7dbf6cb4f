import { expect, type Page } from '@playwright/test';
import { pureHue } from '../core/colour/hues';
import { movesBetween } from '../core/analysis/moved';
import { bandOf } from '../core/analysis/reading';
import { luma } from '../core/colour/srgb';
import { tiff16 } from '../server/testing/pictures';
import { methods } from '../words/methods';
import { test } from './app';
import { differs, pictureOn, type Shot } from './picture';
import { openBench, panelOf, saved } from './work';

/** Methods from start to end by keys, on three photographs, read by their pixels. */

type Colour = [number, number, number];
const codes = (rgb: readonly number[]) =>
  rgb.map(v => Math.round(Math.min(1, Math.max(0, v)) * 65535)) as Colour;
const painted = (at: (x: number, y: number) => readonly number[]) =>
  tiff16(480, 320, (x, y) => codes(at((x + 0.5) / 480, (y + 0.5) / 320)));

const photographs: Record<string, { file: () => Promise<Buffer>; without: string[] }> = {
  'a red boat on water': {
    file: () =>
      painted((x, y) => {
        if (Math.hypot((x - 0.3) * 1.6, (y - 0.65) * 2.4) < 0.22)
          return pureHue(8).map(v => 0.15 + 0.5 * v * (1.1 - y));
        const ripple = 0.04 * Math.sin(x * 60) * y;
        return y < 0.45
          ? [0.72 - 0.2 * y, 0.77 - 0.2 * y, 0.84 - 0.16 * y]
          : [0.2 + ripple, 0.26 + ripple, 0.27 + ripple];
      }),
    without: [],
  },
  'a dark room with a blue jug': {
    file: () =>
      painted((x, y) => {
        if (Math.abs(x - 0.7) < 0.12 && Math.abs(y - 0.35) < 0.2) return [0.8, 0.77, 0.68];
        const wall = 0.05 + 0.3 * x * (1 - y);
        return Math.hypot((x - 0.35) * 1.5, y - 0.7) < 0.16
          ? [0.24, 0.36 * (0.6 + x), 0.5 * (0.6 + x)]
          : [wall * 1.15, wall, wall * 0.8];
      }),
    without: [],
  },
  'a grey print': {
    file: () =>
      painted((x, y) => {
        const v = 0.16 + 0.4 * x * y + (Math.hypot((x - 0.5) * 1.5, y - 0.4) < 0.2 ? 0.3 : 0);
        return [v, v, v];
      }),
    without: ['Five conversions', 'Colour left in one thing', 'A faded colour print'],
  },
};

const line = (page: Page) => page.getByRole('region', { name: 'Treatment, in working order' });
const panel = (page: Page) => panelOf(page, 'Method');

/** Opens the methods by their key and one of them by Tab and Enter. */
async function begin(page: Page, title: string): Promise<void> {
  await page.keyboard.press('p');
  const board = panelOf(page, 'Methods');
  const row = board.getByRole('button', { name: title, exact: true });
  await expect(row).toBeVisible();
  await expect(board.locator('canvas[data-drawn]').first()).toBeVisible();
  await expect(board.getByRole('list').getByRole('button').first()).toBeFocused();
  for (let n = 0; n < methods.length; n++) {
    if (await row.evaluate(e => e === document.activeElement)) break;
    await page.keyboard.press('Tab');
  }
  await expect(row).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(panel(page).getByRole('heading', { name: title })).toBeVisible();
}

/** A band with a smaller share of the picture says nothing. */
const LEAST_SHARE = 0.05;

/** Checks that a picture moved as a page says, in each band that it has enough of. */
function moved(before: Shot, after: Shot, moves: Record<string, readonly string[]>, where: string): void {
  const found = movesBetween(before.data, after.data, 4);
  const count: Record<string, number> = {};
  for (let i = 0; i < before.data.length; i += 4) {
    const band = bandOf(luma(before.data[i], before.data[i + 1], before.data[i + 2]));
    count[band] = (count[band] ?? 0) + 1;
  }
  for (const [band, ways] of Object.entries(moves)) {
    if ((count[band] ?? 0) < (LEAST_SHARE * before.data.length) / 4) continue;
    expect(found[band as keyof typeof found], `${where}: ${band}`).toEqual(expect.arrayContaining([...ways]));
  }
}

/**
 * What is walked on which photograph: as few as do all that a page can do, one on each at least. Every page of every method
 * is laid on three photographs, and its moves read, in `words/methods.test.ts`.
 */
function walks(): Map<string, (typeof methods)[number][]> {
  const names = Object.keys(photographs);
  const of = new Map(names.map(name => [name, [] as (typeof methods)[number][]]));
  const seen = new Set<string>();
  const newIn = (method: (typeof methods)[number]) =>
    new Set(method.pages.map(page => page.deed.does).filter(does => !seen.has(does))).size;
  const left = [...methods];
  for (let n = 0; left.some(newIn) || [...of.values()].some(all => !all.length); n++) {
    const name = names[n % names.length];
    const [next] = left
      .filter(method => !photographs[name].without.includes(method.title))
      .sort((a, b) => newIn(b) - newIn(a));
    of.get(name)!.push(next);
    next.pages.forEach(page => seen.add(page.deed.does));
    left.splice(left.indexOf(next), 1);
  }
  return of;
}
const walked = walks();

for (const [name, { file }] of Object.entries(photographs)) {
  test(`methods on ${name}, by keys: each page is one undo, and moves the picture as it says`, async ({
    page,
    app,
  }) => {
    test.setTimeout(300_000);
    const bare = await openBench(page, app, [], await file());
    for (const method of walked.get(name)!) {
      await begin(page, method.title);
      let undoes = 0;
      let before = bare;
      for (;;) {
        const current = await panel(page).locator('[aria-current=step]').textContent();
        const of = method.pages.find(p => current?.endsWith(p.name))!;
        const where = `${method.title}, ${of.name}`;
        if (of.deed.does !== 'series' && of.deed.does !== 'choose') {
          await expect(panel(page).locator('[data-done][aria-current=step]'), where).toHaveCount(1);
          undoes++;
        }
        await expect(panel(page).getByText('Reading the picture')).toHaveCount(0);
        const after = await pictureOn(page);
        moved(before, after, of.moves, where);
        before = after;
        const next = panel(page).getByRole('button', { name: /^(Next: |Done$)/ });
        await expect(next).toBeFocused();
        const isLast = (await next.textContent()) === 'Done';
        await page.keyboard.press('Enter');
        if (isLast) break;
        await expect(panel(page).locator('[aria-current=step]')).not.toHaveText(current!);
      }
      expect(differs(before, bare), method.title).toBeGreaterThan(2);
      await expect(panel(page)).toHaveCount(0);
      for (let n = 0; n < undoes; n++) await page.keyboard.press('Control+z');
      await expect(line(page).locator('[data-tray]')).toHaveCount(0);
    }
    expect(differs(await pictureOn(page), bare)).toBeLessThan(0.5);
  });
}

test('a method is left by Escape, taken up again where it was, and a page can be skipped', async ({
  page,
  app,
}) => {
  await openBench(page, app, [], await photographs['a red boat on water'].file());
  await begin(page, 'Matte print');
  await page.keyboard.press('Enter');
  await expect(panel(page).getByRole('button', { name: /Choose a conversion/ })).toHaveAttribute(
    'aria-current',
    'step',
  );
  await page.keyboard.press('Enter');
  const curve = panel(page).getByRole('button', { name: /Lift the blacks/ });
  await expect(curve).toHaveAttribute('aria-current', 'step');
  await expect(line(page).locator('[data-tray]')).toHaveCount(3);
  await panel(page).getByRole('button', { name: 'Skip' }).click();
  await expect(panel(page).getByRole('button', { name: /A tone you hardly see/ })).toHaveAttribute(
    'aria-current',
    'step',
  );
  await expect(line(page).locator('[data-tray]')).toHaveCount(3);
  await expect(curve).not.toHaveAttribute('data-done');
  await saved(page);
  await page.keyboard.press('Escape');
  await expect(panel(page)).toHaveCount(0);

  await page.reload();
  await pictureOn(page);
  await page.getByRole('button', { name: 'Methods' }).click();
  const row = panelOf(page, 'Methods').getByRole('button', { name: 'Matte print' });
  await expect(row).toContainText('Begun, 3 of 5');
  await row.click();
  await expect(panel(page).getByRole('button', { name: /A tone you hardly see/ })).toHaveAttribute(
    'aria-current',
    'step',
  );
  // What was skipped is laid when it is asked for.
  await curve.click();
  await panel(page).getByRole('button', { name: 'Lay the curve on' }).click();
  await expect(curve).toHaveAttribute('data-done');
  await expect(line(page).locator('[data-tray]')).toHaveCount(4);
});

test('what is there already is gone on with, and a control of a page is that of its step', async ({
  page,
  app,
}) => {
  const mono = { id: 'own', kind: 'mono', settings: { method: 'luma' } };
  await openBench(page, app, [mono], await photographs['a red boat on water'].file());
  await begin(page, 'Darkroom sepia');
  await page.keyboard.press('Enter');
  await expect(panel(page).getByText('It has been done here already')).toBeVisible();
  await expect(line(page).locator('[data-tray]')).toHaveCount(2);
  await page.keyboard.press('Enter');
  await expect(panel(page).getByRole('button', { name: /Lift the black/ })).toHaveAttribute(
    'aria-current',
    'step',
  );
  await page.keyboard.press('Enter');
  await expect(panel(page).getByRole('heading', { name: 'Sepia bath' })).toBeVisible();
  const before = await pictureOn(page);
  await page.getByRole('textbox', { name: 'Bath 1 time, number', exact: true }).fill('90');
  await page.keyboard.press('Enter');
  await saved(page);
  expect(movesBetween(before.data, (await pictureOn(page)).data, 4).darks).toContain('warmer');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('textbox', { name: 'Bath 1 time, number', exact: true })).toHaveValue('90');
});

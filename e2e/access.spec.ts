import { expect, type Page } from '@playwright/test';
import { test } from './app';
import { colourAt, differs, pictureOn } from './picture';
import { arrived, chart, chroma, openBench, panelOf, saved } from './work';

/** The job for whoever does not see it, has no mouse, needs it large, or works by touch. docs/access.md describes the way. */

/** Goes on by Tab until something has the focus. */
async function tabTo(
  page: Page,
  role: 'button' | 'link' | 'slider' | 'textbox',
  name: string | RegExp,
  most = 60,
) {
  const wanted = page.getByRole(role, { name }).first();
  await expect(wanted).toBeAttached();
  for (let n = 0; n < most; n++) {
    if (await wanted.evaluate(e => e === document.activeElement || e.contains(document.activeElement)))
      return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`Tab does not come to ${String(name)}`);
}

test('the whole job by keys, roles and names: every change is told, saving once', async ({ page, app }) => {
  test.setTimeout(180_000);
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'By ear' });
  await app.bringIn(series.id, await chart(), 'tide-board.tif');
  await page.goto(app.url);
  await tabTo(page, 'link', 'By ear');
  await page.keyboard.press('Enter');
  await expect(
    page
      .getByRole('grid', { name: /photographs/i })
      .or(page.getByRole('grid'))
      .first(),
  ).toBeVisible();
  await page.getByRole('row', { name: /Tide board/i }).focus();
  await page.keyboard.press('Enter');
  await pictureOn(page);

  // The picture is described by its tones and colours.
  const picture = page.locator('[data-stage-of-picture]');
  await expect(picture).toHaveAccessibleName(/^The picture/);
  await expect(picture).toHaveAccessibleDescription(/half|third|quarter/);
  await expect(picture).toHaveAccessibleDescription(/Coloured: .*(red|green|orange)/);

  await tabTo(page, 'button', /^Black and white/);
  await page.keyboard.press('Enter');
  const changed = page.getByRole('status', { name: 'What changed' });
  await expect(changed).toHaveText(/greyer/);
  await expect(picture).not.toHaveAccessibleDescription(/Coloured/);
  const saving = page.getByRole('status', { name: 'Saving' });
  await expect(saving).toHaveText('Saved. From now on each change is.');

  // A tone from the board of steps.
  await tabTo(page, 'button', 'Add a step to Tone', 90);
  await page.keyboard.press('Enter');
  await tabTo(page, 'button', 'Sepia', 90);
  await page.keyboard.press('Enter');
  await expect(changed).toHaveText(
    /^(Lights|Middle tones|Lights and middle tones|Lights, middle tones and darks) warmer/,
  );
  await saved(page);
  // Said once, and not with each change.
  await expect(saving).toHaveText('Saved. From now on each change is.');
  const time = panelOf(page, /./).getByRole('slider', { name: 'Bath 1 time' });
  await expect(time).toHaveAttribute('aria-valuetext', '55');
  await time.focus();
  await page.keyboard.press('End');
  await expect(changed).toHaveText(/darks.* warmer/);

  // Compared, by its key and told by its name.
  await page.keyboard.press('h');
  await expect(page.getByRole('button', { name: 'Half and half' })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('h');
  await tabTo(page, 'button', 'Send out', 90);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /Send out/ }).first()).toBeVisible();
  await tabTo(page, 'button', /^Send /, 90);
  await page.keyboard.press('Enter');
  await expect(page.getByText(/\.jpg/).first()).toBeVisible();
});

test('a problem with saving is read out, and that it is over', async ({ page, app, faults }) => {
  await openBench(page, app, [{ id: 'one', kind: 'tint' }]);
  const saving = page.getByRole('status', { name: 'Saving' });
  await page.route('**/api/takes/**', route => route.abort());
  const hue = page.getByRole('slider', { name: 'Hue', exact: true });
  await hue.focus();
  await page.keyboard.press('ArrowRight');
  await expect(saving).toHaveText(/^Not saved\. /);
  await page.unroute('**/api/takes/**');
  await page.getByRole('button', { name: 'Try now' }).click();
  await expect(saving).toHaveText(/^Saved/);
  faults.length = 0;
});

test('at twice the size everything can be reached, and nothing lies beyond the window', async ({
  page,
  app,
}) => {
  await page.setViewportSize({ width: 640, height: 400 });
  await openBench(page, app, [
    { id: 'mono', kind: 'mono' },
    { id: 'split', kind: 'split-tone' },
  ]);
  const id = page.url().split('/').at(-1)!;
  const photograph = await app.api<{ seriesId: string; currentTakeId: string }>(
    'GET',
    `/api/photographs/${id}`,
  );
  const { seriesId, currentTakeId } = photograph;
  for (const path of [
    `/photographs/${id}`,
    '/',
    '/put-aside',
    `/series/${seriesId}`,
    `/series/${seriesId}/send-out?takes=${currentTakeId}`,
  ]) {
    await page.goto(app.url + path);
    await arrived(page);
    await page.waitForTimeout(400);
    const away = await page.evaluate(() => {
      const all = [
        ...document.querySelectorAll<HTMLElement>('button, a[href], input:not([type=file]), [tabindex="0"]'),
      ];
      return all
        .filter(
          e =>
            e.checkVisibility({ visibilityProperty: true }) &&
            !e.closest('[inert]') &&
            e.getAttribute('tabindex') !== '-1',
        )
        .filter(e => {
          e.scrollIntoView({ block: 'nearest', inline: 'nearest' });
          const { left, right, top, bottom, width, height } = e.getBoundingClientRect();
          if (width <= 1 || height <= 1) return false;
          const x = Math.min(Math.max((left + right) / 2, left + 1), right - 1);
          const y = (top + bottom) / 2;
          return x < 0 || y < 0 || x > window.innerWidth || y > window.innerHeight;
        })
        .map(e => e.getAttribute('aria-label') ?? e.outerHTML.slice(0, 160));
    });
    expect(away, path).toEqual([]);
    const wide = await page.evaluate(() => document.documentElement.scrollWidth);
    expect(wide, path).toBeLessThanOrEqual(640);
  }
});

test('no label is cut off at 1024', async ({ page, app }) => {
  await page.setViewportSize({ width: 1024, height: 700 });
  const kinds = ['light', 'mono', 'curve', 'split-tone', 'baths', 'wash', 'vignette', 'grain'];
  await openBench(
    page,
    app,
    kinds.map(kind => ({ id: kind, kind })),
  );
  /** Words of the interface of which a part is hidden; titles that people gave may be. */
  const cut = () =>
    page.evaluate(() => {
      const hasText = (e: Element) =>
        [...e.childNodes].some(n => n.nodeType === 3 && n.textContent!.trim() !== '');
      const clips = (e: Element) => ['hidden', 'clip'].includes(getComputedStyle(e).overflowX);
      return [...document.querySelectorAll('body *')]
        .filter(
          e =>
            hasText(e) &&
            e.checkVisibility({ visibilityProperty: true }) &&
            !e.closest('h1, header a, [role=status], [aria-label="Treatment, in working order"]'),
        )
        .filter(e => {
          const box = e.getBoundingClientRect();
          if (box.width < 2) return false;
          if (clips(e) && e.scrollWidth > e.clientWidth + 1) return true;
          for (let above = e.parentElement; above && above !== document.body; above = above.parentElement) {
            const { left, right, width } = above.getBoundingClientRect();
            if (clips(above)) return width > 2 && (box.right > right + 1 || box.left < left - 1);
          }
          return false;
        })
        .map(e => e.textContent!.trim().slice(0, 60));
    });
  for (const kind of kinds) {
    await page.locator(`[data-tray="${kind}"]`).click();
    await expect(page.locator(`aside[data-step="${kind}"]`)).toBeVisible();
    expect(await cut(), kind).toEqual([]);
  }
  for (const [key, name] of [
    ['l', 'Looks'],
    ['p', 'Methods'],
    ['w', 'Tint'],
    ['y', 'History'],
  ]) {
    await page.keyboard.press(key);
    await expect(panelOf(page, name)).toBeVisible();
    await expect(panelOf(page, name).getByRole('button').nth(1)).toBeVisible();
    expect(await cut(), name).toEqual([]);
    await page.keyboard.press('Escape');
  }
  for (const stage of ['Ground', 'Mono', 'Tone', 'Colour', 'Finish']) {
    await page.getByRole('button', { name: `Add a step to ${stage}` }).click();
    expect(await cut(), `adding to ${stage}`).toEqual([]);
    await page.keyboard.press('Escape');
  }
});

test('with less motion nothing moves by itself', async ({ page, app }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openBench(page, app, [{ id: 'mono', kind: 'mono' }]);
  await page.locator('aside [data-tells]').first().hover();
  await page.getByRole('button', { name: /^Help/ }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  const moving = await page.evaluate(
    () => document.getAnimations().filter(a => a.playState === 'running').length,
  );
  expect(moving).toBe(0);
});

test.describe('by touch', () => {
  test.use({ hasTouch: true });

  test('one finger paints, two move and enlarge, and leave no stroke', async ({ page, app }) => {
    const area = { id: 'm', name: 'Thing', parts: [] };
    const wash = {
      id: 'w',
      kind: 'wash',
      mask: 'm',
      settings: { pigment: { kind: 'flat', colour: '#b03030' } },
    };
    const before = await openBench(page, app, [{ id: 'mono', kind: 'mono' }, wash], await chart(), [area]);
    const touch = await page.context().newCDPSession(page);
    const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...points: [number, number][]) =>
      touch.send('Input.dispatchTouchEvent', {
        type,
        touchPoints: points.map(([x, y], id) => ({ x, y, id })),
      });
    const stage = (await page.locator('[data-stage-of-picture]').boundingBox())!;
    const [cx, cy] = [stage.x + stage.width / 2, stage.y + stage.height / 2];
    await page.getByRole('button', { name: 'Brush', exact: true }).tap();
    await send('touchStart', [cx - 60, cy - 120]);
    for (let x = -60; x <= 60; x += 12) await send('touchMove', [cx + x, cy - 120]);
    await send('touchEnd');
    await saved(page);
    const painted = await pictureOn(page);
    const at = [0.5, 0.5 - 120 / painted.height] as const;
    expect(chroma(colourAt(before, ...at))).toBeLessThan(0.01);
    expect(chroma(colourAt(painted, ...at))).toBeGreaterThan(0.04);

    const zoom = page.getByRole('group', { name: 'Zoom', exact: true });
    const fitted = parseInt((await zoom.textContent())!, 10);
    await send('touchStart', [cx - 40, cy]);
    await send('touchStart', [cx - 40, cy], [cx + 40, cy]);
    for (let by = 0; by <= 80; by += 10) await send('touchMove', [cx - 40 - by, cy], [cx + 40 + by, cy]);
    await send('touchEnd');
    await expect.poll(async () => parseInt((await zoom.textContent())!, 10)).toBeGreaterThan(fitted * 1.5);
    // What the first finger began was given up: no second stroke.
    await page.keyboard.press('f');
    expect(differs(await pictureOn(page), painted)).toBeLessThan(0.3);
  });
});

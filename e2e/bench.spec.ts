import type { Page } from '@playwright/test';
import { png8 } from '../server/testing/pictures';
import { expect, test } from './app';
import type { App } from '../server/testing/running';
import { colourAt, pictureOn, settled } from './picture';
import { add, type } from './work';

/** A photograph in a series of its own, opened on the Bench. */
async function open(page: Page, app: App, width = 900, height = 600) {
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'On the bench' });
  const file = await png8(width, height, (x, y) => [(x * 255) / width, (y * 255) / height, 120]);
  const photograph = await app.bringIn(series.id, file, 'ramp.png');
  await page.goto(`${app.url}/photographs/${photograph.id}`);
  await settled(page);
  return { series, photograph };
}
const line = (page: Page) => page.getByRole('region', { name: 'Treatment, in working order' });
const trays = (page: Page) => line(page).locator('[data-tray]');
const names = async (page: Page) =>
  (await trays(page).locator('.name span:first-child').allTextContents()).join(', ');
const saved = (page: Page) => expect(page.locator('[data-saving=saved]')).toBeVisible();
test('steps are added, switched, dialled, moved by keys and removed, each undone', async ({ page, app }) => {
  await open(page, app);
  await add(page, 'Ground', 'Light');
  await add(page, 'Mono', 'Mono');
  await add(page, 'Tone', 'Split tone');
  await expect.poll(() => names(page)).toBe('Light, Mono, Split tone');

  // A slider by keys: exposure in steps of a twentieth.
  await trays(page).first().click();
  const exposure = page.getByRole('slider', { name: 'Exposure' });
  await exposure.focus();
  for (let i = 0; i < 20; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('textbox', { name: 'Exposure, number' })).toHaveValue('+1.00');
  await saved(page);
  const lit = await pictureOn(page);
  // Quick keys are one edit; on a busy machine some of them may have rested.
  await expect(async () => {
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('textbox', { name: 'Exposure, number' })).toHaveValue('0.00', {
      timeout: 1500,
    });
  }).toPass();
  expect(colourAt(lit, 0.5, 0.5)[0]).toBeGreaterThan(colourAt(await pictureOn(page), 0.5, 0.5)[0] + 30);

  // Off and on by the space bar, along the line by arrows, into the next group by Alt and arrow.
  await trays(page).first().focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Space');
  await expect(trays(page).nth(1)).toContainText('Off');
  const coloured = colourAt(await pictureOn(page), 0.9, 0.1);
  expect(coloured[0] - coloured[1]).toBeGreaterThan(50);
  await page.keyboard.press('Space');
  await page.keyboard.press('Alt+ArrowRight');
  await expect(line(page).getByRole('group', { name: 'Tone' }).locator('[data-tray]')).toHaveCount(2);
  await page.keyboard.press('Alt+ArrowRight');
  await expect.poll(() => names(page)).toBe('Light, Split tone, Mono');
  await page.keyboard.press('Delete');
  await expect.poll(() => names(page)).toBe('Light, Split tone');
  await saved(page);
  for (const before of ['Light, Split tone, Mono', 'Light, Mono, Split tone']) {
    await page.getByRole('button', { name: /^Undo: / }).click();
    await expect.poll(() => names(page)).toBe(before);
  }
});

test('a tray is dragged to another place and another group', async ({ page, app }) => {
  await open(page, app);
  await add(page, 'Tone', 'Split tone');
  await add(page, 'Tone', 'Light');
  await expect.poll(() => names(page)).toBe('Split tone, Light');
  const drag = async (from: { x: number; y: number }, to: { x: number; y: number }) => {
    await page.mouse.move(from.x, from.y);
    await page.mouse.down();
    await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 6 });
    await page.mouse.move(to.x, to.y, { steps: 6 });
    await page.waitForTimeout(200);
    await page.mouse.up();
    await page.waitForTimeout(300);
  };
  // Never by the very middle, as a screen reader does.
  const side = async (of: ReturnType<typeof trays>, share: number) => {
    const box = (await of.boundingBox())!;
    return { x: box.x + box.width * share, y: box.y + 30 };
  };
  await drag(await side(trays(page).nth(1), 0.6), await side(trays(page).nth(0), 0.2));
  await expect.poll(() => names(page)).toBe('Light, Split tone');
  await drag(await side(trays(page).nth(0), 0.6), await side(trays(page).nth(1), 0.8));
  await expect.poll(() => names(page)).toBe('Split tone, Light');
  // Dropped where it is, it stays.
  await drag(await side(trays(page).nth(0), 0.6), await side(trays(page).nth(1), 0.2));
  expect(await names(page)).toBe('Split tone, Light');
  await drag(
    await side(trays(page).nth(1), 0.6),
    await side(line(page).getByRole('group', { name: 'Finish' }), 0.5),
  );
  await expect(line(page).getByRole('group', { name: 'Finish' }).locator('[data-tray]')).toHaveCount(1);
  await saved(page);
  await page.reload();
  await expect(line(page).getByRole('group', { name: 'Finish' }).locator('[data-tray]')).toHaveCount(1);
});

test('the lamp shows the treatment up to where it stands', async ({ page, app }) => {
  await open(page, app);
  await add(page, 'Mono', 'Mono');
  const spread = async () => {
    const c = colourAt(await pictureOn(page), 0.9, 0.1);
    return Math.max(...c) - Math.min(...c);
  };
  expect(await spread()).toBeLessThan(3);
  const lamp = page.getByRole('slider', { name: /^Lamp/ });
  await lamp.focus();
  await page.keyboard.press('Home');
  await expect(lamp).toHaveAttribute('aria-valuetext', 'Bare');
  expect(await spread()).toBeGreaterThan(80);
  await page.keyboard.press('End');
  expect(await spread()).toBeLessThan(3);
});

test('the picture zooms to 1:1, moves, and fits again', async ({ page, app }) => {
  await open(page, app, 2000, 1400);
  const zoom = page.getByRole('group', { name: 'Zoom', exact: true });
  await zoom.getByRole('button', { name: '1:1' }).click();
  await expect(zoom).toContainText('100 %');
  const middle = await pictureOn(page);
  const centre = colourAt(middle, 0.5, 0.5);
  expect(Math.abs(centre[0] - 127)).toBeLessThan(4);
  // One device pixel is one pixel of the photograph: red rises by 255 over 2000 columns.
  const right = colourAt(middle, 0.9, 0.5);
  expect(Math.abs(right[0] - centre[0] - (middle.width * 0.4 * 255) / 2000)).toBeLessThan(3);
  const picture = page.getByRole('group', { name: /^The picture/ });
  await picture.hover();
  await page.mouse.down();
  await page.mouse.move(300, 340, { steps: 5 });
  await page.mouse.up();
  expect(colourAt(await pictureOn(page), 0.5, 0.5)[0]).toBeGreaterThan(centre[0] + 10);
  await page.mouse.wheel(0, -400);
  await expect(zoom).not.toContainText('100 %');
  await page.keyboard.press('f');
  await expect(zoom.getByRole('button', { name: 'Fit' })).toHaveAttribute('aria-pressed', 'true');
  const whole = await pictureOn(page);
  expect(colourAt(whole, 0, 0.5)[0]).toBeLessThan(4);
  expect(colourAt(whole, 1, 0.5)[0]).toBeGreaterThan(251);
});

test('takes are copied, switched, named, put aside and brought back', async ({ page, app }) => {
  await open(page, app);
  await add(page, 'Mono', 'Mono');
  await page.getByRole('button', { name: 'New take from A' }).click();
  const takes = page.getByRole('group', { name: 'Takes of this photograph' });
  await expect(takes.getByRole('button', { name: 'Take B' })).toHaveAttribute('aria-current', 'true');
  await expect.poll(() => names(page)).toBe('Mono');
  await add(page, 'Tone', 'Split tone');
  await saved(page);
  await page.getByRole('button', { name: 'More for this take' }).click();
  await page.getByRole('menuitem', { name: 'Rename this take' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Cold');
  await page.keyboard.press('Enter');
  await takes.getByRole('button', { name: 'Take A' }).click();
  await expect.poll(() => names(page)).toBe('Mono');
  await takes.getByRole('button', { name: 'Take B, Cold' }).click();
  await expect.poll(() => names(page)).toBe('Mono, Split tone');
  await page.getByRole('button', { name: 'More for this take' }).click();
  await page.getByRole('menuitem', { name: 'Put this take aside' }).click();
  await expect(takes.getByRole('button', { name: /^Take B/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await expect(takes.getByRole('button', { name: 'Take B, Cold' })).toBeVisible();
});

test('details show the SHA-256 of the original', async ({ page, app }) => {
  const { photograph } = await open(page, app);
  const { sha256 } = await app.api<{ sha256: string }>('GET', `/api/photographs/${photograph.id}`);
  await page.getByRole('button', { name: 'Details of this photograph' }).click();
  await expect(page.getByRole('dialog').getByText(sha256)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

test('the bare photograph is shown as long as it is held, or from one click to the next', async ({
  page,
  app,
}) => {
  await open(page, app);
  await add(page, 'Tone', 'Light');
  await type(page, 'Exposure', '1.5');
  const at = async () => colourAt(await pictureOn(page), 0.5, 0.5)[0];
  await settled(page);
  const treated = await at();
  const bare = page.getByRole('button', { name: 'Bare' });
  const label = page.getByRole('status').filter({ hasText: 'shows the treatment again' });

  await bare.click();
  await expect(label).toBeVisible();
  await expect.poll(at).toBeLessThan(treated - 20);
  await page.keyboard.press('b');
  await expect(label).toHaveCount(0);
  await expect.poll(at).toBe(treated);

  await page.keyboard.down('b');
  await expect.poll(at).toBeLessThan(treated - 20);
  await page.waitForTimeout(400);
  await page.keyboard.up('b');
  await expect.poll(at).toBe(treated);

  // Work on the treatment ends it, so that what is done is seen.
  await page.keyboard.press('b');
  await expect(bare).toHaveAttribute('aria-pressed', 'true');
  await type(page, 'Exposure', '0.5');
  await expect(bare).toHaveAttribute('aria-pressed', 'false');
  await expect(label).toHaveCount(0);
});

import { expect, test } from './app';
import { differs, pictureOn } from './picture';
import { openBench, saved } from './work';

const kinds = ['light', 'mono', 'curve', 'levels', 'split-tone', 'tint', 'baths', 'gradient-map', 'filter'];
/** Twenty steps that do something each. */
const twenty = Array.from({ length: 20 }, (_, i) => ({
  id: `k${i}`,
  kind: i < 2 ? kinds[i] : kinds[2 + (i % 7)],
  stage: i === 0 ? 'ground' : i === 1 ? 'mono' : i < 15 ? 'tone' : 'finish',
  strength: 0.4,
}));

test('with twenty steps the lamp stays in reach, wherever the line is scrolled to', async ({ page, app }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  const all = await openBench(page, app, twenty);
  const lamp = page.getByRole('slider', { name: /^Lamp/ });
  const place = async () => {
    const box = (await lamp.boundingBox())!;
    return box.x + box.width / 2;
  };
  const trays = page.locator('[data-tray]');
  await trays.first().click();
  await expect(trays.first()).toBeInViewport({ ratio: 1 });
  await expect.poll(place).toBeLessThan(1280 - 10);
  // From the end of what is seen it is dragged to a place that is seen: after the fourth tray.
  const after = (await trays.nth(3).boundingBox())!;
  const to = after.x + after.width + 4;
  const from = await place();
  const grip = (await lamp.boundingBox())!.y + 40;
  await page.mouse.move(from, grip);
  await page.mouse.down();
  for (const share of [0.02, 0.3, 0.7, 1]) await page.mouse.move(from + (to - from) * share, grip);
  await page.mouse.up();
  await expect(lamp).toHaveAttribute('aria-valuenow', '4');
  await expect.poll(place).toBeCloseTo(to, -1);
  const four = await pictureOn(page);
  expect(differs(four, all)).toBeGreaterThan(3);

  // Scrolled away from, it waits at the near end; by keys its place comes into sight.
  await trays.last().click();
  await expect(trays.last()).toBeInViewport({ ratio: 1 });
  await expect.poll(place).toBeGreaterThan(10);
  await expect.poll(place).toBeLessThan(60);
  await lamp.press('End');
  await expect(lamp).toHaveAttribute('aria-valuenow', '20');
  expect(differs(await pictureOn(page), all)).toBeLessThan(1);
  await lamp.press('Home');
  await expect(trays.first()).toBeInViewport({ ratio: 1 });
  await expect(lamp).toHaveAttribute('aria-valuetext', 'Bare');
  await lamp.press('End');
  await expect(trays.last()).toBeInViewport({ ratio: 1 });
});

test('a range of trays is switched, doubled, grouped and removed as one', async ({ page, app }) => {
  const all = await openBench(page, app, twenty.slice(0, 6));
  const order = () => page.locator('[data-tray]').evaluateAll(e => e.map(t => t.getAttribute('data-tray')));
  const trays = page.locator('[data-tray]');
  // Enter chooses a tray and takes hold of nothing: the keys go on to its menu.
  await trays.first().focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(page.locator('aside[data-step=k1]:not([inert])')).toBeVisible();
  await page.getByRole('button', { name: 'More', exact: true }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('menuitem', { name: 'Add an alternative' })).toBeVisible();
  await page.keyboard.press('Escape');
  await trays.nth(2).click();
  await trays.nth(4).click({ modifiers: ['Shift'] });
  await expect(page.locator('[data-picked]')).toHaveCount(3);
  await trays.nth(4).focus();
  await page.keyboard.press(' ');
  await expect(page.locator('[data-tray][data-off]')).toHaveCount(3);
  await expect(page.getByRole('button', { name: /^Undo: (3|Three) steps off/ })).toBeEnabled();
  expect(differs(await pictureOn(page), all)).toBeGreaterThan(2);
  await page.keyboard.press(' ');
  await expect(page.locator('[data-tray][data-off]')).toHaveCount(0);
  await page.keyboard.press('Control+d');
  await expect(trays).toHaveCount(9);
  await page.keyboard.press('Control+z');
  await expect(trays).toHaveCount(6);
  await trays.nth(2).click();
  await trays.nth(4).click({ modifiers: ['Shift'] });
  await trays.nth(4).focus();
  await page.keyboard.press('g');
  await expect(page.getByRole('group', { name: 'Group 1, 3 steps' })).toBeVisible();
  await trays.nth(2).click();
  await trays.nth(4).click({ modifiers: ['Shift'] });
  await trays.nth(4).focus();
  await page.keyboard.press('Delete');
  await expect.poll(order).toEqual(['k0', 'k1', 'k5']);
  await page.keyboard.press('Control+z');
  await expect.poll(order).toEqual(['k0', 'k1', 'k2', 'k3', 'k4', 'k5']);
  await saved(page);
});

import { expect, test } from './app';
import { colourAt, differs, luma, pictureOn } from './picture';
import { add, chroma, openBench, panelOf, saved, type } from './work';

/** Settings that hold what is typed and done, and what is said of them, by mouse and by keys. */

test('a group across stages and the whole treatment are laid on in part, kept, and undone', async ({
  page,
  app,
}) => {
  await openBench(page, app, [
    { kind: 'mono' },
    { kind: 'tint', settings: { hue: 30, saturation: 0.6 } },
    { kind: 'wash', settings: { pigment: { kind: 'flat', colour: '#a04020' } } },
  ]);
  const line = page.getByRole('region', { name: 'Treatment, in working order' });
  const whole = await pictureOn(page);
  await page.locator('[data-tray]').nth(2).click();
  await panelOf(page, 'Wash').getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Group with the one before' }).click();
  // In each stage that it stands in, the group is named.
  await expect(line.getByRole('group', { name: /^Group 1/ })).toHaveCount(2);
  expect((await pictureOn(page)).data.equals(whole.data)).toBe(true);
  await type(page, 'Strength of Group 1', '40');
  const part = await pictureOn(page);
  const at = (shot: typeof part) => chroma(colourAt(shot, 0.5, 0.25));
  expect(at(part)).toBeGreaterThan(0.01);
  expect(at(part)).toBeLessThan(at(whole) * 0.6);
  await expect(line.getByText('Group 1 40%').first()).toBeVisible();

  await type(page, 'Strength of the whole treatment', '50');
  const half = await pictureOn(page);
  // The photograph's own colour comes through: the red and the green below.
  expect(chroma(colourAt(half, 0.25, 0.75))).toBeGreaterThan(chroma(colourAt(part, 0.25, 0.75)) + 0.02);
  await saved(page);
  await page.reload();
  expect(differs(await pictureOn(page), half)).toBeLessThan(2);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => differs(await pictureOn(page), part)).toBeLessThan(2);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => differs(await pictureOn(page), whole)).toBeLessThan(2);
});

test('advice stands in a place of its own: no control moves when it comes and goes', async ({
  page,
  app,
}) => {
  await openBench(page, app, [{ kind: 'mono' }, { kind: 'levels', settings: { inBlack: 0.2 } }]);
  await add(page, 'Tone', 'Split tone');
  const panel = panelOf(page, 'Split tone');
  const places = () =>
    panel.getByRole('slider').evaluateAll(all => all.map(e => Math.round(e.getBoundingClientRect().y)));
  const before = await places();
  await expect(panel.getByText('One hue for the shadows')).toBeVisible();
  const advice = page.getByRole('complementary', { name: 'Advice' });
  await expect(advice).toContainText('solid black');
  expect(await places()).toEqual(before);
  await page.getByRole('button', { name: 'Dismiss this advice' }).click();
  await expect(advice).toBeHidden();
  expect(await places()).toEqual(before);

  // A wash on an area that is still empty: nothing is said of it, whatever it lies on.
  await add(page, 'Colour', 'Wash');
  await page.getByRole('button', { name: 'New area', exact: true }).click();
  await page.waitForTimeout(1500);
  await expect(advice).toBeHidden();
});

test('a wash goes from body colour to dye; ovals are measured, turned and hard; the brush is put away', async ({
  page,
  app,
}) => {
  await openBench(page, app, [
    { kind: 'mono' },
    { kind: 'wash', settings: { pigment: { kind: 'flat', colour: '#7a1f1f' } } },
  ]);
  await page.locator('[data-tray]').nth(1).click();
  const depth = page.getByRole('slider', { name: 'Depth, from body colour to dye' });
  const tone = async () => luma(colourAt(await pictureOn(page), 0.8, 0.25));
  const tint = await tone();
  await depth.focus();
  await page.keyboard.press('End');
  const dye = await tone();
  expect(dye).toBeLessThan(tint * 0.6);
  await page.keyboard.press('Home');
  await expect.poll(tone).toBeLessThan(tint * 0.75);
  await saved(page);

  await page.getByRole('button', { name: 'New area', exact: true }).click();
  await expect(page.getByRole('slider', { name: 'Brush size' })).toBeVisible();
  await page
    .getByRole('radio', { name: 'Oval' })
    .or(page.getByRole('button', { name: 'Oval', exact: true }))
    .first()
    .click();
  await expect(page.getByRole('slider', { name: 'Brush size' })).toHaveCount(0);
  await expect(page.getByText('Drag an oval from its middle.')).toBeVisible();
  const box = (await page.locator('canvas[data-picture]').boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.5);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.7, box.y + box.height * 0.6, { steps: 5 });
  await page.mouse.up();
  await type(page, 'Area across', '50');
  await type(page, 'Area softness', '0');
  const inside = async (u: number, v: number) => chroma(colourAt(await pictureOn(page), u, v, 1)) > 0.03;
  // Half of the long edge across: a quarter to each side, and a hard edge.
  await expect.poll(() => inside(0.74, 0.5)).toBe(true);
  expect(await inside(0.765, 0.5)).toBe(false);
  // Turned by its handle's keys, it stands upright.
  await type(page, 'Area turn', '90');
  await expect.poll(() => inside(0.74, 0.5)).toBe(false);
  await expect(page.getByRole('button', { name: /^Turn of the oval/ })).toBeVisible();
});

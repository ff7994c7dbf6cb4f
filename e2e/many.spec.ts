import { png8 } from '../server/testing/pictures';
import { expect, test } from './app';

/** Changes of many photographs at once, on the Sheet. */

test('a treatment is carried over to a range of four, undone as one, done again, and one of them retuned', async ({
  page,
  app,
}) => {
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'Carried over' });
  const photographs: { id: string; currentTakeId: string }[] = [];
  for (let i = 0; i < 6; i++) {
    const file = await png8(240, 160, (x, y) => [(x / 240) * 255, (y / 160) * 200 + 20, 90 + 10 * i]);
    photographs.push(await app.bringIn(series.id, file, `print-${i + 1}.png`));
  }
  const treatment = {
    format: 'lampwash-treatment',
    version: 1,
    steps: [{ kind: 'mono' }, { kind: 'tint', settings: { hue: 30, saturation: 0.4 } }],
  };
  await app.api('PUT', `/api/takes/${photographs[0].currentTakeId}/treatment`, { revision: 1, treatment });
  await page.goto(`${app.url}/series/${series.id}`);
  const prints = page.getByRole('row');
  await expect(prints).toHaveCount(6);
  await prints.nth(1).click();
  await prints.nth(4).click({ modifiers: ['Shift'] });
  await expect(page.getByText('4 selected')).toBeVisible();

  await page.getByRole('button', { name: 'Carry a treatment over' }).click();
  const dialog = page.getByRole('dialog', { name: 'Carry a treatment over' });
  await expect(dialog).toContainText('To four photographs.');
  await dialog.getByRole('radio', { name: 'Into the current takes' }).click();
  await dialog.getByRole('button', { name: 'Lay on' }).click();
  const bar = page.getByRole('region', { name: 'Change of many photographs' });
  await expect(bar).toContainText('done to four photographs.');
  for (let i = 1; i < 5; i++) await expect(prints.nth(i)).toContainText('Tint');
  await expect(prints.nth(5)).toContainText('Bare');

  await bar.getByRole('button', { name: 'Undo for all' }).click();
  await expect(bar).toContainText('undone for four photographs.');
  for (let i = 1; i < 5; i++) await expect(prints.nth(i)).toContainText('Bare');
  await page.keyboard.press('Control+Shift+z');
  await expect(bar).toContainText('done to four photographs.');
  for (let i = 1; i < 5; i++) await expect(prints.nth(i)).toContainText('Tint');
  await page.keyboard.press('Control+z');
  for (let i = 1; i < 5; i++) await expect(prints.nth(i)).toContainText('Bare');

  // Again, as new takes, a look this time; then one of them is opened and changed by itself.
  await page.getByRole('button', { name: 'Apply a look' }).click();
  const looks = page.getByRole('dialog', { name: 'Apply a look' });
  await expect(looks.getByRole('button', { name: 'Lay on' })).toBeDisabled();
  await looks.getByLabel('Find a look').fill('harb');
  await looks.getByRole('button', { name: /^Harbour cold/ }).click();
  await looks.getByRole('button', { name: 'Lay on' }).click();
  await expect(bar).toContainText('Harbour cold: done to four photographs.');
  await expect(prints.nth(2)).toContainText('Take B');
  await prints.nth(2).dblclick();
  await page.locator('[data-tray]').nth(1).click();
  const panel = page.getByRole('complementary', { name: 'Split tone' });
  const strength = panel.getByRole('textbox', { name: 'Strength, number' });
  await strength.fill('40');
  await strength.press('Enter');
  await expect(page.locator('[data-saving=saved]')).toBeVisible();
  const take = async ({ id }: { id: string }) => {
    const { currentTakeId } = await app.api<{ currentTakeId: string }>('GET', `/api/photographs/${id}`);
    const { treatment: now } = await app.api<{ treatment: { steps: { strength: number }[] } }>(
      'GET',
      `/api/takes/${currentTakeId}`,
    );
    return now.steps.map(s => s.strength);
  };
  await expect.poll(() => take(photographs[2])).toEqual([1, 0.4, 1]);
  expect(await take(photographs[3])).toEqual([1, 1, 1]);

  // Steps of a kind are switched in all of them.
  await page.goto(`${app.url}/series/${series.id}`);
  await prints.nth(1).click();
  await prints.nth(4).click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'More for the selected' }).click();
  await page.getByRole('menuitem', { name: 'Switch or strengthen steps' }).click();
  const steps = page.getByRole('dialog', { name: 'Switch or strengthen steps' });
  await steps.getByRole('button', { name: /Steps/ }).click();
  await page.getByRole('option', { name: 'Vignette' }).click();
  await steps.getByRole('radio', { name: 'Into the current takes' }).click();
  await steps.getByRole('button', { name: 'Do it' }).click();
  await expect(bar).toContainText('Vignette off: done to four photographs.');
  const isOn = async ({ id }: { id: string }) => {
    const { takes } = await app.api<{ takes: { steps: string[] }[] }>('GET', `/api/photographs/${id}`);
    return takes.at(-1)!.steps.includes('vignette');
  };
  for (const photograph of photographs.slice(1, 5)) await expect.poll(() => isOn(photograph)).toBe(false);
  await page.keyboard.press('Control+z');
  for (const photograph of photographs.slice(1, 5)) await expect.poll(() => isOn(photograph)).toBe(true);
});

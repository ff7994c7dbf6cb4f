import { png8 } from '../server/testing/pictures';
import { expect, test } from './app';

/** How even a series is, on its Sheet. */

test('the one that falls out and the bare one are named, shown beside the middle, and brought towards the series', async ({
  page,
  app,
}) => {
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'Even but for two' });
  const tint = (hue: number) => ({
    format: 'lampwash-treatment',
    version: 1,
    steps: [{ kind: 'mono' }, { kind: 'tint', settings: { hue, saturation: 0.3 } }],
  });
  for (let i = 0; i < 6; i++) {
    const file = await png8(240, 160, (x, y) => [(x / 240) * 255, (y / 160) * 200 + 20, 90 + 10 * i]);
    const photograph = await app.bringIn(series.id, file, `print-${i + 1}.png`);
    if (i === 5) continue;
    const treatment = tint(i === 3 ? 215 : 35);
    await app.api('PUT', `/api/takes/${photograph.currentTakeId}/treatment`, { revision: 1, treatment });
  }
  await page.goto(`${app.url}/series/${series.id}`);
  const strip = page.getByRole('region', { name: 'How even is this series?' });
  await expect(strip).toContainText(
    'Four photographs sit together. No. 4 is far cooler. No. 6 is still bare.',
  );

  const column = (number: number) => strip.getByRole('button', { name: new RegExp(`^No. ${number},`) });
  await expect(column(4)).toHaveAccessibleName(/far cooler in the shadows/);
  await column(4).focus();
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'No. 4 beside the middle of the series' });
  await expect(dialog.locator('figure')).toHaveCount(2);
  await dialog.getByRole('button', { name: 'Bring it towards the series' }).click();
  await expect(strip).toContainText('Five photographs sit together. No. 6 is still bare.');

  // It is a new take: the old one is there, and undo takes the new one away again.
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await expect(strip).toContainText('No. 4 is far cooler.');

  // Its own tone is fitted instead, again as a new take.
  await column(4).click();
  await dialog.getByRole('button', { name: 'Fit its own tone' }).click();
  await expect(strip).toContainText('Five photographs sit together. No. 6 is still bare.', {
    timeout: 60_000,
  });
  await page.keyboard.press('Control+z');
  await expect(strip).toContainText('No. 4 is far cooler.');

  await column(6).click();
  await page.getByRole('button', { name: 'Bring it towards the series' }).click();
  await expect(strip).toContainText('Five photographs sit together. No. 4 is far cooler.');
  await expect(page.getByText('Take B')).toHaveCount(1);
});

import { AxeBuilder } from '@axe-core/playwright';
import { startApp } from '../server/testing/running';
import { expect, test } from './app';

test.use({ ignoreHTTPSErrors: true });

test('on another address somebody signs in over TLS, works, and is asked again when the cookie is gone', async ({
  page,
  context,
  faults,
}) => {
  const LAMPWASH_PASSPHRASE = 'a lamp at the jetty';
  const studio = await startApp({ LAMPWASH_HOST: '127.0.0.2', LAMPWASH_PASSPHRASE });
  try {
    expect(studio.url).toMatch(/^https:/);
    const passphrase = page.getByLabel('Passphrase');
    await page.goto(`${studio.url}/put-aside`);
    expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
    await passphrase.fill('a lamp at the quay');
    await passphrase.press('Enter');
    await expect(page.getByRole('alert')).toHaveText('That is not it.');
    await passphrase.fill(LAMPWASH_PASSPHRASE);
    await page.getByRole('button', { name: 'Come in' }).click();
    // Where it was wanted to go.
    await expect(page).toHaveURL(`${studio.url}/put-aside`);
    await expect(page.getByRole('region', { name: 'Put aside' })).toBeVisible();
    await page.getByRole('link', { name: 'the shelf' }).click();
    await page.getByRole('link', { name: 'Open Saltmarsh Ferry' }).click();
    await page.getByRole('row').first().dblclick();
    await expect(page.locator('canvas[data-picture][data-fine=true]')).toBeVisible({ timeout: 60_000 });
    const [cookie] = await context.cookies();
    expect(cookie).toMatchObject({ httpOnly: true, secure: true, sameSite: 'Strict', path: '/' });

    await page.getByRole('link', { name: 'the shelf' }).click();
    await page.getByRole('button', { name: 'Sign out' }).click();
    await expect(passphrase).toBeVisible();
    await passphrase.fill(LAMPWASH_PASSPHRASE);
    await passphrase.press('Enter');
    await page.getByRole('link', { name: 'Put aside' }).click();
    // Its answers are here before the cookie goes: one that came later would lead to the passphrase by itself.
    await expect(page.getByRole('region', { name: 'Put aside' })).toBeVisible();
    await page.waitForLoadState('networkidle');

    const here = page.url();
    await context.clearCookies();
    await page.getByRole('link', { name: 'the shelf' }).click();
    // The first question that needs an answer asks for the passphrase: the shelf counts anew.
    await expect(passphrase).toBeVisible();
    await page.goto(here);
    await passphrase.fill(LAMPWASH_PASSPHRASE);
    await passphrase.press('Enter');
    await expect(page).toHaveURL(here);
  } finally {
    await page.goto('about:blank');
    await studio.close();
  }
  expect(faults.filter(fault => !/status of 401/.test(fault))).toEqual([]);
  faults.length = 0;
});

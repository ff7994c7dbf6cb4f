import { test as base, type BrowserContext } from '@playwright/test';
import { startApp, type App } from '../server/testing/running';

interface Each {
  /** What the page complained of; a test that expects complaints empties it. */
  faults: string[];
  /** An application of the test's own, with nothing on its shelf. */
  empty: App;
}

interface Shared {
  app: App;
  /** A visit that the tests of a worker share, for what the browser has read and compiled; nothing else of it is kept. */
  visit: BrowserContext;
}

/**
 * Tests with the application running: one server a worker, the demo on its shelf. What a test lays on the shelf has names of
 * its own; one that is about the whole shelf has a server to itself.
 */
export const test = base.extend<Each, Shared>({
  app: [
    // eslint-disable-next-line no-empty-pattern -- Playwright wants the pattern
    async ({}, use) => {
      const app = await startApp();
      await use(app);
      await app.close();
    },
    { scope: 'worker' },
  ],
  visit: [
    async ({ browser }, use) => {
      const context = await browser.newContext({
        viewport: { width: 1280, height: 800 },
        acceptDownloads: true,
      });
      await use(context);
      await context.close();
    },
    { scope: 'worker' },
  ],
  context: async ({ context: own, visit, app, hasTouch, ignoreHTTPSErrors }, use) => {
    if (hasTouch || ignoreHTTPSErrors) return use(own);
    await use(visit);
    const keeper = await visit.newPage();
    for (const page of visit.pages()) if (page !== keeper) await page.close();
    const session = await visit.newCDPSession(keeper);
    const storageTypes = 'cookies,local_storage,indexeddb,cache_storage,service_workers';
    await session.send('Storage.clearDataForOrigin', { origin: app.url, storageTypes });
    await visit.clearPermissions();
    await visit.unrouteAll();
    await keeper.close();
  },
  empty: async ({ page }, use) => {
    const app = await startApp({ LAMPWASH_DEMO: '0' });
    await use(app);
    // First the page, which would complain that its server is gone.
    await page.close();
    await app.close();
  },
  faults: [
    async ({ page }, use) => {
      const faults: string[] = [];
      page.on('pageerror', error => faults.push(error.message));
      page.on('console', message => {
        if (message.type() === 'error') faults.push(message.text());
      });
      await use(faults);
      base.expect(faults, 'errors in the page').toEqual([]);
    },
    { auto: true },
  ],
});

export { expect } from '@playwright/test';

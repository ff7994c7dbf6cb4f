import { test as base } from '@playwright/test';
import { startApp, type App } from '../server/testing/running';

/** Tests with the application running: one server a worker, the demo on its shelf. */
export const test = base.extend<{ faults: string[] }, { app: App }>({
  app: [
    // eslint-disable-next-line no-empty-pattern -- Playwright wants the pattern
    async ({}, use) => {
      const app = await startApp();
      await use(app);
      await app.close();
    },
    { scope: 'worker' },
  ],
  /** What the page complained of; a test that expects complaints empties it. */
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

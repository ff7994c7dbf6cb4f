import { defineConfig } from '@playwright/test';
import { chromiumOptions } from '../scripts/temporary.mjs';

export default defineConfig({
  testDir: '.',
  outputDir: '../test-results/e2e',
  fullyParallel: false,
  workers: 1,
  // On a machine that others use a test may be late once; what passed only then is named at the end.
  retries: process.env.CI ? 1 : 0,
  timeout: 90_000,
  expect: { timeout: 15_000 },
  reporter: [['list'], ['json', { outputFile: '../test-results/e2e.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    trace: 'off',
    launchOptions: chromiumOptions,
  },
});

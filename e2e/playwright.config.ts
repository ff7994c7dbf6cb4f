import { defineConfig } from '@playwright/test';
import { chromiumOptions } from '../scripts/temporary.mjs';

export default defineConfig({
  testDir: '.',
  outputDir: '../test-results/e2e',
  fullyParallel: false,
  // Each has a server and a database of its own; a test waits more than it computes.
  workers: 2,
  retries: 0,
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

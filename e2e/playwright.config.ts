import { defineConfig } from '@playwright/test';
import { chromiumOptions } from '../scripts/temporary.mjs';

/** What measures time, or takes the machine for itself: by itself, when all else has ended. */
const alone = /@alone/;

/** Each test stands by itself, in any order, on either of two workers; `--shuffle` makes the order. */
export default defineConfig({
  testDir: '.',
  globalSetup: './kept-demo.ts',
  outputDir: '../test-results/e2e',
  fullyParallel: true,
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
  projects: [
    { name: 'together', grepInvert: alone },
    { name: 'alone', grep: alone, workers: 1, dependencies: ['together'] },
  ],
});

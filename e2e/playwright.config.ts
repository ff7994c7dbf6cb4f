import { availableParallelism } from 'node:os';
import { defineConfig } from '@playwright/test';
import { chromiumOptions } from '../scripts/temporary.mjs';

/** What measures time, or takes the machine for itself: by itself, when all else has ended. */
const alone = /@alone/;

/**
 * A page with its workers, the browser and the server keep two cores busy: on two, two tests at once take twice as long each
 * (132 s and 136 s for eleven).
 */
const workers = Math.max(1, Math.floor(availableParallelism() / 2));

/** Each test stands by itself, in any order, on any worker; `--shuffle` makes the order. One project is run at a time. */
export default defineConfig({
  testDir: '.',
  globalSetup: './kept-demo.ts',
  outputDir: '../test-results/e2e',
  fullyParallel: true,
  workers,
  retries: 0,
  // A machine that is shared may give a third of itself.
  timeout: 360_000,
  expect: { timeout: 60_000 },
  reporter: [['list'], ['json', { outputFile: process.env.LAMPWASH_REPORT ?? '../test-results/e2e.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    // A press that finds nothing to press names itself, and not the test alone.
    actionTimeout: 150_000,
    trace: 'off',
    launchOptions: chromiumOptions,
  },
  projects: [
    { name: 'together', grepInvert: alone },
    { name: 'alone', grep: alone, workers: 1 },
  ],
});

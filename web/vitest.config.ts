import { playwright } from '@vitest/browser-playwright';
import { mergeConfig } from 'vite';
import { defineConfig } from 'vitest/config';
import { chromiumOptions } from '../scripts/temporary.mjs';
import { order } from '../scripts/tests/order.mjs';
import interfaceConfig from './vite.config';

/** Tests of single components, in a real browser and without a server: pressed, dragged and typed into as by hand. */
export default mergeConfig(
  interfaceConfig,
  defineConfig({
    root: '.',
    cacheDir: 'node_modules/.vite-components',
    test: {
      ...order,
      include: ['web/**/*.test.tsx'],
      setupFiles: ['web/testing/page.tsx'],
      testTimeout: 20_000,
      reporters: ['default', ['json', { outputFile: 'test-results/components.json' }]],
      browser: {
        enabled: true,
        headless: true,
        isolate: false,
        fileParallelism: false,
        screenshotFailures: false,
        provider: playwright({ launchOptions: chromiumOptions }),
        viewport: { width: 1280, height: 800 },
        instances: [{ browser: 'chromium' }],
      },
    },
  }),
);

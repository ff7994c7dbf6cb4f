import { playwright } from '@vitest/browser-playwright';
import { mergeConfig, type Plugin } from 'vite';
import { defineConfig } from 'vitest/config';
import { chromiumOptions } from '../scripts/temporary.mjs';
import { order } from '../scripts/tests/order.mjs';
import interfaceConfig from './vite.config';

/** Whatever a component asks a server for is answered at once: there is none. Only pictures of takes are there, as wide as their revision. */
const noServer: Plugin = {
  name: 'no server',
  configureServer: ({ middlewares }) => {
    middlewares.use('/api', ({ url = '' }, answer) => {
      const { pathname, searchParams } = new URL(url, 'http://server');
      if (pathname.endsWith('/picture')) {
        const width = searchParams.get('revision') ?? '1';
        answer.writeHead(200, { 'Content-Type': 'image/svg+xml' });
        answer.end(`<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="1"/>`);
        return;
      }
      answer.writeHead(503, { 'Content-Type': 'application/problem+json' });
      answer.end('{"title":"There is no server."}');
    });
  },
};

/** Tests of single components, in a real browser and without a server: pressed, dragged and typed into as by hand. */
export default mergeConfig(
  interfaceConfig,
  defineConfig({
    root: '.',
    plugins: [noServer],
    cacheDir: 'node_modules/.vite-components',
    // What the tests alone use: found on the way, it would load the page anew.
    optimizeDeps: { include: ['axe-core'] },
    test: {
      ...order,
      include: ['web/**/*.test.tsx'],
      setupFiles: ['web/testing/page.tsx'],
      testTimeout: 20_000,
      // A machine that is shared may give a third of itself.
      expect: { poll: { timeout: 12_000 } },
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

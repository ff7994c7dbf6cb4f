import optimizeLocales from '@react-aria/optimize-locales-plugin';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

/**
 * The compiled kernels are for workers alone: the page may not compile any (its policy forbids it). What it has of the steps names
 * them all the same, and would carry them along.
 */
const noKernelsInThePage: Plugin = {
  name: 'no kernels in the page',
  apply: 'build',
  load: id => (id.endsWith('/core/kernels/assembled.ts') ? "export const assembled = '';" : undefined),
};

export default defineConfig({
  root: 'web',
  // The interface speaks English alone; the parts' words in thirty other languages would be read at every start.
  plugins: [optimizeLocales.vite({ locales: ['en-US'] }), react(), noKernelsInThePage],
  build: {
    emptyOutDir: true,
    // What belongs to which screen: its size is held to a budget.
    manifest: true,
    target: 'es2022',
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    chunkSizeWarningLimit: 1500,
  },
  worker: { format: 'es' },
  server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:4870' } },
});

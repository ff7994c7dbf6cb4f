import optimizeLocales from '@react-aria/optimize-locales-plugin';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  root: 'web',
  // The interface speaks English alone; the parts' words in thirty other languages would be read at every start.
  plugins: [optimizeLocales.vite({ locales: ['en-US'] }), react()],
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

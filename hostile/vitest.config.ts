import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['hostile/**/*.test.ts'],
    pool: 'forks',
    // One server at a time: how long it is silent is measured.
    fileParallelism: false,
    hookTimeout: 60_000,
    reporters: ['default', ['json', { outputFile: 'test-results/hostile.json' }]],
  },
});

import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['hostile/**/*.test.ts'],
    pool: 'forks',
    hookTimeout: 60_000,
    reporters: ['default', ['json', { outputFile: 'test-results/hostile.json' }]],
  },
});

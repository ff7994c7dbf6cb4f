import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['core/**/*.test.ts', 'server/**/*.test.ts', 'web/**/*.test.{ts,tsx}', 'demo/**/*.test.ts'],
    setupFiles: ['core/testing/seed.ts'],
    pool: 'forks',
    testTimeout: 30_000,
    hookTimeout: 60_000,
    reporters: ['default', ['json', { outputFile: 'test-results/unit.json' }]],
  },
});

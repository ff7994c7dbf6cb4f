import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: [
      'core/**/*.test.ts',
      'contract/**/*.test.ts',
      'words/**/*.test.ts',
      'server/**/*.test.ts',
      'web/**/*.test.{ts,tsx}',
      'demo/**/*.test.ts',
      'scripts/**/*.test.mjs',
    ],
    setupFiles: ['core/testing/seed.ts'],
    pool: 'forks',
    testTimeout: 120_000,
    hookTimeout: 60_000,
    reporters: ['default', ['json', { outputFile: 'test-results/unit.json' }]],
  },
});

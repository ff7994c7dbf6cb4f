import { configDefaults, defineConfig } from 'vitest/config';
import { order } from './scripts/tests/order.mjs';

/**
 * Files that share a process, and what it has imported, but for those of a project that is isolated: they replace what belongs
 * to the whole process (the network, the clock, the browser's stores). Projects come one after another, since a process is handed
 * on only to a file of its own.
 */
const project = (
  name: string,
  groupOrder: number,
  isolate: boolean,
  include: string[],
  exclude: string[] = [],
) => ({
  extends: true as const,
  test: {
    name,
    include,
    isolate,
    exclude: [...configDefaults.exclude, ...exclude],
    sequence: { groupOrder },
  },
});

export default defineConfig({
  test: {
    ...order,
    projects: [
      project('core', 1, false, ['{core,contract,words,demo}/**/*.test.ts']),
      project('server', 2, false, ['{server,scripts}/**/*.test.{ts,mjs}']),
      project('web', 3, true, ['web/**/*.test.ts']),
    ],
    setupFiles: ['core/testing/seed.ts'],
    pool: 'forks',
    maxWorkers: 2,
    testTimeout: 120_000,
    hookTimeout: 60_000,
    reporters: ['default', ['json', { outputFile: 'test-results/unit.json' }]],
  },
});

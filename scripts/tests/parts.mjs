import { join } from 'node:path';
import { root } from '../ensure.mjs';

/** What `npm test` is made of. A part has its budget in budgets.json. */

const bin = name => join(root, 'node_modules', '.bin', name);

/** What passes or fails as a whole. The slow ones run beside the unit tests, the others beside the build. */
export const checks = [
  {
    name: 'types',
    program: process.execPath,
    args: ['node_modules/typescript-7/bin/tsc', '--noEmit', '-p', 'tsconfig.json'],
  },
  {
    // What needs types: a promise that nobody waits for is a failure that nobody sees.
    name: 'promises',
    program: bin('oxlint'),
    args: ['--type-aware', 'core', 'contract', 'words', 'server', 'web', 'demo', 'e2e', 'hostile'],
  },
  {
    name: 'levels',
    program: bin('depcruise'),
    args: ['--output-type', 'err', 'core', 'contract', 'words', 'server', 'web'],
  },
  {
    name: 'lint',
    slow: true,
    program: bin('eslint'),
    args: ['--cache', '--cache-location', '.builds/eslint', '.'],
  },
  {
    name: 'format',
    slow: true,
    program: bin('prettier'),
    args: ['--check', '--log-level', 'warn', '--cache', '--cache-location', '.builds/prettier', '.'],
  },
];

const vitest = (...args) => ({ by: 'vitest', program: bin('vitest'), args: () => ['run', ...args] });
const playwright = project => ({
  by: 'playwright',
  program: bin('playwright'),
  args: seed => [
    ...['test', '-c', 'e2e/playwright.config.ts', `--project=${project}`],
    ...['--shuffle', String(seed), '--pass-with-no-tests'],
  ],
});

/** Test runners, in their order; each leaves a report in test-results. */
export const suites = [
  { part: 'unit', name: 'unit', report: 'unit.json', ...vitest() },
  {
    part: 'components',
    name: 'components',
    report: 'components.json',
    ...vitest('-c', 'web/vitest.config.ts'),
  },
  {
    part: 'hostile',
    name: 'hostile',
    report: 'hostile.json',
    ...vitest('-c', 'hostile/vitest.config.ts', '--root', '.'),
  },
  { part: 'e2e', name: 'e2e', report: 'e2e.json', ...playwright('together') },
  { part: 'e2e', name: 'e2e alone', report: 'e2e-alone.json', ...playwright('alone') },
];

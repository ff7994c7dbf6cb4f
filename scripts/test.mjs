import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuilt, ensurePackages, root } from './ensure.mjs';
import { PlainError } from './plain-error.mjs';
import { ensurePostgres } from './cluster/binaries.mjs';
import { ensureChromium, withCluster } from './temporary.mjs';

/**
 * `npm test`: everything, from a fresh clone. The last line says how many passed and failed. With a
 * part (`lint`, `unit`, `hostile`, `e2e`) only that; what stands after the part goes to its runner, as in
 * `npm test e2e tint -- -g quince`.
 */

const bin = name => join(root, 'node_modules', '.bin', name);

/** Runs a program, its output shown, and resolves to its exit code. */
function run(program, args, env = {}) {
  return new Promise(done => {
    const child = spawn(program, args, {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env },
    });
    child.once('exit', code => done(code ?? 1));
    child.once('error', () => done(1));
  });
}

const tally = { passed: 0, failed: 0 };

async function check(name, program, args) {
  console.log(`\n— ${name}`);
  const ok = (await run(program, args)) === 0;
  tally[ok ? 'passed' : 'failed']++;
}

/** Runs a test runner and counts what its JSON report says; a run without a report is one failure. */
async function suite(name, program, args, env, report, count) {
  console.log(`\n— ${name}`);
  const file = join(root, 'test-results', report);
  rmSync(file, { force: true });
  const code = await run(program, args, env);
  if (!existsSync(file)) {
    tally.failed++;
    return;
  }
  const { passed, failed } = count(JSON.parse(readFileSync(file, 'utf8')));
  tally.passed += passed;
  tally.failed += failed;
  if (code !== 0 && failed === 0) tally.failed++;
}

async function main() {
  ensurePackages();
  ensurePostgres();
  ensureChromium();
  mkdirSync(join(root, 'test-results'), { recursive: true });

  const [only, ...passedOn] = process.argv.slice(2);
  const wants = part => !only || only === part;
  if (wants('lint')) {
    await check('lint', bin('eslint'), ['.']);
    await check('levels', bin('depcruise'), ['--output-type', 'err', 'core', 'contract', 'server', 'web']);
    await check('format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
    await check('types', bin('tsc'), ['--noEmit', '-p', 'tsconfig.json']);
  }
  console.log('\n— build');
  ensureBuilt();

  await withCluster(async ({ url }) => {
    const env = { LAMPWASH_TEST_DATABASE: url };
    const counted = report => ({
      passed: report.numPassedTests,
      failed:
        report.numFailedTests +
        report.testResults.filter(t => t.status === 'failed' && !t.assertionResults.length).length,
    });
    if (wants('unit')) {
      await suite('unit and server tests', bin('vitest'), ['run', ...passedOn], env, 'unit.json', counted);
    }
    if (wants('hostile')) {
      const options = ['run', '-c', 'hostile/vitest.config.ts', '--root', '.', ...passedOn];
      await suite('hostile files, requests and kills', bin('vitest'), options, env, 'hostile.json', counted);
    }
    if (wants('e2e')) {
      await suite(
        'browser tests',
        bin('playwright'),
        ['test', '-c', 'e2e/playwright.config.ts', ...passedOn],
        env,
        'e2e.json',
        report => ({
          passed: report.stats.expected + report.stats.flaky,
          failed: report.stats.unexpected,
        }),
      );
    }
  });
}

main()
  .catch(error => {
    console.error(error instanceof PlainError ? error.message : error);
    tally.failed++;
  })
  .finally(() => {
    console.log(`\n${tally.passed} passed, ${tally.failed} failed`);
    process.exitCode = tally.failed ? 1 : 0;
  });

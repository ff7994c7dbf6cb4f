import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join, relative } from 'node:path';
import { ensureBuilt, ensurePackages, ensurePerl, ensureReaders, root } from './ensure.mjs';
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
/** What failed, said again at the end, where the log of a long run is read first. */
const failures = [];
/** What passed only when it was tried again: no failure, and no peace either. */
const late = [];

function failed(what, why = '') {
  tally.failed++;
  failures.push(why ? `${what}\n${why.split('\n').slice(0, 12).join('\n')}` : what);
}

async function check(name, program, args) {
  console.log(`\n— ${name}`);
  if ((await run(program, args)) === 0) tally.passed++;
  else failed(name);
}

/** Runs a test runner and counts what its JSON report says; a run without a report is one failure. */
async function suite(name, program, args, env, report, count) {
  console.log(`\n— ${name}`);
  const file = join(root, 'test-results', report);
  rmSync(file, { force: true });
  const code = await run(program, args, env);
  if (!existsSync(file)) {
    failed(`${name}: no report`);
    return;
  }
  const { passed, broken, second = [] } = count(JSON.parse(readFileSync(file, 'utf8')));
  late.push(...second.map(what => `${name}: ${what}`));
  tally.passed += passed;
  for (const { what, why } of broken) failed(`${name}: ${what}`, why);
  if (code !== 0 && !broken.length) failed(`${name}: ended with ${code}, and names no test`);
}

/** What a Vitest report counts: tests, and files that could not be run at all. */
const countedByVitest = report => ({
  passed: report.numPassedTests,
  broken: report.testResults.flatMap(file => {
    const tests = file.assertionResults.filter(test => test.status === 'failed');
    if (file.status === 'failed' && !tests.length && !file.assertionResults.length) {
      return [{ what: relative(root, file.name), why: file.message }];
    }
    return tests.map(test => ({
      what: `${relative(root, file.name)} › ${test.fullName}`,
      why: test.failureMessages.join('\n'),
    }));
  }),
});

/** What a Playwright report counts, through its nested suites. */
const countedByPlaywright = report => {
  const specs = suites => suites.flatMap(suite => [...suite.specs, ...specs(suite.suites ?? [])]);
  return {
    passed: report.stats.expected + report.stats.flaky,
    second: specs(report.suites)
      .filter(spec => spec.tests.some(test => test.status === 'flaky'))
      .map(spec => `${spec.file}:${spec.line} › ${spec.title}`),
    broken: specs(report.suites)
      .filter(spec => !spec.ok)
      .map(spec => ({
        what: `${spec.file}:${spec.line} › ${spec.title}`,
        why: spec.tests.flatMap(test => test.results.map(result => result.error?.message ?? '')).join('\n'),
      })),
  };
};

async function main() {
  ensurePackages();
  ensurePostgres();
  ensureChromium();
  ensurePerl();
  ensureReaders();
  mkdirSync(join(root, 'test-results'), { recursive: true });

  const [only, ...passedOn] = process.argv.slice(2);
  const wants = part => !only || only === part;
  if (wants('lint')) {
    await check('lint', bin('eslint'), ['.']);
    await check('levels', bin('depcruise'), [
      '--output-type',
      'err',
      'core',
      'contract',
      'words',
      'server',
      'web',
    ]);
    await check('format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
    await check('types', bin('tsc'), ['--noEmit', '-p', 'tsconfig.json']);
  }
  console.log('\n— build');
  ensureBuilt();

  await withCluster(async ({ url }) => {
    const env = { LAMPWASH_TEST_DATABASE: url };
    if (wants('unit')) {
      await suite(
        'unit and server tests',
        bin('vitest'),
        ['run', ...passedOn],
        env,
        'unit.json',
        countedByVitest,
      );
    }
    if (wants('hostile')) {
      const options = ['run', '-c', 'hostile/vitest.config.ts', '--root', '.', ...passedOn];
      await suite(
        'hostile files, requests and kills',
        bin('vitest'),
        options,
        env,
        'hostile.json',
        countedByVitest,
      );
    }
    if (wants('e2e')) {
      await suite(
        'browser tests',
        bin('playwright'),
        ['test', '-c', 'e2e/playwright.config.ts', ...passedOn],
        env,
        'e2e.json',
        countedByPlaywright,
      );
    }
  });
}

main()
  .catch(error => {
    failed(error instanceof PlainError ? error.message : String(error?.stack ?? error));
  })
  .finally(() => {
    if (late.length) console.log(`\n— passed only when tried again\n\n${late.join('\n')}`);
    if (failures.length) console.log(`\n— failed\n\n${failures.join('\n\n')}`);
    console.log(`\n${tally.passed} passed, ${tally.failed} failed`);
    process.exitCode = tally.failed ? 1 : 0;
  });

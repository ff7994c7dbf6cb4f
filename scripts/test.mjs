import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensurePackages, root } from './ensure.mjs';
import { PlainError } from './plain-error.mjs';
import { withCluster } from './temporary.mjs';
import { checks, suites } from './tests/parts.mjs';
import { run } from './tests/run.mjs';
import { countedByPlaywright, countedByVitest } from './tests/tally.mjs';

/**
 * `npm test`: everything, from a fresh clone. The last line says how many passed and failed. With a part (`lint`, `unit`,
 * `components`, `hostile`, `e2e`) only that; what stands after the part goes to its runner, as in `npm test e2e tint -- -g quince`.
 * Files and tests run in an order that LAMPWASH_SEED makes; without one, in another each time, but in CI always in the same, so
 * that a red run speaks of the change.
 */

const seed = Number(process.env.LAMPWASH_SEED ?? (process.env.CI ? 303 : Date.now() % 1_000_000));
const env = { LAMPWASH_SEED: String(seed) };
const [only, ...passedOn] = process.argv.slice(2);
const wants = part => !only || only === part;

const tally = { passed: 0, failed: 0 };
/** What failed, said again at the end, where the log of a long run is read first. */
const failures = [];
/** Seconds of each part that ran, and of each test. */
const times = {};
const tests = [];

function failed(what, why = '') {
  tally.failed++;
  failures.push(why ? `${what}\n${why.split('\n').slice(0, 12).join('\n')}` : what);
}

/** Does a part of the whole, and keeps how long it took. */
async function timed(name, work) {
  const began = performance.now();
  try {
    return await work();
  } finally {
    times[name] = (performance.now() - began) / 1000;
  }
}

/** Runs a check that passes or fails as a whole; what it prints is shown when it has ended, since others run beside it. */
async function check({ name, program, args }) {
  const { code, text } = await timed(name, () => run(program, args, { env, hold: true }));
  console.log(`\n— ${name}: ${code === 0 ? 'passed' : 'failed'}\n${text}`);
  if (code === 0) tally.passed++;
  else failed(name, text);
}

/** Runs a test runner and counts what its JSON report says; a run without a report is one failure. */
async function suite({ name, program, args, report, by }, { url, home }) {
  console.log(`\n— ${name}`);
  const file = join(root, 'test-results', report);
  rmSync(file, { force: true });
  const options = {
    env: { ...env, LAMPWASH_TEST_DATABASE: url, LAMPWASH_TEST_FOLDER: home, LAMPWASH_REPORT: file },
  };
  const { code } = await timed(name, () => run(program, [...args(seed), ...(only ? passedOn : [])], options));
  if (!existsSync(file)) return failed(`${name}: no report`);
  const json = JSON.parse(readFileSync(file, 'utf8'));
  const counted = by === 'playwright' ? countedByPlaywright(json) : countedByVitest(json, root);
  tally.passed += counted.passed;
  tests.push(...counted.tests);
  for (const { what, why } of counted.broken) failed(`${name}: ${what}`, why);
  if (code !== 0 && !counted.broken.length) failed(`${name}: ended with ${code}, and names no test`);
}

const inTurn = async (list, work) => {
  for (const each of list) await work(each);
};

async function install() {
  // npm is waited for on this thread, and Debian's packages come meanwhile.
  const debian = run(process.execPath, [join(root, 'scripts/tests/debian.mjs')]);
  ensurePackages();
  if ((await debian).code !== 0) throw new PlainError("Debian's packages could not be installed.");
}

async function build() {
  const ensure = "import('./scripts/ensure.mjs').then(e => e.ensureBuilt({ quiet: true }))";
  const { code, text } = await run(process.execPath, ['-e', ensure], { hold: true });
  if (code !== 0) throw new PlainError(text);
  console.log('\n— build: done');
}

async function main() {
  console.log(
    `The order of tests is of the seed ${seed}: LAMPWASH_SEED=${seed} npm test runs them so again.`,
  );
  await timed('packages', install);
  mkdirSync(join(root, 'test-results'), { recursive: true });
  // Two cores: a build and what needs none side by side, then the checks that read every file beside the tests.
  const [early, late] = [checks.filter(c => !c.slow), checks.filter(c => c.slow)];
  await Promise.all([timed('build', build), wants('lint') && inTurn(early, check)]);
  await withCluster(async cluster => {
    const of = part => suites.filter(s => s.part === part && wants(part));
    await Promise.all([
      inTurn(of('unit'), each => suite(each, cluster)),
      wants('lint') && inTurn(late, check),
    ]);
    for (const part of ['components', 'hostile', 'e2e']) await inTurn(of(part), each => suite(each, cluster));
  });
}

/** The slowest tests, how long each part took, and which parts have outgrown their budget. */
function summary() {
  const budgets = JSON.parse(readFileSync(join(root, 'scripts/tests/budgets.json'), 'utf8'));
  const row = (name, seconds) => `${seconds.toFixed(1).padStart(7)} s  ${name}`;
  const slowest = [...tests].sort((a, b) => b.seconds - a.seconds).slice(0, 20);
  if (slowest.length) {
    console.log(`\n— the slowest tests\n\n${slowest.map(t => row(t.name, t.seconds)).join('\n')}`);
  }
  console.log(
    `\n— the parts\n\n${Object.entries(times)
      .map(([name, s]) => row(name, s))
      .join('\n')}`,
  );
  for (const [name, seconds] of Object.entries(times)) {
    if (seconds > budgets[name]) {
      console.log(
        `Slow: ${name} took ${seconds.toFixed(0)} s; its budget is ${budgets[name]} s (scripts/tests/budgets.json).`,
      );
    }
  }
}

timed('whole', main)
  .catch(error => failed(error instanceof PlainError ? error.message : String(error?.stack ?? error)))
  .finally(() => {
    summary();
    if (failures.length) console.log(`\n— failed (seed ${seed})\n\n${failures.join('\n\n')}`);
    console.log(`\n${tally.passed} passed, ${tally.failed} failed`);
    process.exitCode = tally.failed ? 1 : 0;
  });

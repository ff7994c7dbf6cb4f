import { relative } from 'node:path';

/**
 * What the reports of the test runners count, in one form.
 * @typedef {{ name: string, seconds: number }} Timed
 * @typedef {{ passed: number, broken: { what: string, why: string }[], tests: Timed[] }} Counted
 */

/** @returns {Counted} of a Vitest report: its tests, and files that could not be run at all */
export function countedByVitest(report, root) {
  const files = report.testResults.map(file => ({ ...file, name: relative(root, file.name) }));
  return {
    passed: report.numPassedTests,
    tests: files.flatMap(file =>
      file.assertionResults.map(test => ({
        name: `${file.name} › ${test.fullName}`,
        seconds: (test.duration ?? 0) / 1000,
      })),
    ),
    broken: files.flatMap(file => {
      const failed = file.assertionResults.filter(test => test.status === 'failed');
      if (file.status === 'failed' && !failed.length) return [{ what: file.name, why: file.message }];
      return failed.map(test => ({
        what: `${file.name} › ${test.fullName}`,
        why: test.failureMessages.join('\n'),
      }));
    }),
  };
}

/** @returns {Counted} of a Playwright report, through its nested suites */
export function countedByPlaywright(report) {
  const specsOf = suites => suites.flatMap(suite => [...suite.specs, ...specsOf(suite.suites ?? [])]);
  const specs = specsOf(report.suites).map(spec => ({
    ...spec,
    name: `${spec.file}:${spec.line} › ${spec.title}`,
    results: spec.tests.flatMap(test => test.results),
  }));
  const isSkipped = spec => spec.results.every(result => result.status === 'skipped');
  return {
    passed: report.stats.expected,
    tests: specs.map(({ name, results }) => ({
      name,
      seconds: results.reduce((sum, result) => sum + result.duration, 0) / 1000,
    })),
    broken: specs
      .filter(spec => !spec.ok || isSkipped(spec))
      .map(({ name, results }) => ({
        what: name,
        why: results.map(result => result.error?.message ?? 'was not run').join('\n'),
      }))
      .concat(report.errors.map(error => ({ what: 'browser tests', why: error.message ?? String(error) }))),
  };
}

import { describe, expect, it } from 'vitest';
import { countedByPlaywright, countedByVitest } from './tally.mjs';

describe('a Vitest report', () => {
  const test = (fullName, status) => ({
    fullName,
    status,
    duration: 1500,
    failureMessages: [`${fullName} broke`],
  });
  const report = {
    numPassedTests: 1,
    testResults: [
      {
        name: '/a/core/one.test.ts',
        status: 'failed',
        assertionResults: [test('holds', 'passed'), test('bends', 'failed')],
      },
      { name: '/a/core/two.test.ts', status: 'failed', message: 'cannot be read', assertionResults: [] },
    ],
  };

  it('counts tests that failed, and files that could not be run', () => {
    expect(countedByVitest(report, '/a')).toEqual({
      passed: 1,
      tests: [
        { name: 'core/one.test.ts › holds', seconds: 1.5 },
        { name: 'core/one.test.ts › bends', seconds: 1.5 },
      ],
      broken: [
        { what: 'core/one.test.ts › bends', why: 'bends broke' },
        { what: 'core/two.test.ts', why: 'cannot be read' },
      ],
    });
  });

  it('counts a file that broke after its tests had passed', () => {
    const late = {
      name: '/a/late.test.ts',
      status: 'failed',
      message: 'afterAll',
      assertionResults: [test('holds', 'passed')],
    };
    expect(countedByVitest({ numPassedTests: 1, testResults: [late] }, '/a').broken).toEqual([
      { what: 'late.test.ts', why: 'afterAll' },
    ]);
  });
});

describe('a Playwright report', () => {
  const spec = (title, ok, ...results) => ({ file: 'a.spec.ts', line: 3, title, ok, tests: [{ results }] });
  const report = {
    stats: { expected: 1 },
    errors: [],
    suites: [
      {
        specs: [spec('holds', true, { status: 'passed', duration: 2000 })],
        suites: [
          {
            specs: [
              spec('bends', false, { status: 'failed', duration: 500, error: { message: 'bent' } }),
              spec('waits', true, { status: 'skipped', duration: 0 }),
            ],
          },
        ],
      },
    ],
  };

  it('counts tests of nested suites; what was not run is no success', () => {
    const { passed, tests, broken } = countedByPlaywright(report);
    expect(passed).toBe(1);
    expect(tests.map(t => t.seconds)).toEqual([2, 0.5, 0]);
    expect(broken).toEqual([
      { what: 'a.spec.ts:3 › bends', why: 'bent' },
      { what: 'a.spec.ts:3 › waits', why: 'was not run' },
    ]);
  });

  it('counts what broke outside of any test', () => {
    const broken = { ...report, suites: [], errors: [{ message: 'no such file' }] };
    expect(countedByPlaywright(broken).broken).toEqual([{ what: 'browser tests', why: 'no such file' }]);
  });
});

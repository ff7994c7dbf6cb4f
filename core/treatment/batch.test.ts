import fc from 'fast-check';
import { expect, it } from 'vitest';
import { anyTreatment } from '../testing/arbitraries';
import { read } from '../testing/pictures';
import { withWork, type BatchWork } from './batch';
import { layTreatment } from './laying';

/** Work on many treatments, done to one. */

const laying = { how: 'added', frame: false, painted: false } as const;

it('lays on what is laid on by hand', () => {
  fc.assert(
    fc.property(anyTreatment({ most: 3 }), anyTreatment({ most: 3 }), (onto, treatment) => {
      const work: BatchWork = { do: 'lay', treatment, laying };
      expect(withWork(onto, work)).toEqual(layTreatment(onto, treatment, laying).treatment);
    }),
    { numRuns: 40 },
  );
});

it('switches and strengthens every step of a kind, and is the same where there is none', () => {
  const treatment = read([{ kind: 'mono' }, { kind: 'grain', strength: 0.5 }, { kind: 'grain' }]);
  const off = withWork(treatment, { do: 'switch', kind: 'grain', on: false });
  expect(off.steps.map(s => s.enabled)).toEqual([true, false, false]);
  const half = withWork(treatment, { do: 'strength', kind: 'grain', strength: 0.5 });
  expect(half.steps.map(s => s.strength)).toEqual([1, 0.5, 0.5]);
  for (const work of [
    { do: 'switch', kind: 'tint', on: false },
    { do: 'switch', kind: 'grain', on: true },
    { do: 'strength', kind: 'mono', strength: 1 },
  ] as const) {
    expect(withWork(treatment, work)).toBe(treatment);
  }
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyTreatment } from '../testing/arbitraries';
import { picture, read, treatedNumbers } from '../testing/pictures';
import { beneathStep, firstSteps, withStep } from './beneath';

const lifted = (v: number) => ({ kind: 'levels', group: 'g', settings: { outBlack: v } });

describe('what lies beneath a step', () => {
  it('is what the step sees: its own group is not laid on in part yet, those before it are', () => {
    const t = read([lifted(0.2), lifted(0.1), { kind: 'tint' }], {
      strength: 0.5,
      groups: [{ id: 'g', name: 'G', strength: 0.25 }],
    });
    const black = (of: typeof t) => treatedNumbers(of, picture(4, 4, true), { pixels: 16 });
    const source = black(read([]));
    const inside = black(beneathStep(t, t.steps[1].id));
    const after = black(beneathStep(t, t.steps[2].id));
    source.forEach((v, i) => {
      const one = 0.2 + 0.8 * v;
      const both = 0.1 + 0.9 * one;
      expect(inside[i]).toBeCloseTo(one, 4);
      expect(after[i]).toBeCloseTo(v + 0.25 * (both - v), 4);
    });
    expect(withStep(t, t.steps[1]).steps.map(s => s.group)).toEqual(['g', null]);
    expect(beneathStep(t, 'none').steps).toEqual([]);
  });

  it('keeps the rest of the treatment as it is', () => {
    fc.assert(
      fc.property(anyTreatment(), fc.nat(6), (t, count) => {
        const first = firstSteps(t, count);
        expect(first.steps).toEqual(t.steps.slice(0, count));
        expect(first.frame).toBe(t.frame);
        expect(first.masks).toBe(t.masks);
        expect(first.groups.map(g => g.id)).toEqual(t.groups.map(g => g.id));
        expect(first.strength).toBe(1);
      }),
      { numRuns: 40 },
    );
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { paint, read, rendered } from '../testing/pictures';
import { inTwo } from './in-two';
import { parseTreatment } from './schema';

const steps = [
  { id: 'a', kind: 'light', settings: { exposure: -0.4, contrast: 0.1 } },
  { id: 'b', kind: 'mono', settings: { method: 'response', response: { blue: -0.4 } } },
  {
    id: 'c',
    kind: 'curve',
    settings: {
      points: {
        all: [
          [0, 0.06],
          [1, 0.95],
        ],
      },
    },
  },
  {
    id: 'd',
    kind: 'split-tone',
    settings: { shadows: { hue: 220, saturation: 0.4 }, highlights: { hue: 40, saturation: 0.3 } },
    strength: 0.8,
  },
  { id: 'e', kind: 'vignette', settings: { amount: -0.4 } },
  { id: 'f', kind: 'grain', settings: { amount: 0.2 } },
];
const picture = paint(48, 32, (x, y) => [x, y, 0.5 + 0.4 * Math.sin(9 * x * y)]);

describe('a treatment in two', () => {
  it('gives the picture of the whole, wherever it is cut', () => {
    const whole = read(steps);
    const { codes } = rendered(whole, picture, { pixels: 1 });
    for (let count = 1; count < steps.length; count++) {
      const { first, rest } = inTwo(whole, count)!;
      const between = rendered(first, picture, { pixels: 1 });
      const last = rendered(rest, { ...picture, codes: between.codes }, { pixels: 1 });
      for (let i = 0; i < codes.length; i++) {
        // All is rounded in between.
        expect(Math.abs(last.codes[i] - codes[i])).toBeLessThan(2 * 257);
      }
    }
  });

  it('is not to be had where a group or the whole is laid on in part across the cut, or the ground is read behind it', () => {
    const grouped = parseTreatment({
      format: 'lampwash-treatment',
      version: 1,
      groups: [{ id: 'g', name: 'Tone', strength: 0.5 }],
      steps: steps.map(s => ('cd'.includes(s.id) ? { ...s, group: 'g' } : s)),
    });
    expect([1, 2, 3, 4].map(count => inTwo(grouped, count) === null)).toEqual([false, false, true, false]);
    expect(inTwo({ ...read(steps), strength: 0.7 }, 2)).toBeNull();
    expect(inTwo(read(steps), 0)).toBeNull();
    const kept = read([...steps.slice(0, 2), { id: 'k', kind: 'keep-colour' }]);
    expect(inTwo(kept, 1)).toBeNull();
    expect(inTwo(kept, 3)).not.toBeNull();
  });

  it('has all the steps, each once', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 6 }), count => {
        const { first, rest } = inTwo(read(steps), count)!;
        expect([...first.steps, ...rest.steps].map(s => s.id).join('')).toBe('abcdef');
      }),
    );
  });
});

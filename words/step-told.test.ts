import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyTreatment } from '../core/testing/arbitraries';
import { read } from '../core/testing/pictures';
import { tellStep } from './step-told';

const told = (step: object, rest: object = {}) => {
  const treatment = read([step], rest);
  return tellStep(treatment, treatment.steps[0]);
};

describe('a step in words', () => {
  it('tells what is not at rest, as its controls have it', () => {
    expect(told({ kind: 'light', settings: { exposure: 0.35, contrast: -0.2 } })).toEqual({
      name: 'Light',
      stage: 'Ground',
      area: null,
      told: [
        { name: 'Exposure', value: '+0.35 EV' },
        { name: 'Contrast', value: '-20' },
      ],
    });
    expect(told({ kind: 'mono' }).told).toEqual([]);
  });

  it('tells the colours of washes and ramps, and the points of curves', () => {
    const flat = told({ kind: 'wash', settings: { pigment: { kind: 'flat', colour: '#8c3f2c' } } });
    expect(flat.told).toContainEqual({ name: 'Pigment', value: '#8c3f2c', colours: ['#8c3f2c'] });
    const points = [
      [0, 0.06],
      [1, 1],
    ];
    const curve = told({ kind: 'curve', settings: { points: { all: points } } });
    expect(curve.told[0]).toMatchObject({ value: '0 to 6, 100 to 100', curve: points });
  });

  it('tells each bath of a row', () => {
    const row = [
      { toner: 'sepia', time: 0.4, start: 'highlights', contrast: 0 },
      { toner: 'gold', time: 0.2, start: 'highlights', contrast: 0.3 },
    ];
    const { told: baths } = told({ kind: 'baths', settings: { baths: row } });
    const names = baths.map(b => b.name);
    expect(names).toContain('Bath 1 toner');
    expect(names).toContain('Bath 2 time');
    expect(new Set(names).size).toBe(names.length);
  });

  it('tells where it lies, how strong it is, how it is mixed', () => {
    const masks = [{ id: 'm', name: 'Hull', feather: 0.01, parts: [{ kind: 'oval' }, { kind: 'tones' }] }];
    const step = { kind: 'wash', mask: 'm', mix: 'multiply', strength: 0.6, group: 'g' };
    const { area, told: all } = told(step, { masks, groups: [{ id: 'g', name: 'Boat', strength: 0.5 }] });
    expect(area).toBe('Hull (oval, tones, feather 1.00%)');
    expect(all.slice(-3)).toEqual([
      { name: 'Strength', value: '60' },
      { name: 'Strength of Boat', value: '50' },
      { name: 'Mix', value: 'Multiply' },
    ]);
  });

  it('of any treatment has words for all, each name once', () => {
    fc.assert(
      fc.property(anyTreatment(), treatment => {
        for (const step of treatment.steps) {
          const { name, told: all } = tellStep(treatment, step);
          expect(name).not.toBe('');
          const names = all.map(t => t.name);
          expect(new Set(names).size).toBe(names.length);
          for (const { value } of all) expect(value).not.toMatch(/undefined|NaN|\[object/);
        }
      }),
    );
  });
});

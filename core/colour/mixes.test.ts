import { blend } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mixer, mixNames, type Mix } from './mixes';

const unit = fc.double({ min: 0, max: 1, noNaN: true });
const colour = fc.tuple(unit, unit, unit);
const mixed = (mix: Mix, beneath: number[], own: number[]) => {
  const result = Float64Array.from(own);
  mixer(mix)(Float64Array.from(beneath), result);
  return Array.from(result);
};
const luma = ([r, g, b]: number[]) => 0.3 * r + 0.59 * g + 0.11 * b;
const spread = (c: number[]) => Math.max(...c) - Math.min(...c);

describe('mixes', () => {
  it.each([
    'multiply',
    'screen',
    'darken',
    'lighten',
    'color-dodge',
    'color-burn',
    'soft-light',
    'difference',
    'exclusion',
  ] as const)('%s is what the W3C formula gives, as culori computes it', mix => {
    fc.assert(
      fc.property(colour, colour, (b, s) => {
        const [beneath, own] = [b, s].map(([r, g, bl]) => ({ mode: 'rgb' as const, r, g, b: bl }));
        const expected = blend([beneath, own], mix) as { r: number; g: number; b: number };
        const result = mixed(mix, b, s);
        for (const [i, v] of [expected.r, expected.g, expected.b].entries())
          expect(result[i]).toBeCloseTo(v, 5);
      }),
    );
  });

  it('hard-light multiplies below the middle and screens above; overlay is the same with the layers swapped', () => {
    fc.assert(
      fc.property(unit, unit, (b, s) => {
        const expected = s <= 0.5 ? 2 * b * s : 1 - 2 * (1 - b) * (1 - s);
        expect(mixed('hard-light', [b, b, b], [s, s, s])[0]).toBeCloseTo(expected, 9);
        expect(mixed('overlay', [s, s, s], [b, b, b])[0]).toBeCloseTo(expected, 9);
      }),
    );
  });

  it('color keeps the luma beneath, luminosity takes that of the own', () => {
    fc.assert(
      fc.property(colour, colour, (b, s) => {
        expect(luma(mixed('color', b, s))).toBeCloseTo(luma(b), 9);
        expect(luma(mixed('hue', b, s))).toBeCloseTo(luma(b), 9);
        expect(luma(mixed('saturation', b, s))).toBeCloseTo(luma(b), 9);
        expect(luma(mixed('luminosity', b, s))).toBeCloseTo(luma(s), 9);
      }),
    );
  });

  it('saturation of a grey leaves a grey', () => {
    expect(spread(mixed('saturation', [0.2, 0.7, 0.4], [0.5, 0.5, 0.5]))).toBeLessThan(1e-12);
    expect(spread(mixed('color', [0.2, 0.7, 0.4], [0.5, 0.5, 0.5]))).toBeLessThan(1e-12);
  });

  it('average is halfway and normal is the own', () => {
    expect(mixed('average', [0, 0.5, 1], [1, 0.5, 1])).toEqual([0.5, 0.5, 1]);
    expect(mixed('normal', [0, 0.5, 1], [1, 0.25, 1.5])).toEqual([1, 0.25, 1.5]);
  });

  it('stay finite and inside for colours beyond the ends', () => {
    const wide = fc.double({ min: -1, max: 2, noNaN: true });
    const any = fc.tuple(wide, wide, wide);
    fc.assert(
      fc.property(fc.constantFrom(...mixNames), any, any, (mix, b, s) => {
        const result = mixed(mix, b, s);
        expect(result.every(Number.isFinite)).toBe(true);
        if (mix !== 'normal' && mix !== 'average') {
          expect(Math.min(...result)).toBeGreaterThan(-1e-9);
          expect(Math.max(...result)).toBeLessThan(1 + 1e-9);
        }
      }),
    );
  });
});

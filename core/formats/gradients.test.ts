import { interpolate } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gradientOf, interpolations, type Interpolation } from '../colour/gradient';
import { hex } from '../testing/arbitraries';
import { cssGradient, GradientError, readGradient, writeGradient, writeGradientCss } from './gradients';

const at = fc.integer({ min: 0, max: 10_000 }).map(n => n / 10_000);
const stops = fc.array(fc.record({ at, colour: hex }), { minLength: 2, maxLength: 32 });
const gradient = fc.record({
  name: fc.constantFrom('', 'Low water', 'Größe 2'),
  interpolation: fc.constantFrom(...interpolations),
  stops,
});
const sorted = (all: { at: number; colour: string }[]) => all.toSorted((a, b) => a.at - b.at);

describe('a gradient as a file', () => {
  it('goes out and in again as JSON and as CSS, in the way that it is mixed', () => {
    fc.assert(
      fc.property(gradient, one => {
        expect(readGradient(writeGradient(one))).toEqual(one);
        const css = readGradient(writeGradientCss(one));
        expect(css.interpolation).toBe(one.interpolation);
        const rounded = (all: { at: number; colour: string }[]) =>
          all.map(s => `${s.colour} ${s.at.toFixed(4)}`);
        expect(rounded(css.stops)).toEqual(rounded(sorted(one.stops)));
      }),
    );
  });

  it('says to CSS what it is here: another reader of that finds the same colours', () => {
    const modes: Record<Interpolation, 'rgb' | 'lrgb' | 'oklab'> = {
      srgb: 'rgb',
      linear: 'lrgb',
      oklab: 'oklab',
    };
    const ends = fc.tuple(hex, hex);
    fc.assert(
      fc.property(ends, fc.constantFrom(...interpolations), at, ([a, b], interpolation, t) => {
        const css = cssGradient([{ at: 0, colour: a }, { at: 1, colour: b }], interpolation); // prettier-ignore
        const [, space] = /in ([\w-]+)/.exec(css) ?? [];
        expect(space).toBe({ srgb: undefined, linear: 'srgb-linear', oklab: 'oklab' }[interpolation]);
        const other = interpolate([a, b], modes[interpolation])(t);
        const own = new Float64Array(3);
        gradientOf(readGradient(css).stops, { interpolation })(t, own);
        const asRgb = interpolate([other, other], 'rgb')(0);
        expect(Math.abs(own[0] - asRgb.r)).toBeLessThan(1e-3);
        expect(Math.abs(own[1] - asRgb.g)).toBeLessThan(1e-3);
        expect(Math.abs(own[2] - asRgb.b)).toBeLessThan(1e-3);
      }),
    );
  });

  it.each([
    ['', 'no gradient is in it'],
    ['{', 'the JSON is broken'],
    ['{"format":"lampwash-gradient","version":1,"stops":[]}', 'stops'],
    [
      '{"format":"lampwash-gradient","version":1,"stops":[{"at":2,"colour":"#000000"},{"at":1,"colour":"red"}]}',
      'stops',
    ],
    ['a { background: linear-gradient(red, blue) }', 'no gradient is in it'],
  ])('of %s says what is wrong', (text, why) => {
    expect(() => readGradient(text)).toThrow(GradientError);
    expect(() => readGradient(text)).toThrow(why);
  });

  it('never hangs on what was made to be hard to read', () => {
    for (const text of [
      'linear-gradient('.repeat(20_000),
      `linear-gradient(${'#'.repeat(200_000)})`,
      `linear-gradient(${' '.repeat(200_000)}`,
    ])
      expect(() => readGradient(text)).toThrow(GradientError);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pureHue, familyNames } from '../../colour/hues';
import { paint, pixelAt, read, rendered, picture } from '../../testing/pictures';
import { hex } from '../../testing/arbitraries';
import { own, grey } from '../../testing/own';
import { parseHex, luma } from '../../colour/srgb';
import { autoLight } from './light';
import { autoResponse } from './response';

/** Patches side by side, each of one colour. */
const patches = (colours: readonly (readonly number[])[]) =>
  paint(40 * colours.length, 60, x => colours[Math.min(colours.length - 1, Math.floor(x * colours.length))]);

const gaps = (source: ReturnType<typeof paint>, settings: object, count: number) => {
  const out = rendered(read([{ kind: 'mono', settings }]), source);
  const tones = Array.from({ length: count }, (_, i) => pixelAt(out, 40 * i + 20, 30)[0]).sort(
    (a, b) => a - b,
  );
  return Math.min(...tones.slice(1).map((t, i) => t - tones[i]));
};

describe('automatic response', () => {
  it.each([
    [
      'red and green',
      [
        [0.75, 0.36, 0.36],
        [0.2, 0.535, 0.3],
      ],
    ],
    [
      'orange and blue',
      [
        [0.8, 0.45, 0.15],
        [0.35, 0.52, 0.95],
      ],
    ],
    [
      'yellow green and rose',
      [
        [0.55, 0.62, 0.2],
        [0.85, 0.5, 0.6],
      ],
    ],
  ])('keeps apart %s of equal luminance', (_, colours) => {
    const source = patches(colours);
    const luminance = gaps(source, {}, 2);
    expect(luminance).toBeLessThan(0.04);
    const response = autoResponse(source.codes);
    expect(gaps(source, { method: 'response', response }, 2)).toBeGreaterThan(Math.max(0.1, luminance * 3));
  });

  it('keeps apart three colours at once', () => {
    const source = patches([
      [0.75, 0.36, 0.36],
      [0.2, 0.535, 0.3],
      [0.4, 0.46, 0.85],
    ]);
    const response = autoResponse(source.codes);
    expect(gaps(source, { method: 'response', response }, 3)).toBeGreaterThan(gaps(source, {}, 3) + 0.03);
  });

  it('is bounded, the same every time, and at rest on a grey picture', () => {
    fc.assert(
      fc.property(fc.array(hex, { minLength: 2, maxLength: 5 }), colours => {
        const { codes } = patches(colours.map(parseHex));
        const response = autoResponse(codes);
        expect(autoResponse(codes)).toEqual(response);
        for (const name of familyNames) expect(Math.abs(response[name])).toBeLessThanOrEqual(0.75);
      }),
      { numRuns: 15 },
    );
    expect(Object.values(autoResponse(picture(60, 40, true).codes)).every(v => Math.abs(v) < 0.05)).toBe(
      true,
    );
  });

  it('leaves families that are not in the picture at rest', () => {
    const response = autoResponse(
      patches([pureHue(0).map(v => 0.3 + 0.4 * v), pureHue(120).map(v => 0.3 + 0.3 * v)]).codes,
    );
    expect(Math.abs(response.blue)).toBeLessThan(0.1);
    expect(Math.abs(response.purple)).toBeLessThan(0.1);
  });
});

describe('automatic light', () => {
  const middleAfter = (source: ReturnType<typeof paint>) => {
    const settings = autoLight(source.codes);
    return [0.25, 0.5, 0.75].map(x => {
      const rgb = pixelAt(source, source.width * x, 10);
      return luma(...(own('light', settings, rgb) as [number, number, number]));
    });
  };

  it('lifts a dark picture and spreads a flat one', () => {
    const dark = paint(200, 20, x => grey(0.02 + 0.3 * x));
    expect(middleAfter(dark)[1]).toBeGreaterThan(0.24);
    const flat = paint(200, 20, x => grey(0.35 + 0.2 * x));
    const [low, , high] = middleAfter(flat);
    expect(high - low).toBeGreaterThan(0.12);
  });

  it('leaves a right picture nearly as it is, and is bounded for any', () => {
    const right = autoLight(paint(200, 20, x => grey(0.01 + 0.975 * x)).codes);
    for (const v of Object.values(right)) expect(Math.abs(v)).toBeLessThan(0.2);
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (a, b) => {
          const { exposure, ...rest } = autoLight(paint(50, 10, x => grey(a + (b - a) * x)).codes);
          expect(Math.abs(exposure)).toBeLessThanOrEqual(1.25);
          for (const v of Object.values(rest)) expect(Math.abs(v)).toBeLessThanOrEqual(0.6);
        },
      ),
    );
  });
});

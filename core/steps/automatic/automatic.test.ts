import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FAMILIES, familyNames, pureHue } from '../../colour/hues';
import { paint, pixelAt, read, rendered, picture } from '../../testing/pictures';
import { hex } from '../../testing/arbitraries';
import { own, grey } from '../../testing/own';
import { parseHex, luma } from '../../colour/srgb';
import { autoLight, foundLight } from './light';
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
    const { response } = autoResponse(source.codes);
    expect(gaps(source, { method: 'response', response }, 2)).toBeGreaterThan(Math.max(0.1, luminance * 3));
  });

  it('keeps apart three colours at once', () => {
    const source = patches([
      [0.75, 0.36, 0.36],
      [0.2, 0.535, 0.3],
      [0.4, 0.46, 0.85],
    ]);
    const { response } = autoResponse(source.codes);
    expect(gaps(source, { method: 'response', response }, 3)).toBeGreaterThan(gaps(source, {}, 3) + 0.03);
  });

  it('is bounded, the same every time, and at rest on a grey picture', () => {
    fc.assert(
      fc.property(fc.array(hex, { minLength: 2, maxLength: 5 }), colours => {
        const { codes } = patches(colours.map(parseHex));
        const found = autoResponse(codes);
        expect(autoResponse(codes)).toEqual(found);
        for (const name of familyNames) expect(Math.abs(found.response[name])).toBeLessThanOrEqual(0.8);
      }),
      { numRuns: 15 },
    );
    const grey = autoResponse(picture(60, 40, true).codes);
    expect(Object.values(grey.response).every(v => v === 0)).toBe(true);
    expect(grey.said).toEqual({ what: 'nothing-to-part' });
  });

  /** Two colours of equal luminance (encoded `grey`), mixed towards it from pure hues. */
  const ofGrey = (hue: number, grey: number): number[] => {
    let low = 0;
    let high = 1;
    const at = (t: number) => pureHue(hue).map(v => (t < 0.5 ? v * 2 * t : v + (1 - v) * (2 * t - 1)));
    for (let i = 0; i < 40; i++) {
      const middle = (low + high) / 2;
      if (own('mono', {}, at(middle))[0] < grey) low = middle;
      else high = middle;
    }
    return at(low).map(v => grey + 0.6 * (v - grey));
  };

  it('parts any two hues of one luminance by 20 of 255 at least, and says which and by how much', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 7 }),
        fc.integer({ min: 1, max: 7 }),
        fc.double({ min: 0.35, max: 0.7, noNaN: true }),
        (first, further, grey) => {
          const families = [familyNames[first], familyNames[(first + further) % 8]];
          const apart = Math.abs(FAMILIES[families[0]] - FAMILIES[families[1]]);
          fc.pre(Math.min(apart, 360 - apart) >= 60);
          const source = patches(families.map(name => ofGrey(FAMILIES[name], grey)));
          const before = gaps(source, {}, 2);
          fc.pre(before < 8 / 255);
          const { response, said } = autoResponse(source.codes);
          const after = gaps(source, { method: 'response', response }, 2);
          expect(after).toBeGreaterThan(20 / 255);
          expect(said.what).toBe('parted');
          if (said.what !== 'parted') return;
          expect([said.lighter, said.darker].sort()).toEqual([...families].sort());
          expect(Math.abs(said.by - (after - before) * 255)).toBeLessThan(4);
        },
      ),
      { numRuns: 40 },
    );
  });

  it.each([
    ['yellow', 'blue'],
    ['yellow', 'red'],
    ['orange', 'blue'],
    ['green', 'blue'],
    ['cyan', 'blue'],
  ] as const)('keeps the order that the eye expects: %s lighter than %s', (light, dark) => {
    const { response } = autoResponse(
      patches([ofGrey(FAMILIES[light], 0.5), ofGrey(FAMILIES[dark], 0.5)]).codes,
    );
    const greys = [light, dark].map(
      name => own('mono', { method: 'response', response }, ofGrey(FAMILIES[name], 0.5))[0],
    );
    expect(greys[0]).toBeGreaterThan(greys[1] + 20 / 255);
  });

  it('leaves families that are not in the picture at rest', () => {
    const { response } = autoResponse(
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

  it('says what it moved, and that it moved nothing where the light is right', () => {
    const dark = foundLight(paint(200, 20, x => grey(0.02 + 0.3 * x)).codes);
    expect(dark.said.what === 'moved' && dark.said.settings.map(([name]) => name)).toContain('exposure');
    // Most tones about the middle, few at the ends.
    const right = (x: number) => grey((0.5 + Math.asin(2 * x - 1) / Math.PI) ** 1.15);
    const { said } = foundLight(paint(200, 20, right).codes);
    expect(said).toEqual({ what: 'moved', settings: [] });
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

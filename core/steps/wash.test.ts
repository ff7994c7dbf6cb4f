import { converter } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dyeOf, throughDye } from '../colour/dye';
import { luma, parseHex } from '../colour/srgb';
import { hex, unit } from '../testing/arbitraries';
import { grey, oklch } from '../testing/own';
import { paint, picture, pixelAt, read, rendered } from '../testing/pictures';

const wash = (settings: object, more: object = {}) => read([{ kind: 'wash', settings, ...more }]);
const flat = (colour: string) => ({ kind: 'flat', colour });
const onGrey = (v: number, settings: object) =>
  pixelAt(
    rendered(
      wash(settings),
      paint(8, 8, () => grey(v)),
      { pixels: 64 },
    ),
    4,
    4,
  );

describe('light through a dye', () => {
  const through = (beneath: readonly number[], colour: string): number[] => {
    const dye = new Float64Array(3);
    const out = new Float64Array(3);
    dyeOf(parseHex(colour), dye);
    throughDye(beneath, dye, out);
    return Array.from(out);
  };

  it('is the product of both in linear light where the print holds the dye', () => {
    const linear = converter('lrgb');
    const encoded = converter('rgb');
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 0.3, noNaN: true }), hex, (v, colour) => {
        const [r, g, b] = parseHex(colour).map(c => Math.max(0.03, c));
        const glass = linear({ mode: 'rgb', r, g, b });
        const light = linear({ mode: 'rgb', r: v, g: v, b: v });
        const product = encoded({
          mode: 'lrgb',
          r: glass.r * light.r,
          g: glass.g * light.g,
          b: glass.b * light.b,
        });
        const dyed = through(
          grey(v),
          `#${[r, g, b]
            .map(c =>
              Math.round(c * 255)
                .toString(16)
                .padStart(2, '0'),
            )
            .join('')}`,
        );
        // The dye falls away by the sixth power of the tone: below a thousandth here.
        [product.r, product.g, product.b].forEach((c, k) => expect(dyed[k]).toBeCloseTo(c, 2));
      }),
    );
  });

  it('never lightens, keeps white, and rises with what lies beneath', () => {
    fc.assert(
      fc.property(hex, unit, unit, (colour, a, b) => {
        expect(through([1, 1, 1], colour).every(v => Math.abs(v - 1) < 1e-6)).toBe(true);
        const [low, high] = [Math.min(a, b), Math.max(a, b)];
        const dark = through(grey(low), colour);
        const light = through(grey(high), colour);
        dark.forEach((v, k) => {
          expect(v).toBeLessThanOrEqual(low + 1e-6);
          expect(light[k]).toBeGreaterThanOrEqual(v - 1e-6);
        });
      }),
    );
  });
});

describe('depth of a wash', () => {
  it('0 is the wash as it was, whatever the mix', () => {
    fc.assert(
      fc.property(hex, fc.constantFrom('color', 'normal', 'multiply', 'soft-light'), (colour, mix) => {
        const source = picture(20, 14);
        const still = rendered(wash({ pigment: flat(colour) }, { mix }), source).codes;
        expect(rendered(wash({ pigment: flat(colour), depth: 0 }, { mix }), source).codes).toEqual(still);
      }),
      { numRuns: 12 },
    );
  });

  it('a deep red on a light thing is deep red, not pink, and the more the deeper', () => {
    let last = 1;
    for (const depth of [0, 0.25, 0.5, 0.75, 1]) {
      const rgb = onGrey(0.8, { pigment: flat('#7a1f1f'), depth });
      expect(luma(...rgb)).toBeLessThan(last);
      last = luma(...rgb);
    }
    const tint = oklch(onGrey(0.8, { pigment: flat('#7a1f1f') }));
    const dye = oklch(onGrey(0.8, { pigment: flat('#7a1f1f'), depth: 1 }));
    expect(tint.L).toBeGreaterThan(0.75);
    expect(dye.L).toBeLessThan(0.55);
    expect(dye.chroma).toBeGreaterThan(0.08);
  });

  it('a lighter pigment inside a darker one keeps its own colour as body colour', () => {
    const inside = (depth: number) =>
      pixelAt(
        rendered(
          read([
            { kind: 'wash', settings: { pigment: flat('#3a4a2a'), depth: 1 } },
            { kind: 'wash', settings: { pigment: flat('#e8c84a'), depth } },
          ]),
          paint(40, 30, () => grey(0.6)),
          { pixels: 1200 },
        ),
        20,
        15,
      );
    const wanted = oklch(parseHex('#e8c84a'));
    expect(Math.abs(oklch(inside(-1)).L - wanted.L)).toBeLessThan(0.03);
    expect(oklch(inside(0)).L).toBeLessThan(wanted.L - 0.2);
  });

  it('body colour shows its own lightness, and the texture of the picture stays on it', () => {
    // A lit ball's shading with texture upon it.
    let seed = 3;
    const source = paint(200, 140, (x, y) => {
      seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
      return grey(0.3 + 0.15 * x + 0.05 * Math.sin(40 * y) + 0.06 * (seed / 2 ** 32 - 0.5));
    });
    const out = rendered(wash({ pigment: flat('#c8a060'), depth: -1 }), source);
    const tones = (of: { codes: Uint16Array; width: number }) =>
      Array.from({ length: 140 }, (_, y) => luma(...pixelAt(of, 100, y)));
    const mean = (list: number[]) => list.reduce((a, b) => a + b) / list.length;
    const spread = (list: number[]) =>
      Math.sqrt(list.reduce((a, v) => a + (v - mean(list)) ** 2, 0) / list.length);
    const before = tones({ codes: source.codes as Uint16Array, width: 200 });
    const after = tones(out);
    expect(Math.abs(mean(after) - luma(...parseHex('#c8a060')))).toBeLessThan(0.02);
    expect(spread(after)).toBeGreaterThan(spread(before) * 0.6);
    expect(oklch(pixelAt(out, 100, 70)).chroma).toBeGreaterThan(0.05);
  });

  it('goes over without a jump, by ramp as by one colour, and never lightens towards dye', () => {
    const ramp = {
      kind: 'ramp',
      stops: [
        { at: 0.1, colour: '#24160d' },
        { at: 0.5, colour: '#7c5c40' },
        { at: 0.9, colour: '#cbb08b' },
      ],
    };
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.double({ min: -0.98, max: 0.98, noNaN: true }),
        fc.constantFrom(ramp, flat('#8c3f2c'), flat('#3f6d78')),
        (v, depth, pigment) => {
          const here = onGrey(v, { pigment, depth });
          const near = onGrey(v, { pigment, depth: depth + 0.02 });
          here.forEach((c, k) => expect(Math.abs(c - near[k])).toBeLessThan(0.03));
          if (depth > 0) expect(luma(...near)).toBeLessThanOrEqual(luma(...here) + 1e-3);
        },
      ),
    );
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { familyNames, FAMILIES, pureHue } from '../colour/hues';
import { paint, rendered } from '../testing/pictures';
import type { Tile } from '../frame/framing';
import { bareTreatment } from '../treatment/treatment';
import { parseTreatment } from '../treatment/schema';
import { firstMoves } from './first-moves';
import type { Pixels } from './reading';

const movesOf = (pixels: Pixels) =>
  firstMoves(bareTreatment(), pixels).map(m => ({ ...m, treatment: parseTreatment(m.written) }));
import { coloursOf } from './reading';

const small = ({ codes, width, height }: Pick<Tile, 'codes' | 'width' | 'height'>) => ({
  codes: Uint8Array.from(codes, v => Math.round(v / 257)),
  width,
  height,
});
const SIZE = { width: 60, height: 40 };
/** A grey ramp with a disc of a hue in its upper left. */
const withThing = (hue: number, how = 0.6) => {
  const pure = pureHue(hue);
  return paint(SIZE.width, SIZE.height, (x, y) =>
    Math.hypot(x - 0.25, (y - 0.3) * 0.66) < 0.15 ? pure.map(v => 0.25 + how * 0.6 * v) : [x, x, x],
  );
};
const thing = (x: number, y: number) =>
  Math.hypot((x + 0.5) / 60 - 0.25, ((y + 0.5) / 40 - 0.3) * 0.66) < 0.15;
const spanAt = (codes: Uint16Array, i: number) =>
  (Math.max(codes[i], codes[i + 1], codes[i + 2]) - Math.min(codes[i], codes[i + 1], codes[i + 2])) / 65535;

describe('the colour that a picture is of', () => {
  it.each(familyNames)('is %s where that is all it has', family => {
    const [main] = coloursOf(small(withThing(FAMILIES[family])));
    expect(main.family).toBe(family);
    expect(Math.abs(((main.hue - FAMILIES[family] + 540) % 360) - 180)).toBeLessThan(8);
  });

  it('is none of a grey picture, nor of a speck', () => {
    expect(coloursOf(small(paint(60, 40, x => [x, x, x])))).toEqual([]);
    const speck = paint(60, 40, (x, y) => (x < 0.03 && y < 0.04 ? [0.9, 0.1, 0.1] : [x, x, x]));
    expect(coloursOf(small(speck))).toEqual([]);
  });
});

describe('first moves', () => {
  it('of a colour photograph are grey, toned, and one thing in its own colour', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...familyNames),
        fc.double({ min: 0.4, max: 1, noNaN: true }),
        (family, how) => {
          const source = withThing(FAMILIES[family], how);
          const [conversion, toned, tinted] = movesOf(small(source));
          expect([conversion.what, toned.what, tinted.what]).toEqual(['conversion', 'toned', 'tinted']);
          expect(tinted.tinted).toBe(family);
          const made = [conversion, toned, tinted].map(m => rendered(m.treatment, source).codes);
          let coloured = 0;
          let things = 0;
          for (let y = 0; y < SIZE.height; y++) {
            for (let x = 0; x < SIZE.width; x++) {
              const i = (y * SIZE.width + x) * 3;
              expect(spanAt(made[0], i)).toBeLessThan(1e-3);
              if (!thing(x, y)) expect(spanAt(made[2], i)).toBeLessThan(0.02);
              else {
                things++;
                if (spanAt(made[2], i) > 0.05) coloured++;
              }
            }
          }
          expect(coloured).toBeGreaterThan(things * 0.9);
          // Toned: warm in the lights, and nearly as it was in black.
          const light = (20 * SIZE.width + 48) * 3;
          expect(made[1][light] - made[1][light + 2]).toBeGreaterThan(1500);
          for (const { treatment, step } of [conversion, toned, tinted]) {
            expect(treatment.steps.some(s => s.id === step)).toBe(true);
          }
        },
      ),
      { numRuns: 16 },
    );
  });

  it('of a grey photograph put its light right, tone it, and tint its middle tones', () => {
    const source = paint(60, 40, x => [0.1 + x * 0.3, 0.1 + x * 0.3, 0.1 + x * 0.3]);
    const moves = movesOf(small(source));
    expect(moves.map(m => m.what)).toEqual(['light', 'toned', 'tinted']);
    expect(moves[2].tinted).toBe('middles');
    for (const { treatment } of moves) {
      const { codes } = rendered(treatment, source, { grey: true });
      const apart = codes.reduce((sum, v, i) => sum + Math.abs(v - source.codes[i]), 0) / codes.length / 257;
      expect(apart).toBeGreaterThan(1);
      expect(treatment.steps.every(s => s.kind !== 'mono')).toBe(true);
    }
  });

  it('are there for any picture', () => {
    const codes = fc
      .uint8Array({ minLength: 3, maxLength: 300 })
      .map(a => a.subarray(0, a.length - (a.length % 3)));
    fc.assert(
      fc.property(codes, row => {
        const pixels = { codes: row, width: row.length / 3, height: 1 };
        expect(movesOf(pixels)).toHaveLength(3);
      }),
    );
  });
});

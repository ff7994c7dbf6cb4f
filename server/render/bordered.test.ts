import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { withBorder } from '../../core/kernels/border';
import { outputSpaces, isGreySpace, type SpaceName } from '../../core/kernels/output-space';
import { picture, read, rendered } from '../../core/testing/pictures';
import { bordered, PAPER } from './bordered';

const toned = read([
  { kind: 'mono' },
  { kind: 'tint', settings: { hue: 60, saturation: 0.5 } },
  { kind: 'curve', settings: { points: { all: [[0, 0.1], [1, 0.9]] } } }, // prettier-ignore
]);
const said = { title: 'Low water', rights: '© A. Keeper' };
const spaces = Object.keys(outputSpaces) as SpaceName[];

describe('a border', () => {
  it('leaves the picture as it is, and is of one colour all about it', () => {
    const side = fc.integer({ min: 0, max: 9 });
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 1, max: 12 }),
        fc.record({ left: side, top: side, right: side, bottom: side }),
        fc.constantFrom(1, 3),
        (width, height, edges, channels) => {
          const codes = Uint16Array.from({ length: width * height * channels }, (_, i) => i + 1);
          const colour = [50_001, 50_002, 50_003].slice(0, channels);
          const made = withBorder(codes, { width, height }, edges, colour);
          expect([made.width, made.height]).toEqual([
            width + edges.left + edges.right,
            height + edges.top + edges.bottom,
          ]);
          for (let y = 0; y < made.height; y++) {
            for (let x = 0; x < made.width; x++) {
              const [u, v] = [x - edges.left, y - edges.top];
              const isIn = u >= 0 && v >= 0 && u < width && v < height;
              for (let k = 0; k < channels; k++) {
                const code = made.codes[(y * made.width + x) * channels + k];
                expect(code).toBe(isIn ? codes[(v * width + u) * channels + k] : colour[k]);
              }
            }
          }
        },
      ),
    );
  });

  const size = { width: 40, height: 20 };
  const flat = (channels: number) => ({ ...size, codes: new Uint16Array(40 * 20 * channels).fill(30_000) });
  const make = (border: object, profile: SpaceName = 'srgb', of = toned) =>
    bordered(
      flat(isGreySpace(profile) ? 1 : 3),
      { width: 0.1, colour: 'paper', caption: false, ...border },
      of,
      { profile, bits: 16 },
      said,
    );

  it('as the toned paper has what the treatment makes of a tone beneath white', async () => {
    const white = { ...picture(4, 4), codes: new Uint16Array(48).fill(Math.round(PAPER * 65_535)) };
    const expected = rendered(toned, white, { pixels: 16 }).codes.slice(0, 3);
    const { codes, width } = await make({});
    expect(width).toBe(48);
    for (let k = 0; k < 3; k++) expect(Math.abs(codes[k] - expected[k])).toBeLessThan(20);
    expect(codes[2]).toBeLessThan(codes[0] - 1000);
  });

  it.each(spaces)('in %s is white where white is wanted, by as many channels as it has', async profile => {
    const { codes, width, height } = await make({ colour: 'white' }, profile);
    expect(codes.length).toBe(width * height * (isGreySpace(profile) ? 1 : 3));
    for (const code of codes.slice(0, 20)) expect(code).toBeGreaterThanOrEqual(65_534);
    expect(codes).toContain(30_000);
  });

  it('has a line of ink beneath the picture alone', async () => {
    const large = { width: 900, height: 600, codes: new Uint8Array(900 * 600 * 3).fill(128) };
    const border = { width: 0.02, colour: 'white', caption: true } as const;
    const { codes, width, height } = await bordered(large, border, toned, { profile: 'srgb', bits: 8 }, said);
    expect(height - 600 - 18).toBeGreaterThan(18);
    const inkIn = (from: number, to: number, left: number, right: number) => {
      let ink = 0;
      for (let y = from; y < to; y++)
        for (let x = left; x < right; x++) ink += 255 - codes[(y * width + x) * 3 + 1];
      return ink / ((to - from) * (right - left));
    };
    expect(inkIn(0, 18, 0, width)).toBe(0);
    // The title at the left, the rights at the right, nothing between.
    expect(inkIn(618, height, 18, 90)).toBeGreaterThan(10);
    expect(inkIn(618, height, width - 18 - 40, width - 18)).toBeGreaterThan(4);
    expect(inkIn(618, height, 300, 600)).toBe(0);
    expect(inkIn(618, height, 0, 17)).toBe(0);
  });
});

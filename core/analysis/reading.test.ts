import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { framed } from '../frame/framing';
import { geometryOf } from '../frame/geometry';
import { paint, read } from '../testing/pictures';
import { blobOf } from './blob';
import { placeOf } from './place';
import { bandOf, isGrey, readPicture } from './reading';

const codes8 = (codes: ArrayLike<number>) => Uint8Array.from(codes, v => Math.round(v / 257));

describe('what is read from a picture', () => {
  it('lies where it is on the photograph, however that is turned, mirrored and cropped', () => {
    const frames = fc.record({
      quarterTurns: fc.constantFrom(0, 1, 2, 3),
      mirror: fc.boolean(),
      crop: fc.constantFrom(
        { x: 0, y: 0, width: 1, height: 1 },
        { x: 0.1, y: 0.05, width: 0.8, height: 0.9 },
        { x: 0.05, y: 0.15, width: 0.9, height: 0.8 },
      ),
    });
    const at = fc.constantFrom(0.3, 0.5, 0.68);
    fc.assert(
      fc.property(frames, at, at, (frame, cx, cy) => {
        const source = paint(120, 80, (x, y) =>
          Math.hypot((x - cx) * 1.5, y - cy) < 0.12 ? [0.8, 0.2, 0.15] : [0.5, 0.5, 0.5],
        );
        const { frame: parsed } = read([], { frame });
        const geometry = geometryOf(source, parsed);
        const { width, height } = geometry;
        const tile = framed(source, geometry, { x: 0, y: 0, width, height });
        const pixels = { codes: codes8(tile.codes), width, height };
        const [thing] = readPicture(pixels, pixels, geometry).things;
        expect(thing.family).toBe('red');
        const { centre, radii, holds } = thing.blob!;
        expect(Math.abs(centre[0] - cx)).toBeLessThan(0.05);
        expect(Math.abs(centre[1] - cy)).toBeLessThan(0.06);
        // A disc of 0.12 of the height is one of 0.08 of the long edge; it is held, with room about it.
        for (const r of radii) {
          expect(r).toBeGreaterThan(0.07);
          expect(r).toBeLessThan(0.2);
        }
        expect(holds).toBeGreaterThan(0.85);
      }),
      { numRuns: 60 },
    );
  });

  it('has no place where it lies all over, and none where there is nothing', () => {
    expect(placeOf(() => 1, 30, 20)).toBeNull();
    expect(placeOf(() => 0, 30, 20)).toBeNull();
    expect(blobOf(() => 1, 30, 20)).toBeNull();
    expect(blobOf(() => 0, 30, 20)).toBeNull();
  });

  it('of two heaps is the heavier', () => {
    // Four columns at the left, two at the right.
    const found = blobOf(p => (p % 64 < 8 || p % 64 >= 60 ? 1 : 0), 64, 40)!;
    expect(found.centre[0]).toBeLessThan(0.25);
    expect(found.holds).toBeCloseTo(8 / 12, 2);
  });

  it('is grey for a scan in three channels with the noise of compression, and not for a faint tint', () => {
    const noisy = (tint: number) => ({
      codes: Uint8Array.from({ length: 3000 }, (_, i) => 120 + ((i * 7) % 4) + (i % 3 === 0 ? tint : 0)),
    });
    expect(isGrey(noisy(0))).toBe(true);
    expect(isGrey(noisy(9))).toBe(false);
  });

  it('parts tones into three bands without a gap', () => {
    const all = Array.from({ length: 256 }, (_, v) => bandOf(v));
    expect([...new Set(all)]).toEqual(['darks', 'middles', 'lights']);
    expect(
      all.toSorted(
        (a, b) => ['darks', 'middles', 'lights'].indexOf(a) - ['darks', 'middles', 'lights'].indexOf(b),
      ),
    ).toEqual(all);
  });

  it('tells contrast by its scale: what is fine is not coarse', () => {
    const striped = (period: number) => {
      const codes = new Uint8Array(240 * 160 * 3).map((_, i) =>
        Math.floor((Math.floor(i / 3) % 240) / (period / 2)) % 2 ? 180 : 70,
      );
      const pixels = { codes, width: 240, height: 160 };
      return readPicture(pixels, pixels).contrast;
    };
    const fine = striped(2);
    const coarse = striped(24);
    expect(fine.fine).toBeGreaterThan(0.2);
    expect(coarse.fine).toBeLessThan(fine.fine / 2);
    expect(coarse.coarse).toBeGreaterThan(0.15);
  });
});

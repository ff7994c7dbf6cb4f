import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { outputEdge, writtenDpi, type OutputSize } from './output-size';

const full = { width: 6000, height: 4000 };

describe('the size of what goes out', () => {
  it.each<[OutputSize, number, number]>([
    [{ by: 'full' }, 300, 6000],
    [{ by: 'long-edge', pixels: 2400 }, 300, 2400],
    [{ by: 'short-edge', pixels: 1000 }, 300, 1500],
    [{ by: 'megapixels', megapixels: 6 }, 300, 3000],
    [{ by: 'print', length: 30, unit: 'cm' }, 254, 3000],
    [{ by: 'print', length: 10, unit: 'inch' }, 300, 3000],
    [{ by: 'print', length: 40, unit: 'inch' }, 300, 6000],
  ])('%j at %i dpi has a long edge of %i', (size, dpi, edge) => {
    expect(outputEdge(size, dpi, full)).toBe(edge);
    expect(outputEdge(size, dpi, { width: 4000, height: 6000 })).toBe(edge);
  });

  it('is never larger than the picture, nor nothing, and a print stays as long as asked', () => {
    const sizes: fc.Arbitrary<OutputSize> = fc.oneof(
      fc.record({
        by: fc.constantFrom('long-edge' as const, 'short-edge' as const),
        pixels: fc.integer({ min: 16, max: 9000 }),
      }),
      fc.record({
        by: fc.constant('megapixels' as const),
        megapixels: fc.double({ min: 0.01, max: 400, noNaN: true }),
      }),
      fc.record({
        by: fc.constant('print' as const),
        length: fc.double({ min: 0.5, max: 1000, noNaN: true }),
        unit: fc.constantFrom('cm' as const, 'inch' as const),
      }),
    );
    const edge = fc.integer({ min: 1, max: 12_000 });
    fc.assert(
      fc.property(sizes, fc.integer({ min: 36, max: 2400 }), edge, edge, (size, dpi, width, height) => {
        const long = outputEdge(size, dpi, { width, height });
        expect(long).toBeGreaterThanOrEqual(1);
        expect(long).toBeLessThanOrEqual(Math.max(width, height));
        const said = writtenDpi(size, dpi, { width: long, height: 1 });
        if (size.by !== 'print') expect(said).toBe(dpi);
        else expect(long / said).toBeCloseTo(size.unit === 'inch' ? size.length : size.length / 2.54, 6);
      }),
    );
  });
});

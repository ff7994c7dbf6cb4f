import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distances } from './distance';

const grids = fc
  .tuple(fc.integer({ min: 1, max: 14 }), fc.integer({ min: 1, max: 14 }))
  .chain(([width, height]) =>
    fc.record({
      width: fc.constant(width),
      height: fc.constant(height),
      cells: fc.uniqueArray(fc.integer({ min: 0, max: width * height - 1 }), { maxLength: 8 }),
    }),
  );

describe('distances', () => {
  it('are those to the nearest cell, one by one', () => {
    fc.assert(
      fc.property(grids, ({ width, height, cells }) => {
        const made = distances(
          width,
          height,
          Uint8Array.from({ length: width * height }, (_, i) => Number(cells.includes(i))),
        );
        for (let i = 0; i < made.length; i++) {
          const each = cells.map(c =>
            Math.hypot((i % width) - (c % width), Math.floor(i / width) - Math.floor(c / width)),
          );
          if (each.length) expect(made[i]).toBeCloseTo(Math.min(...each), 4);
          else expect(made[i]).toBeGreaterThan(1e5);
        }
      }),
    );
  });
});

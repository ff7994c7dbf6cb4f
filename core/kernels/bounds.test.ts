import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boundsOf } from './planes';

describe('bounds', () => {
  it('hold all cells that are asked for, and no row or column more than is asked for beside them', () => {
    const grids = fc
      .tuple(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 12 }))
      .chain(([width, height]) =>
        fc.record({
          width: fc.constant(width),
          height: fc.constant(height),
          cells: fc.uniqueArray(fc.integer({ min: 0, max: width * height - 1 }), { maxLength: 6 }),
          more: fc.integer({ min: 0, max: 4 }),
        }),
      );
    fc.assert(
      fc.property(grids, ({ width, height, cells, more }) => {
        const found = boundsOf(width, height, i => cells.includes(i), more);
        if (!cells.length) {
          expect(found).toBeNull();
          return;
        }
        const [xs, ys] = [cells.map(i => i % width), cells.map(i => Math.floor(i / width))];
        const [x, y] = [Math.max(0, Math.min(...xs) - more), Math.max(0, Math.min(...ys) - more)];
        expect(found).toEqual({
          x,
          y,
          width: Math.min(width, Math.max(...xs) + more + 1) - x,
          height: Math.min(height, Math.max(...ys) + more + 1) - y,
        });
      }),
    );
  });
});

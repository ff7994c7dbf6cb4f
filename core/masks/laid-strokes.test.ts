import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { strokeUpTo } from '../testing/arbitraries';
import { laidStrokes, type StrokeMemory } from './laid-strokes';
import { layStrokes } from './strokes';

const photograph = { width: 300, height: 200 };
const lattice = { cell: 1, x: 40, y: 20, width: 45, height: 36 };
const memory: StrokeMemory = new Map();
const same = (a: Float32Array, b: Float32Array) => a.length === b.length && a.every((v, i) => v === b[i]);
const stroke = strokeUpTo(0.2, 8);

describe('strokes laid with memory', () => {
  it('are those laid without, painted point by point, undone and painted otherwise', () => {
    fc.assert(
      fc.property(fc.array(stroke, { minLength: 1, maxLength: 6 }), strokes => {
        for (let count = 1; count <= strokes.length; count++) {
          const before = strokes.slice(0, count - 1);
          const last = strokes[count - 1];
          for (let length = 1; length <= last.points.length; length++) {
            const now = [...before, { ...last, points: last.points.slice(0, length) }];
            const whole = new Float32Array(lattice.width * lattice.height);
            layStrokes(whole, lattice, now, photograph);
            expect(same(laidStrokes(now, lattice, photograph, memory), whole)).toBe(true);
          }
        }
        const undone = strokes.slice(0, -1);
        const whole = new Float32Array(lattice.width * lattice.height);
        if (undone.length) layStrokes(whole, lattice, undone, photograph);
        expect(same(laidStrokes(undone, lattice, photograph, memory), whole)).toBe(true);
      }),
    );
  });

  it('are whole across the squares that they are laid in', () => {
    const large = { width: 900, height: 700 };
    const across = { cell: 1, x: 200, y: 220, width: 330, height: 90 };
    fc.assert(
      fc.property(fc.array(stroke, { minLength: 1, maxLength: 3 }), strokes => {
        const whole = new Float32Array(across.width * across.height);
        layStrokes(whole, across, strokes, large);
        expect(same(laidStrokes(strokes, across, large, memory), whole)).toBe(true);
      }),
      { numRuns: 30 },
    );
  });

  it('a stroke painted otherwise does not go on from the one before', () => {
    const line = (y: number, radius: number) => ({
      points: [
        [0.2, 0.3, 1],
        [0.4, y, 1],
      ] as [number, number, number][],
      radius,
      hardness: 1,
      flow: 1,
      erase: false,
      keepEdges: 0,
    });
    for (const stroke of [line(0.3, 0.1), line(0.5, 0.1), line(0.5, 0.05)]) {
      const whole = new Float32Array(lattice.width * lattice.height);
      layStrokes(whole, lattice, [stroke], photograph);
      expect(same(laidStrokes([stroke], lattice, photograph, memory), whole)).toBe(true);
    }
  });
});

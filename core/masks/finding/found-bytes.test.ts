import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Stroke } from '../../settings/fields';
import { paint } from '../../testing/pictures';
import { belonging, soughtBy } from './find';
import { bytesOfFound, foundOfBytes, nameOfFound } from './found-bytes';
import { withinEdges } from './keep';
import type { Sought } from './memory';
import { sightOf, type Sight } from './sight';

const stroke = (keepEdges: number, ...points: [number, number, number][]): Stroke => ({
  points,
  radius: 0.03,
  hardness: 1,
  flow: 1,
  erase: false,
  keepEdges,
});

/** A bright disc on a dark ground. */
function seen(width: number, height: number): Sight {
  const { codes } = paint(width, height, (u, v) =>
    Math.hypot(u - 0.5, v - 0.5) < 0.25 ? [0.8, 0.6, 0.3] : [0.2, 0.25, 0.3],
  );
  return sightOf(codes, width, height, false);
}

const place = fc.tuple(
  fc.double({ min: 0.05, max: 0.95, noNaN: true }),
  fc.double({ min: 0.05, max: 0.95, noNaN: true }),
  fc.constant(1),
) as fc.Arbitrary<[number, number, number]>;

describe('what was found, as bytes', () => {
  it('is read as it was, to the last bit, and is of no picture of another size', () => {
    const sight = seen(90, 60);
    const other = seen(60, 60);
    fc.assert(
      fc.property(fc.array(place, { minLength: 1, maxLength: 3 }), points => {
        const asked = { strokesIn: [stroke(0, ...points)], strokesOut: [] };
        const careful = stroke(0.5, ...points);
        const all: [Sought, unknown][] = [
          [soughtBy(asked), belonging(asked, sight)],
          [['within', 'a careful one'], withinEdges(careful, sight)],
        ];
        for (const [sought, value] of all) {
          if (!value) continue;
          const bytes = bytesOfFound(sought, value);
          expect(foundOfBytes(sought, bytes, sight)).toEqual(value);
          expect(foundOfBytes(sought, bytes.subarray(1), sight)).toBeNull();
        }
        expect(foundOfBytes(all[0][0], bytesOfFound(...all[0]), other)).toBeNull();
      }),
      { numRuns: 20 },
    );
  });

  it('that is made up is never read beyond the picture', () => {
    const sight = seen(90, 60);
    fc.assert(
      fc.property(
        fc.constantFrom<Sought>(['belonging', 'x'], ['within', 'x']),
        fc.uint8Array({ maxLength: 400 }),
        (sought, bytes) => {
          const value = foundOfBytes(sought, bytes, sight) as {
            x: number;
            y: number;
            width: number;
            height: number;
            values: Uint8Array;
          } | null;
          if (!value) return;
          expect(value.x + value.width).toBeLessThanOrEqual(sight.picture.width);
          expect(value.y + value.height).toBeLessThanOrEqual(sight.picture.height);
          expect(value.values).toHaveLength(value.width * value.height);
        },
      ),
    );
  });

  it('has a name of its own for each kind and each stroke', () => {
    const names = [
      nameOfFound(['belonging', 'a']),
      nameOfFound(['within', 'a']),
      nameOfFound(['belonging', 'b']),
    ];
    expect(new Set(names).size).toBe(3);
    for (const name of names) expect(name).toMatch(/^[0-9a-f]{64}$/);
  });

  // Where this fails the finder finds something else than before: raise its version (FINDER), and write the new number here.
  it('is of the finder whose version it names', () => {
    const asked = { strokesIn: [stroke(0, [0.5, 0.5, 1])], strokesOut: [stroke(0, [0.1, 0.1, 1])] };
    const all = belonging(asked, seen(90, 60));
    const covered = all.reduce((sum, v) => sum + v, 0) / all.length;
    expect([nameOfFound(['belonging', '']).slice(0, 8), covered.toFixed(4)]).toEqual(['ad6445a9', '0.1948']);
  });
});

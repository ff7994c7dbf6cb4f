import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sharpen } from '../steps/sharpen';
import { picture, read, rendered } from '../testing/pictures';
import { geometryOf } from '../frame/geometry';
import { createPlanner } from './plan';

/** Steps that look at pixels beside their own: a part alone is what it is in the whole, on pictures large enough that it counts. */

const [WIDTH, HEIGHT] = [320, 200];
const source = picture(WIDTH, HEIGHT);

const sharpened = (radius: number) => read([{ kind: 'sharpen', settings: { amount: 1, radius } }]);

describe('a part of a sharpened picture', () => {
  const { radius } = sharpen.fields;
  const part = fc
    .tuple(
      fc.integer({ min: 0, max: WIDTH - 40 }),
      fc.integer({ min: 0, max: HEIGHT - 30 }),
      fc.integer({ min: 1, max: 40 }),
      fc.integer({ min: 1, max: 30 }),
    )
    .map(([x, y, width, height]) => ({ x, y, width, height }));

  it('is the same alone, whatever the radius', () => {
    fc.assert(
      fc.property(fc.double({ min: radius.min, max: radius.max, noNaN: true }), part, (r, at) => {
        const treatment = sharpened(r);
        const whole = rendered(treatment, source);
        const { codes } = rendered(treatment, source, { part: at });
        for (let row = 0; row < at.height; row++) {
          const from = ((at.y + row) * WIDTH + at.x) * 3;
          expect(codes.subarray(row * at.width * 3, (row + 1) * at.width * 3)).toEqual(
            whole.codes.subarray(from, from + at.width * 3),
          );
        }
      }),
      { numRuns: 25 },
    );
  });

  it('needs pixels about it for some radius, so that this is tried at all', () => {
    const geometry = geometryOf(source, sharpened(radius.min).frame);
    const margins = [0.1, 0.3, 0.6, 1].map(share =>
      createPlanner()(sharpened(radius.min + share * (radius.max - radius.min)), {
        grey: false,
        pixels: WIDTH * HEIGHT,
      }).margin(geometry),
    );
    expect(Math.max(...margins)).toBeGreaterThan(1);
  });
});

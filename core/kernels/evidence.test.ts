import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawTo, heard, steepen, weigh } from './evidence';
import { likeness } from './likeness';
import { planeOf } from './planes';

/** What is said of cells, against the same written out cell by cell in double precision. */

const numbers = (count: number, least: number, most: number) =>
  fc
    .array(fc.double({ min: least, max: most, noNaN: true }), { minLength: count, maxLength: count })
    .map(all => Float32Array.from(all));
/** Planes of one length, which is often no multiple of four. */
const planes = (ranges: readonly (readonly [number, number])[]) =>
  fc
    .integer({ min: 1, max: 70 })
    .chain(count => fc.tuple(...ranges.map(([least, most]) => numbers(count, least, most))));
const close = (found: Float32Array, wanted: (i: number) => number, by = 1e-5) =>
  found.forEach((v, i) => expect(Math.abs(v - wanted(i))).toBeLessThan(by));
const smooth = (t: number) => (t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t));

describe('what is said of cells', () => {
  it('falls with the way, and is not heard beyond the furthest', () => {
    fc.assert(
      fc.property(
        planes([
          [0, 1],
          [0, 2],
        ]),
        ([evidence, way]) => {
          const said = evidence.slice();
          heard(said, way, 0.06, 0.72);
          close(said, i => (way[i] > Math.fround(0.72) ? 0 : evidence[i] * Math.exp(-way[i] / 0.06)));
        },
      ),
    );
  });

  it('is weighed by its share in all that is said', () => {
    fc.assert(
      fc.property(
        planes([
          [0, 3],
          [0.01, 3],
        ]),
        ([speaks, against]) => {
          const share = speaks.slice();
          const held = weigh(share, against, 0.01, 2e-4);
          close(share, i => speaks[i] / (speaks[i] + against[i]));
          close(held, i => 0.01 * Math.abs((2 * speaks[i]) / (speaks[i] + against[i]) - 1) + 2e-4, 1e-7);
        },
      ),
    );
  });

  it('is parted softly, and keeps its order', () => {
    fc.assert(
      fc.property(planes([[-0.2, 1.2]]), ([values]) => {
        const parted = values.slice();
        steepen(parted, 5.5);
        close(parted, i => smooth(5.5 * (values[i] - 0.5) + 0.5));
      }),
    );
  });

  it('is drawn to lines through features, but for what is fixed', () => {
    const ranges = [...Array.from({ length: 7 }, () => [-1, 1] as const), [0, 1], [0, 1], [0, 1]] as const;
    fc.assert(
      fc.property(planes(ranges), ([a, b, c, d, f, g, h, loose, before, firm]) => {
        const plane = (values: Float32Array) => ({ ...planeOf(values.length, 1), values });
        const fixed = loose.map(v => (v > 0.5 ? 1 : 0));
        const [targets, held] = [before.slice(), firm.slice()];
        drawTo(
          { a: [plane(a), plane(b), plane(c)], d: plane(d) },
          [f, g, h],
          fixed,
          targets,
          held,
          [0.1, 2e-4],
        );
        const to = (i: number) => smooth(a[i] * f[i] + b[i] * g[i] + c[i] * h[i] + d[i]);
        close(targets, i => (fixed[i] ? before[i] : to(i)));
        close(held, i => (fixed[i] ? firm[i] : 0.1 * (2 * to(i) - 1) ** 2 + 2e-4));
      }),
    );
  });
});

describe('likeness', () => {
  it('is most where seeds lie, alike for like cells, and none for cells that nothing is like', () => {
    const [width, height] = [37, 11];
    const tone = (i: number) => [0.2, 0.5, 0.9][Math.floor((3 * (i % width)) / width)];
    const features = [0, 1, 2].map(k =>
      Float32Array.from({ length: width * height }, (_, i) => tone(i) + k * 0.1),
    );
    const [f, g, h] = features;
    const rough = new Float32Array(f.length).fill(0.01);
    const seeds = Uint8Array.from(f, (_, i) => (i % width < 4 ? 1 : 0));
    const like = likeness({ width, height, features: [f, g, h], rough }, seeds);
    like.forEach((v, i) => {
      if (tone(i) === 0.2) expect(v).toBeGreaterThan(0.9);
      else if (tone(i) === 0.9) expect(v).toBe(0);
      else expect(v).toBeLessThan(0.2);
      expect(v).toBe(like[i % width]);
    });
  });
});

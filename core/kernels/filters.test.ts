import fc from 'fast-check';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { decode, encode } from '../colour/srgb';
import { mixer } from '../colour/mixes';
import { reweigh } from './base-layers';
import { calmChroma } from './calm';
import { mixColour } from './colour-mix';
import { gaussian, gaussianTaps } from './gaussian';
import { colourGuide, colourGuided } from './guided';
import { halve, halveRows } from './halve';
import { linesOf } from './lines';
import { grainPlane } from './grain';
import { boxMean, planeOf, readPlane, type Plane } from './planes';
import { sharpenBy } from './unsharp';

/** The filters that look at neighbours or at places, each beside the plain formula that it was compiled from. */

const all = <T>(property: fc.IProperty<T>) => fc.assert(property, { numRuns: 20 });

/** Numbers from a seed, from `low` to `high`. */
function numbers(count: number, seed: number, low = 0, high = 1): Float32Array {
  let state = seed;
  return Float32Array.from({ length: count }, () => {
    state = (Math.imul(state, 1664525) + 1013904223) | 0;
    return low + ((state >>> 0) / 2 ** 32) * (high - low);
  });
}
const planeFrom = (width: number, height: number, seed: number, low = 0, high = 1): Plane => ({
  width,
  height,
  values: numbers(width * height, seed, low, high),
});
const seeds = fc.integer({ min: 1, max: 1e6 });
const sides = fc.integer({ min: 1, max: 70 });

function worst(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let most = a.length === b.length ? 0 : Infinity;
  for (let i = 0; i < a.length; i++) {
    const off = Math.abs(a[i] - b[i]);
    if (!(off <= most)) most = Number.isNaN(off) ? Infinity : off;
  }
  return most;
}

/** A part of interleaved numbers. */
function cutOut(values: Float32Array, width: number, part: Rect, channels: number): Float32Array {
  const out = new Float32Array(part.width * part.height * channels);
  for (let y = 0; y < part.height; y++) {
    const from = ((part.y + y) * width + part.x) * channels;
    out.set(values.subarray(from, from + part.width * channels), y * part.width * channels);
  }
  return out;
}
interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}
/** A part of a picture of some sides. */
const parts = fc
  .tuple(sides, sides, fc.nat(), fc.nat(), fc.nat(), fc.nat())
  .map(([width, height, x, y, w, h]) => {
    const left = x % width;
    const top = y % height;
    const part = { x: left, y: top, width: 1 + (w % (width - left)), height: 1 + (h % (height - top)) };
    return { width, height, part };
  });

describe('a Gaussian', () => {
  const plainly = ({ width, height, values }: Plane, sigma: number) => {
    const taps = gaussianTaps(sigma);
    const radius = (taps.length - 1) / 2;
    const at = (x: number, y: number) =>
      values[Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))];
    const out = new Float64Array(width * height);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        for (let v = -radius; v <= radius; v++) {
          for (let u = -radius; u <= radius; u++) {
            out[y * width + x] += taps[v + radius] * taps[u + radius] * at(x + u, y + v);
          }
        }
      }
    }
    return out;
  };

  it('is the sum of its taps, edges repeated', () => {
    const sigmas = fc.constantFrom(0.2, 0.5, 1.1, 2.07, 3);
    all(
      fc.property(sides, sides, sigmas, seeds, (width, height, sigma, seed) => {
        const plane = planeFrom(width, height, seed, -0.2, 1.3);
        expect(worst(gaussian(plane, sigma).values, plainly(plane, sigma))).toBeLessThan(1e-6);
      }),
    );
  });

  it('is that of sharp, to a code', async () => {
    const plane = planeFrom(120, 90, 5);
    const raw = { width: 120, height: 90, channels: 1 as const };
    const codes = Uint8Array.from(plane.values, v => Math.round(v * 255));
    const { data } = await sharp(codes, { raw })
      .blur({ sigma: 2, minAmplitude: 0.005, precision: 'float' })
      .raw()
      .toBuffer({ resolveWithObject: true });
    const mine = gaussian({ ...plane, values: Float32Array.from(codes) }, 2);
    const grey = data.length === codes.length ? data : data.filter((_, i) => i % 3 === 0);
    // Its taps are whole numbers.
    expect(worst(mine.values, grey)).toBeLessThan(2);
  });

  it('wider than a block of columns is the same as narrower ones, bit for bit', () => {
    const width = 4500;
    const plane = planeFrom(width, 9, 77);
    const whole = gaussian(plane, 1.3).values;
    const part = { x: 1990, y: 0, width: 200, height: 9 };
    const alone = gaussian({ ...part, values: cutOut(plane.values, width, part, 1) }, 1.3).values;
    const middle = { x: 10, y: 0, width: 180, height: 9 };
    expect(cutOut(alone, 200, middle, 1)).toEqual(
      cutOut(whole, width, { ...middle, x: part.x + middle.x }, 1),
    );
  });
});

describe('sharpening', () => {
  it('adds luma less its blur, detail below the threshold eased out', () => {
    const settings = fc.record({
      amount: fc.double({ min: 0, max: 5, noNaN: true }),
      threshold: fc.constantFrom(0, 0.02, 0.3),
    });
    all(
      fc.property(sides, sides, seeds, settings, (width, height, seed, { amount, threshold }) => {
        const rgb = numbers(width * height * 3, seed);
        const lumas = planeOf(width, height);
        for (let i = 0; i < lumas.values.length; i++) {
          lumas.values[i] = 0.2126 * rgb[i * 3] + 0.7152 * rgb[i * 3 + 1] + 0.0722 * rgb[i * 3 + 2];
        }
        const blurred = gaussian(lumas, 1.4).values;
        const wanted = rgb.map((v, p) => {
          const detail = lumas.values[Math.floor(p / 3)] - blurred[Math.floor(p / 3)];
          const t = Math.min(1, Math.abs(detail) / (threshold || 1e-9));
          return v + amount * (threshold ? t * t * (3 - 2 * t) : 1) * detail;
        });
        const out = new Float32Array(rgb.length);
        sharpenBy({ rgb, width, height }, 1.4, { amount, threshold }, out);
        expect(worst(out, wanted)).toBeLessThan(3e-6);
      }),
    );
  });
});

describe('half the size', () => {
  it('is the mean in linear light', () => {
    const width = 64;
    const codes = Uint16Array.from(numbers(width * 48 * 3, 9), v => Math.round(v * 65535));
    const half = halve(codes, width, 48);
    for (let i = 0; i < half.length; i++) {
      const [x, y, k] = [Math.floor(i / 3) % 32, Math.floor(i / 96), i % 3];
      const light = (u: number, v: number) =>
        decode(codes[((2 * y + v) * width + 2 * x + u) * 3 + k] / 65535);
      const mean = (light(0, 0) + light(1, 0) + light(0, 1) + light(1, 1)) / 4;
      expect(Math.abs(half[i] - 65535 * encode(mean))).toBeLessThan(1);
    }
  });

  it('of either depth, in bands or whole, with odd edges standing for themselves', () => {
    all(
      fc.property(sides, sides, seeds, fc.boolean(), (width, height, seed, narrow) => {
        const deep = numbers(width * height * 3, seed);
        const codes = narrow
          ? Uint8Array.from(deep, v => Math.round(v * 255))
          : Uint16Array.from(deep, v => Math.round(v * 65535));
        const most = narrow ? 255 : 65535;
        const whole = halve(codes, width, height);
        const rows = Math.ceil(height / 2);
        const banded = new Uint16Array(whole.length);
        for (let y = 0; y < rows; y += 3) halveRows(codes, width, height, y, Math.min(3, rows - y), banded);
        expect(banded).toEqual(whole);
        const last = (v: number, length: number) => Math.min(length - 1, v);
        const light = (x: number, y: number) =>
          decode(codes[(last(y, height) * width + last(x, width)) * 3] / most);
        const [x, y] = [Math.ceil(width / 2) - 1, rows - 1];
        const mean =
          (light(2 * x, 2 * y) +
            light(2 * x + 1, 2 * y) +
            light(2 * x, 2 * y + 1) +
            light(2 * x + 1, 2 * y + 1)) /
          4;
        expect(Math.abs(whole[(y * (x + 1) + x) * 3] - 65535 * encode(mean))).toBeLessThan(1.1);
      }),
    );
  });
});

describe('lines of a small picture', () => {
  const sizes = fc.tuple(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 12 }));

  it('part luma into three details as the formula says, whatever the part', () => {
    all(
      fc.property(
        parts,
        fc.tuple(sizes, sizes, sizes),
        seeds,
        fc.tuple(fc.double({ min: -1, max: 1.6, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true })),
        ({ width, height, part }, smalls, seed, [fine, medium]) => {
          const of = { width, height };
          const planes = smalls.map(([w, h], i) => [
            planeFrom(w, h, seed + i, 0, 1),
            planeFrom(w, h, seed + 7 * i + 3, 0, 0.2),
          ]);
          const rgb = numbers(part.width * part.height * 3, seed);
          const out = new Float32Array(rgb.length);
          const gains = [fine, medium, 0.7] as const;
          reweigh({ rgb, ...part }, planes.map(linesOf), of, gains, out);
          const read = planes.map(pair =>
            pair.map(plane => {
              const values = new Float32Array(part.width * part.height);
              readPlane(plane, of, part, values);
              return values;
            }),
          );
          const wanted = new Float64Array(rgb.length);
          for (let i = 0, p = 0; p < rgb.length; i++, p += 3) {
            const v = 0.2126 * rgb[p] + 0.7152 * rgb[p + 1] + 0.0722 * rgb[p + 2];
            const bases = [v];
            for (const [a, b] of read) bases.push(a[i] * bases.at(-1)! + b[i]);
            const moved = gains.reduce((sum, gain, k) => sum + gain * (bases[k] - bases[k + 1]), 0);
            const room = moved > 0 ? 1 - v : v;
            const change = room > 0 ? (moved * room) / Math.hypot(room, moved) : 0;
            const ratio = v > 1e-3 ? change / v : 0;
            const scale = ratio < 0 ? 1 + ratio : 1 + 0.5 * ratio;
            const add = v > 1e-3 ? (ratio < 0 ? 0 : 0.5 * change) : change;
            for (let k = 0; k < 3; k++) wanted[p + k] = scale * rgb[p + k] + add;
          }
          expect(worst(out, wanted)).toBeLessThan(2e-5);
        },
      ),
    );
  });

  it('calm chroma and keep luma and greys', () => {
    all(
      fc.property(parts, sizes, seeds, ({ width, height, part }, [w, h], seed) => {
        const planes = Array.from({ length: 8 }, (_, k) => planeFrom(w, h, seed + k, -0.3, 0.3));
        const rgb = numbers(part.width * part.height * 3, seed);
        rgb.fill(rgb[0], 0, 3);
        const out = new Float32Array(rgb.length);
        calmChroma({ rgb, ...part }, linesOf(planes), { width, height }, out);
        expect([...out.subarray(0, 3)]).toEqual([...rgb.subarray(0, 3)]);
        const read = planes.map(plane => {
          const values = new Float32Array(part.width * part.height);
          readPlane(plane, { width, height }, part, values);
          return values;
        });
        for (let i = 1, p = 3; p < rgb.length; i++, p += 3) {
          const [r, g, b] = rgb.subarray(p, p + 3);
          const luma = 0.2126 * r + 0.7152 * g + 0.0722 * b;
          const by = (k: number) => read[k][i] * r + read[k + 1][i] * g + read[k + 2][i] * b + read[k + 3][i];
          const red = by(0);
          const blue = by(4);
          const chroma = [red, -(0.2126 * red + 0.0722 * blue) / 0.7152, blue];
          const reach = Math.max(1, ...chroma.map(c => (c > 0 ? c / (1 - luma) : c < 0 ? -c / luma : 0)));
          const wanted = chroma.map(c => luma + c / reach);
          expect(worst(out.subarray(p, p + 3), wanted)).toBeLessThan(2e-5);
          expect(0.2126 * out[p] + 0.7152 * out[p + 1] + 0.0722 * out[p + 2]).toBeCloseTo(luma, 5);
        }
      }),
    );
  });
});

describe('one colour in the mix color', () => {
  it('is what the formulas give, by strength and weight', () => {
    const unit = fc.double({ min: 0, max: 1, noNaN: true });
    all(
      fc.property(fc.tuple(unit, unit, unit), unit, seeds, fc.boolean(), (own, strength, seed, isPartly) => {
        const rgb = numbers(3000, seed, -0.2, 1.2);
        const weights = isPartly ? numbers(1000, seed + 1, -0.5, 1).map(v => Math.max(0, v)) : null;
        const out = rgb.slice();
        mixColour(out, weights, own, strength);
        const mix = mixer('color');
        for (let i = 0; i < 1000; i++) {
          const beneath = Float64Array.from(rgb.subarray(i * 3, i * 3 + 3));
          const mixed = Float64Array.from(own);
          mix(beneath, mixed);
          const weight = strength * (weights ? weights[i] : 1);
          const wanted = beneath.map((v, k) => v + weight * (mixed[k] - v));
          expect(worst(out.subarray(i * 3, i * 3 + 3), wanted)).toBeLessThan(2e-6);
        }
      }),
    );
  });
});

describe('grain', () => {
  // The noise as its sources write it, one place at a time.
  const hash = (x: number, y: number, seed: number) => {
    let h = Math.imul(x, 0x27d4eb2d) ^ Math.imul(y, 0x165667b1) ^ seed;
    h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
    h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
    return h ^ (h >>> 16);
  };
  const gradients = [
    [1, 1],
    [1, -1],
    [-1, 1],
    [-1, -1],
    [Math.SQRT2, 0],
    [-Math.SQRT2, 0],
    [0, Math.SQRT2],
    [0, -Math.SQRT2],
  ];
  const noiseAt = (x: number, y: number, seed: number) => {
    const [ix, iy] = [Math.floor(x), Math.floor(y)];
    const corner = (dx: number, dy: number) => {
      const [gx, gy] = gradients[hash(ix + dx, iy + dy, seed) & 7];
      return gx * (x - ix - dx) + gy * (y - iy - dy);
    };
    const fade = (t: number) => t ** 3 * (t * (t * 6 - 15) + 10);
    const between = (a: number, b: number, t: number) => a + t * (b - a);
    const [u, v] = [fade(x - ix), fade(y - iy)];
    return between(between(corner(0, 0), corner(1, 0), u), between(corner(0, 1), corner(1, 1), u), v);
  };

  it('is the noise of its sources, at any place', () => {
    const shapes = fc.record({
      cell: fc.constantFrom(0.0004, 0.0011, 0.01),
      finer: fc.constantFrom(0, 0.6),
      clumping: fc.constantFrom(0, 0.3, 1),
      seed: fc.integer({ min: 0, max: 2147483647 }),
    });
    const turns = fc.constantFrom(
      [1, 0.2, -0.3, 1],
      [1, 0, 0, 1],
      [-1, 0, 0, 1],
      [0, 1, 1, 0],
      [0, -1, 1, 0],
    );
    all(
      fc.property(parts, shapes, turns, ({ width, height, part }, shape, ways) => {
        const longEdge = 7 * Math.max(width, height);
        // Turned, leaned or upright, so that places run backwards and beyond the edge.
        const placeOf = (x: number, y: number, out: Float64Array) => {
          out[0] = 0.9 - (ways[0] * x + ways[1] * y) / longEdge;
          out[1] = -0.1 + (ways[2] * x + ways[3] * y) / longEdge;
        };
        const scale = { longEdge, photograph: { width: longEdge, height: longEdge }, straight: false };
        const grains = grainPlane({ ...part, scale, placeOf }, shape);
        const along = grainPlane({ ...part, scale: { ...scale, straight: true }, placeOf }, shape);
        expect(worst(along, grains)).toBeLessThan(1e-5);
        const pixel = 1 / (longEdge * shape.cell);
        const weaker = (size: number) => 1 / (1 + 0.6 * size * size);
        const seed = Math.imul(shape.seed + 1, 0x9e3779b1);
        const at = new Float64Array(2);
        const wanted = Array.from(grains, (_, i) => {
          placeOf(part.x + (i % part.width) + 0.5, part.y + Math.floor(i / part.width) + 0.5, at);
          const [x, y] = [at[0] / shape.cell, at[1] / shape.cell];
          const strewn = noiseAt(x / 7, y / 7, seed ^ 0x5bd1e995);
          return (
            (weaker(pixel) * noiseAt(x, y, seed) +
              shape.finer * weaker(2 * pixel) * noiseAt(2.03 * x + 7.7, 2.03 * y + 3.1, ~seed)) *
            (1 + 1.6 * shape.clumping * strewn)
          );
        });
        expect(worst(grains, wanted)).toBeLessThan(1e-5);
      }),
    );
  });
});

describe('a mean over a square', () => {
  it('is that of the numbers there, cut off at the edges', () => {
    all(
      fc.property(sides, sides, fc.integer({ min: 0, max: 40 }), seeds, (width, height, radius, seed) => {
        const plane = planeFrom(width, height, seed, -2, 2);
        const wanted = Float64Array.from(plane.values, (_, i) => {
          const [x, y] = [i % width, Math.floor(i / width)];
          let [sum, count] = [0, 0];
          for (let v = Math.max(0, y - radius); v <= Math.min(height - 1, y + radius); v++) {
            for (let u = Math.max(0, x - radius); u <= Math.min(width - 1, x + radius); u++) {
              sum += plane.values[v * width + u];
              count++;
            }
          }
          return sum / count;
        });
        const before = plane.values.slice();
        expect(worst(boxMean(plane, radius).values, wanted)).toBeLessThan(1e-6);
        expect(plane.values).toEqual(before);
      }),
    );
  });
});

describe('lines through colours', () => {
  const three = (width: number, height: number, seed: number): [Plane, Plane, Plane] => [
    planeFrom(width, height, seed),
    planeFrom(width, height, seed + 1),
    planeFrom(width, height, seed + 2),
  ];

  it('give back what is a straight function of the colours', () => {
    const weights = fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 4, maxLength: 4 });
    all(
      fc.property(fc.integer({ min: 12, max: 40 }), weights, seeds, (side, [r, g, b, d], seed) => {
        const guide = three(side, side, seed);
        const input = planeOf(side, side);
        const [red, green, blue] = guide.map(p => p.values);
        for (let i = 0; i < side * side; i++) input.values[i] = r * red[i] + g * green[i] + b * blue[i] + d;
        const [found] = colourGuided(colourGuide(guide, 5), [input], 1e-7);
        expect(worst(found.a[0].values, new Float32Array(side * side).fill(r))).toBeLessThan(1e-3);
        expect(worst(found.a[2].values, new Float32Array(side * side).fill(b))).toBeLessThan(1e-3);
        expect(worst(found.d.values, new Float32Array(side * side).fill(d))).toBeLessThan(1e-3);
      }),
    );
  });

  it('give the mean where colours do not differ by more than counts, whatever else is asked for with it', () => {
    all(
      fc.property(fc.integer({ min: 4, max: 40 }), seeds, (side, seed) => {
        const guide = three(side, side, seed);
        const input = planeFrom(side, side, seed + 9);
        const [found] = colourGuided(colourGuide(guide, 3), [input], 1e6);
        const mean = boxMean(boxMean(input, 3), 3);
        expect(worst(found.d.values, mean.values)).toBeLessThan(1e-5);
        const [, second] = colourGuided(colourGuide(guide, 3), [guide[0], input], 1e6);
        expect(second.d.values).toEqual(found.d.values);
      }),
    );
  });
});

import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { ASSEMBLED, assembled } from '../../scripts/assemble.mjs';
import { readCodes, spreadGrey, toCodes, write8 } from './codes';
import { CHUNK, forget } from './compiled';
import { gridNodes, readGrid, type Grid } from './grid';
import { addGrain } from './grain';
import { gaussian, gaussianTaps } from './gaussian';
import type { Plane } from './planes';
import { rollingBase } from './rolling';
import { readRamp, throughRamp, writeRamp8, type Ramp } from './ramp';

/** Runs that end within a chunk, at its end, and within the next. */
const counts = fc.constantFrom(1, 2, 3, 5, 1021, CHUNK, CHUNK + 1, CHUNK + 3, 2 * CHUNK + 7);
const seeds = fc.integer({ min: 1, max: 1e6 });

/** Numbers from a seed, from `low` to `high`. */
function numbers(count: number, seed: number, low = 0, high = 1): Float32Array {
  let state = seed;
  return Float32Array.from({ length: count }, () => {
    state = (Math.imul(state, 1664525) + 1013904223) | 0;
    return low + ((state >>> 0) / 2 ** 32) * (high - low);
  });
}

const all = <T>(property: fc.IProperty<T>) => fc.assert(property, { numRuns: 25 });

/** The largest difference between two runs of numbers. */
function apart(a: ArrayLike<number>, of: (i: number) => number): number {
  let worst = 0;
  for (let i = 0; i < a.length; i++) {
    const off = Math.abs(a[i] - of(i));
    if (!(off <= worst)) worst = Number.isNaN(off) ? Infinity : off;
  }
  return worst;
}

const testRamp: Ramp = (() => {
  const length = 1025;
  const values = Float32Array.from(
    { length: length * 3 },
    (_, i) => ((i / 3) | 0) / 1024 + 0.1 * Math.sin(i / 90),
  );
  return { from: -0.25, density: 1024 / 1.5, length, values };
})();
const rampAt = (grey: number, k: number) => {
  const at = Math.min(1024, Math.max(0, (grey - testRamp.from) * testRamp.density));
  const j = Math.min(1023, Math.floor(at));
  const v = (n: number) => testRamp.values[n * 3 + k];
  return v(j) + (v(j + 1) - v(j)) * (at - j);
};

/** The filter of `rolling.ts` by its formula, in double precision. */
function rolledPlainly(
  { width, height, values }: Plane,
  scale: number,
  range: number,
  rounds: number,
): number[] {
  const taps = gaussianTaps(scale);
  const middle = (taps.length - 1) / 2;
  const radius = Math.min(middle, Math.ceil(2 * scale));
  let guide = Array.from(gaussian({ width, height, values }, scale).values);
  for (let round = 0; round < rounds; round++) {
    guide = guide.map((here, i) => {
      const [x, y] = [i % width, Math.floor(i / width)];
      let [sum, weights] = [0, 0];
      for (let v = Math.max(0, y - radius); v <= Math.min(height - 1, y + radius); v++) {
        for (let u = Math.max(0, x - radius); u <= Math.min(width - 1, x + radius); u++) {
          const alike = (1 + ((guide[v * width + u] - here) / range / 2) ** 2) ** -4;
          const weight = taps[v - y + middle] * taps[u - x + middle] * alike;
          sum += weight * values[v * width + u];
          weights += weight;
        }
      }
      return sum / weights;
    });
  }
  return guide;
}

describe('the compiled kernels', () => {
  it('are those of the sources: otherwise run npm run assemble', async () => {
    expect(readFileSync(ASSEMBLED, 'utf8')).toBe(await assembled());
  });

  it('read codes of both depths', () => {
    all(
      fc.property(counts, seeds, fc.boolean(), (count, seed, deep) => {
        const most = deep ? 65535 : 255;
        const plain = numbers(count * 3 + 6, seed, 0, most + 1);
        const codes = deep ? Uint16Array.from(plain) : Uint8Array.from(plain);
        const out = new Float32Array(count * 3);
        readCodes(codes, 2, count, out);
        expect(apart(out, i => Math.fround(codes[i + 6] / most))).toBe(0);
      }),
    );
  });

  it('spread greys over three channels', () => {
    all(
      fc.property(counts, seeds, (count, seed) => {
        const greys = numbers(count, seed);
        const out = new Float32Array(count * 3);
        spreadGrey(greys, count, out);
        expect(apart(out, i => greys[Math.floor(i / 3)])).toBe(0);
      }),
    );
  });

  it('make codes of numbers, and say whether any lay outside', () => {
    all(
      fc.property(counts, seeds, (count, seed) => {
        const inside = numbers(count * 3, seed);
        const codes = new Uint16Array(count * 3);
        expect(toCodes(inside, count, codes)).toBe(true);
        expect(apart(codes, i => inside[i] * 65535)).toBeLessThan(0.51);
        for (const [v, code] of [
          [-0.01, 0],
          [1.01, 65535],
        ]) {
          const at = seed % (count * 3);
          const outside = inside.slice();
          outside[at] = v;
          expect(toCodes(outside, count, codes)).toBe(false);
          expect(codes[at]).toBe(code);
        }
      }),
    );
  });

  it('write a value that is a code as that code, wherever it lies, and others as a neighbour', () => {
    all(
      fc.property(counts, seeds, fc.constantFrom(3, 4) as fc.Arbitrary<3 | 4>, (count, seed, stride) => {
        const codes = numbers(count * 3, seed, 0, 256).map(Math.floor);
        const out = new Uint8Array(count * stride + 5).fill(7);
        write8(
          codes.map(c => c / 255),
          count,
          out,
          2,
          stride,
          seed,
          seed + 9,
        );
        expect(apart(codes, i => out[2 + ((i / 3) | 0) * stride + (i % 3)])).toBe(0);
        if (stride === 4) expect(out[5]).toBe(255);
        // Nothing else is touched.
        expect([...out.subarray(0, 2), ...out.subarray(count * stride + 2)]).toEqual([7, 7, 7, 7, 7]);
        const loose = numbers(count * 3, seed + 1, -0.2, 1.2);
        write8(loose, count, out, 0, stride, seed, seed);
        const kept = (v: number) => Math.min(255, Math.max(0, v * 255));
        expect(apart(loose.map(kept), i => out[((i / 3) | 0) * stride + (i % 3)])).toBeLessThanOrEqual(1);
      }),
    );
  });

  it('read a table over colours as tetrahedra, sorted by their shares, do', () => {
    const size = 17;
    const nodes = gridNodes(size);
    all(
      fc.property(
        counts,
        seeds,
        fc.constantFrom(1, 3) as fc.Arbitrary<1 | 3>,
        fc.boolean(),
        (count, seed, channels, deep) => {
          const most = deep ? 65535 : 255;
          const values = numbers(size ** 3 * channels, seed);
          const plain = numbers(count * 3, seed + 5, 0, most + 1);
          const codes = deep ? Uint16Array.from(plain) : Uint8Array.from(plain);
          const out = new Float32Array(count * channels);
          readGrid({ size, channels, values }, codes, 0, count, out);
          const node = (at: readonly number[], k: number) =>
            values[((at[0] * size + at[1]) * size + at[2]) * channels + k];
          const exact = (i: number) => {
            const pixel = Math.floor(i / channels);
            const cell: number[] = [];
            const share: number[] = [];
            for (let k = 0; k < 3; k++) {
              // The nodes lie at (i / 16) to the 1 / 0.7.
              const at = (codes[pixel * 3 + k] / most) ** 0.7 * (size - 1);
              cell[k] = Math.min(size - 2, Math.floor(at));
              share[k] = at - cell[k];
              expect(nodes[cell[k]]).toBeLessThanOrEqual(codes[pixel * 3 + k] / most + 1e-9);
            }
            const corner = cell.slice();
            let v = node(corner, i % channels);
            for (const axis of [0, 1, 2].sort((a, b) => share[b] - share[a])) {
              const before = node(corner, i % channels);
              corner[axis]++;
              v += share[axis] * (node(corner, i % channels) - before);
            }
            return v;
          };
          const some = Math.max(1, Math.floor(out.length / 200));
          for (let i = 0; i < out.length; i += some) expect(Math.abs(out[i] - exact(i))).toBeLessThan(2e-4);
        },
      ),
    );
  });

  it('read a ramp by straight lines, held at its ends', () => {
    all(
      fc.property(counts, seeds, (count, seed) => {
        const greys = numbers(count, seed, -0.5, 1.5);
        const out = new Float32Array(count * 3);
        readRamp(testRamp, greys, count, out);
        expect(apart(out, i => rampAt(greys[(i / 3) | 0], i % 3))).toBeLessThan(1e-6);
        const rgb = Float32Array.from({ length: count * 3 }, (_, i) => greys[(i / 3) | 0]);
        const kept = new Float32Array(count);
        const inside = greys.every(v => v >= -0.25 && v <= 1.25);
        expect(throughRamp(testRamp, rgb, count, kept)).toBe(inside);
        expect(rgb).toEqual(out);
        expect(kept).toEqual(greys);
        const codes = new Uint8Array(count * 3);
        writeRamp8(testRamp, greys, 0, count, codes, 0, 3, seed, seed);
        const level = (i: number) => 255 * Math.min(1, Math.max(0, out[i]));
        // Half an entry of this coarse ramp is 0.6 of a code; the noise is less than one.
        expect(apart(codes, level)).toBeLessThan(1.6);
      }),
    );
  });

  it('read a table as it is now', () => {
    const ramp = { ...testRamp, values: testRamp.values.slice() };
    const out = new Float32Array(3);
    readRamp(ramp, Float32Array.of(0.5), 1, out);
    ramp.values.fill(0.75);
    forget(ramp.values);
    readRamp(ramp, Float32Array.of(0.5), 1, out);
    expect([...out]).toEqual([0.75, 0.75, 0.75]);
  });

  it('keep apart more tables than there is room for, in use by turns or one after another', () => {
    const made = (from: number) =>
      Array.from({ length: 40 }, (_, i) => ({
        size: 65,
        channels: 3 as const,
        values: new Float32Array(65 ** 3 * 3).fill(from + i),
      }));
    const out = new Float32Array(3);
    const read = (table: Grid) => {
      readGrid(table, Uint16Array.of(300, 20000, 60000), 0, 1, out);
      expect([...out]).toEqual(Array(3).fill(table.values[0]));
    };
    const tables = made(0);
    for (let turn = 0; turn < 2; turn++) tables.forEach(read);
    // Long in use, then others: what is kept is let go.
    for (let i = 0; i < 2100; i++) readGrid(tables[0], Uint16Array.of(0, 0, 0), 0, 1, out);
    made(100).forEach(read);
    tables.forEach(read);
  });

  it('add grain alike to the three channels, none to black and white, in place or not', () => {
    all(
      fc.property(counts, seeds, (count, seed) => {
        const rgb = numbers(count * 3, seed);
        const grains = numbers(count, seed + 3, -1, 1);
        const out = new Float32Array(count * 3);
        addGrain(rgb, out, grains, 0.25);
        const exact = (i: number) => {
          const p = i - (i % 3);
          const tone = 0.2126 * rgb[p] + 0.7152 * rgb[p + 1] + 0.0722 * rgb[p + 2];
          return rgb[i] + 0.25 * grains[p / 3] * Math.sqrt(Math.max(0, 4 * tone * (1 - tone)));
        };
        expect(apart(out, exact)).toBeLessThan(1e-6);
        addGrain(rgb, rgb, grains, 0.25);
        expect(rgb).toEqual(out);
        const ends = Float32Array.of(0, 0, 0, 1, 1, 1);
        addGrain(ends, ends, Float32Array.of(1, 1), 0.25);
        expect(apart(ends, i => Math.floor(i / 3))).toBeLessThan(1e-3);
      }),
    );
  });

  it('roll as the plain sums do, at every edge', () => {
    all(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 14 }),
        seeds,
        (width, height, seed) => {
          const scale = 0.6 + (seed % 7) / 2;
          const values = numbers(width * height, seed);
          const plane = { width, height, values };
          const rolled = rollingBase(plane, scale, 0.09, 3);
          const plain = rolledPlainly(plane, scale, 0.09, 3);
          expect(apart(rolled.values, i => plain[i])).toBeLessThan(2e-5);
          expect(plane.values).toEqual(numbers(width * height, seed));
        },
      ),
    );
  });
});

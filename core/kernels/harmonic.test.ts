import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { geodesic } from './geodesic';
import { pyramidOf, solveSpread, type Bonds } from './harmonic';

/** A small system solved by elimination, in double precision. */
function eliminated({ width, height, right, down }: Bonds, held: Float32Array, targets: Float32Array) {
  const n = width * height;
  const rows = Array.from({ length: n }, (_, i) => {
    const row = new Float64Array(n + 1);
    row[i] = held[i];
    row[n] = held[i] * targets[i];
    return row;
  });
  const bond = (i: number, j: number, w: number) => {
    rows[i][i] += w;
    rows[j][j] += w;
    rows[i][j] -= w;
    rows[j][i] -= w;
  };
  for (let i = 0; i < n; i++) {
    if (i % width < width - 1) bond(i, i + 1, right[i]);
    if (i < n - width) bond(i, i + width, down[i]);
  }
  for (let k = 0; k < n; k++) {
    for (let i = k + 1; i < n; i++) {
      const by = rows[i][k] / rows[k][k];
      if (by) for (let j = k; j <= n; j++) rows[i][j] -= by * rows[k][j];
    }
  }
  const x = new Float64Array(n);
  for (let k = n - 1; k >= 0; k--) {
    let sum = rows[k][n];
    for (let j = k + 1; j < n; j++) sum -= rows[k][j] * x[j];
    x[k] = sum / rows[k][k];
  }
  return x;
}

const system = fc
  .tuple(fc.integer({ min: 1, max: 13 }), fc.integer({ min: 1, max: 11 }))
  .chain(([width, height]) => {
    const each = (least: number, most: number) =>
      fc
        .array(fc.double({ min: least, max: most, noNaN: true }), {
          minLength: width * height,
          maxLength: width * height,
        })
        .map(all => Float32Array.from(all));
    return fc.record({
      bonds: fc.tuple(each(-4, 0), each(-4, 0)).map(([r, d]): Bonds => ({
        width,
        height,
        right: r.map((v, i) => (i % width < width - 1 ? 10 ** v : 0)),
        down: d.map((v, i) => (i < width * (height - 1) ? 10 ** v : 0)),
      })),
      held: each(-3, 1).map(all => all.map(v => 10 ** v)),
      targets: each(0, 1),
    });
  });

describe('values that spread over a grid', () => {
  it('are those of elimination', () => {
    fc.assert(
      fc.property(system, ({ bonds, held, targets }) => {
        const exact = eliminated(bonds, held, targets);
        const found = solveSpread(pyramidOf(bonds), held, targets, targets, { tolerance: 1e-6, most: 200 });
        found.forEach((v, i) => expect(Math.abs(v - exact[i])).toBeLessThan(2e-3));
      }),
      { numRuns: 60 },
    );
  });

  it('never go beyond what they are held at, and do not depend on where the search begins', () => {
    fc.assert(
      fc.property(system, ({ bonds, held, targets }) => {
        const options = { tolerance: 1e-6, most: 200 };
        const found = solveSpread(pyramidOf(bonds), held, targets, targets, options);
        const other = solveSpread(
          pyramidOf(bonds),
          held,
          targets,
          targets.map(v => 1 - v),
          options,
        );
        const [least, most] = [Math.min(...targets), Math.max(...targets)];
        found.forEach((v, i) => {
          expect(v).toBeGreaterThan(least - 2e-3);
          expect(v).toBeLessThan(most + 2e-3);
          expect(Math.abs(v - other[i])).toBeLessThan(4e-3);
        });
      }),
      { numRuns: 40 },
    );
  });

  it('fall evenly between two that are held, where all have the same in common', () => {
    const width = 101;
    const line: Bonds = {
      width,
      height: 1,
      right: new Float32Array(width).fill(1, 0, width - 1),
      down: new Float32Array(width),
    };
    const held = new Float32Array(width).fill(0);
    held[0] = held[width - 1] = 1e4;
    const targets = new Float32Array(width);
    targets[width - 1] = 1;
    const found = solveSpread(pyramidOf(line), held, targets, targets, { tolerance: 1e-7, most: 300 });
    found.forEach((v, i) => expect(v).toBeCloseTo(i / (width - 1), 2));
  });
});

/** The cheapest ways by Dijkstra's algorithm, without a queue. */
function cheapest(
  seeds: Uint8Array,
  features: Float32Array[],
  rough: Float32Array,
  width: number,
  height: number,
  length: number,
) {
  const n = width * height;
  const way = Float64Array.from(seeds, s => (s ? 0 : Infinity));
  const done = new Uint8Array(n);
  for (;;) {
    let i = -1;
    for (let k = 0; k < n; k++) if (!done[k] && way[k] < Infinity && (i < 0 || way[k] < way[i])) i = k;
    if (i < 0) return way;
    done[i] = 1;
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) {
        const [x, y] = [(i % width) + dx, Math.floor(i / width) + dy];
        if ((!dx && !dy) || x < 0 || y < 0 || x >= width || y >= height) continue;
        const j = y * width + x;
        const square = features.reduce((sum, f) => sum + (f[i] - f[j]) ** 2, 0);
        const change = square ** 1.5 / (square + rough[j]);
        way[j] = Math.min(way[j], way[i] + change + length * Math.hypot(dx, dy));
      }
    }
  }
}

describe('the cheapest way over a grid', () => {
  it('is that of the shortest paths, once it is swept until nothing changes', () => {
    const grid = fc.tuple(fc.integer({ min: 2, max: 12 }), fc.integer({ min: 2, max: 12 })).chain(([w, h]) =>
      fc.record({
        width: fc.constant(w),
        height: fc.constant(h),
        seeds: fc.array(fc.boolean(), { minLength: w * h, maxLength: w * h }),
        features: fc.array(
          fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: w * h, maxLength: w * h }),
          { minLength: 3, maxLength: 3 },
        ),
      }),
    );
    fc.assert(
      fc.property(grid, ({ width, height, seeds, features }) => {
        if (!seeds.includes(true)) return;
        const planes = features.map(f => Float32Array.from(f));
        const rough = planes[0].map(v => 0.001 + 0.2 * v);
        const marked = Uint8Array.from(seeds, s => (s ? 1 : 0));
        const found = geodesic(marked, planes, rough, width, height, 0.05, 40);
        const exact = cheapest(marked, planes, rough, width, height, 0.05);
        found.forEach((v, i) => expect(Math.abs(v - exact[i])).toBeLessThan(1e-4));
      }),
      { numRuns: 40 },
    );
  });
});

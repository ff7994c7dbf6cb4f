import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readGrid } from '../kernels/grid';
import { covers, markOccupied, noneOccupied } from '../kernels/occupied';
import { read } from '../testing/pictures';
import type { Point } from '../steps/define';
import { bakeColours, growColours, type Baked } from './bake';
import { bakeGrid } from './bake-grid';
import { keepTables } from './kept-tables';
import { exactly } from './lay';

/** Tables that hold only the colours of a picture, beside those that hold all. */

/** Runs of steps over colours: smooth, bent, kinked, and such as leave greys. */
const runs: Record<string, { steps: object[]; channels: 1 | 3 }> = {
  light: {
    steps: [{ kind: 'light', settings: { exposure: 0.4, shadows: 0.5, contrast: 0.3 } }],
    channels: 3,
  },
  bands: {
    steps: [
      { kind: 'white-balance', settings: { warmth: 0.3 } },
      { kind: 'colour-bands', settings: { blue: { saturation: -0.6 }, red: { lightness: 0.5 } } },
    ],
    channels: 3,
  },
  response: {
    steps: [{ kind: 'mono', settings: { method: 'response', response: { blue: -0.8, orange: 0.6 } } }],
    channels: 1,
  },
  curve: {
    steps: [
      { kind: 'mono' },
      {
        kind: 'levels',
        settings: { gamma: 1.3 },
      },
    ],
    channels: 1,
  },
};
/** A step that no table can follow: all along it there are holes. */
const edge: { point: Point; channels: 1 | 3 } = {
  point: c => {
    const v = 0.3 * c[0] + 0.6 * c[1] + 0.1 * c[2];
    c.fill(Math.abs(v - 0.43) < 0.004 ? 1 : v);
  },
  channels: 1,
};
const points = Object.values(runs).map(({ steps, channels }) => {
  const treatment = read(steps);
  // The response reads calmed colours; here it is asked for the colour alone.
  return { point: exactly(treatment), channels };
});
points.push(edge);

/** The colours of a picture: a few clouds, each about one colour, and one along a line. */
const clouds = fc
  .array(
    fc.record({
      middle: fc.tuple(
        fc.double({ max: 1, min: 0 }),
        fc.double({ max: 1, min: 0 }),
        fc.double({ max: 1, min: 0 }),
      ),
      wide: fc.constantFrom(0.002, 0.03, 0.15),
    }),
    { minLength: 1, maxLength: 4 },
  )
  .map(all => {
    const codes = new Uint16Array(all.length * 600 * 3);
    let seed = 7;
    const next = () => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 2 ** 32 - 0.5;
    all.forEach(({ middle, wide }, i) => {
      for (let p = i * 1800; p < (i + 1) * 1800; p++) {
        const v = (middle[p % 3] || 0) + wide * next();
        codes[p] = 65535 * Math.min(1, Math.max(0, v));
      }
    });
    return codes;
  });

const occupiedBy = (codes: Uint16Array | Uint8Array) => {
  const cells = noneOccupied();
  markOccupied([codes], cells);
  return cells;
};

describe('a table for the colours of a picture', () => {
  it('holds for them the very numbers of the table for all colours', () => {
    const wholes = points.map(({ point, channels }) => bakeGrid(point, channels, null));
    fc.assert(
      fc.property(clouds, fc.nat(points.length - 1), (codes, which) => {
        const { point, channels } = points[which];
        const { grid, holes } = bakeGrid(point, channels, occupiedBy(codes));
        const whole = wholes[which];
        expect(grid.size).toBe(whole.grid.size);
        const count = codes.length / 3;
        const mine = new Float32Array(count * channels);
        const all = new Float32Array(count * channels);
        readGrid(grid, codes, 0, count, mine);
        readGrid(whole.grid, codes, 0, count, all);
        expect(mine).toEqual(all);
        // No hole but those of the whole table.
        if (!holes) expect(mine.every(Number.isFinite)).toBe(true);
      }),
      { numRuns: 25 },
    );
  }, 60_000);

  it('takes in more colours, and then holds what one for all of them does', () => {
    fc.assert(
      fc.property(clouds, clouds, fc.nat(points.length - 1), (first, second, which) => {
        const { point, channels } = points[which];
        const both = Uint16Array.from([...first, ...second]);
        const table = ({ table }: Baked) => {
          if (table.kind !== 'grid') throw new Error('no table');
          return table.grid;
        };
        const begun = bakeColours(point, channels, false, occupiedBy(first));
        const grown = table(growColours(begun, point, occupiedBy(second)));
        const whole = table(bakeColours(point, channels, false, occupiedBy(both)));
        expect(grown.size).toBe(whole.size);
        const count = both.length / 3;
        const mine = new Float32Array(count * channels);
        const all = new Float32Array(count * channels);
        readGrid(grown, both, 0, count, mine);
        readGrid(whole, both, 0, count, all);
        expect(mine).toEqual(all);
      }),
      { numRuns: 25 },
    );
  }, 60_000);

  it('asks the function far less often', () => {
    const { point, channels } = points[1];
    let asked = 0;
    const counted: Point = c => {
      asked++;
      point(c);
    };
    bakeGrid(counted, channels, null);
    const all = asked;
    asked = 0;
    const skies = new Uint8Array(3 * 4000).map((_, i) => [120, 150, 200][i % 3] + ((i * 7919) % 40));
    bakeGrid(counted, channels, occupiedBy(skies));
    expect(asked).toBeLessThan(all / 3);
  });

  it('is kept, serves a picture with fewer colours, and grows for one with more', () => {
    const kept = keepTables(4);
    const { point, channels } = points[0];
    let bakes = 0;
    const of = (occupied: Uint8Array | null) =>
      kept.of(
        'k',
        false,
        (draft, read, known) => {
          bakes++;
          return known && read ? growColours(known, point, read) : bakeColours(point, channels, draft, read);
        },
        occupied,
      );
    const few = occupiedBy(Uint8Array.of(10, 10, 10, 200, 200, 200));
    const fewer = occupiedBy(Uint8Array.of(10, 10, 10));
    const others = occupiedBy(Uint8Array.of(90, 10, 200));
    of(few);
    of(fewer);
    expect(bakes).toBe(1);
    const grown = of(others);
    expect(bakes).toBe(2);
    expect(covers(grown.occupied!, few) && covers(grown.occupied!, others)).toBe(true);
    of(null);
    of(others);
    expect(bakes).toBe(3);
  });
});

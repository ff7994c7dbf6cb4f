import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { leastSquares, solvePositive } from './least-squares';

const wide = (start: number) => ({ start, least: -10, most: 10 });
const exact = { step: 1e-6, rounds: 200, enough: 1e-12 };

describe('least squares', () => {
  it('finds the bottom of Rosenbrock’s valley', async () => {
    const { values, cost } = await leastSquares(
      [wide(-1.2), wide(1)],
      ([x, y]) => Promise.resolve([10 * (y - x * x), 1 - x]),
      exact,
    );
    expect(values[0]).toBeCloseTo(1, 4);
    expect(values[1]).toBeCloseTo(1, 4);
    expect(cost).toBeLessThan(1e-8);
  });

  it('of a line through points is the textbook’s', async () => {
    // Anscombe's first quartet: y = 3.00 + 0.500 x.
    const xs = [10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5];
    const ys = [8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68];
    const { values } = await leastSquares(
      [wide(0), wide(0)],
      ([a, b]) => Promise.resolve(xs.map((x, i) => a + b * x - ys[i])),
      exact,
    );
    expect(values[0]).toBeCloseTo(3.0, 2);
    expect(values[1]).toBeCloseTo(0.5, 3);
  });

  it('stays within the bounds, and finds the best there', async () => {
    const near = fc.double({ min: -3, max: 3, noNaN: true });
    await fc.assert(
      fc.asyncProperty(near, near, async (p, q) => {
        const bounds = { least: -1, most: 1, start: 0 };
        const { values, cost } = await leastSquares(
          [bounds, bounds],
          ([x, y]) => Promise.resolve([x - p, 2 * (y - q)]),
          exact,
        );
        const clamp = (v: number) => Math.min(1, Math.max(-1, v));
        expect(values[0]).toBeCloseTo(clamp(p), 4);
        expect(values[1]).toBeCloseTo(clamp(q), 4);
        expect(cost).toBeLessThanOrEqual((p * p + 4 * q * q) / 2 + 1e-9);
      }),
    );
  });

  it('solves what is positive, and says where it is not', () => {
    const solved = solvePositive(
      [
        [4, 2],
        [2, 3],
      ],
      [8, 7],
    )!;
    expect(solved[0]).toBeCloseTo(1.25, 12);
    expect(solved[1]).toBeCloseTo(1.5, 12);
    expect(
      solvePositive(
        [
          [1, 2],
          [2, 1],
        ],
        [1, 1],
      ),
    ).toBeNull();
  });
});

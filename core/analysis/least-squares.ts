/**
 * Bounded nonlinear least squares, for a few parameters and a model that is dear to ask.
 * Levenberg–Marquardt with steps cut off at the bounds. Source: Marquardt, "An Algorithm for Least-Squares Estimation of
 * Nonlinear Parameters", 1963; bounds by projection, Kanzow, Yamashita & Fukushima, 2004.
 */

export interface Parameter {
  start: number;
  least: number;
  most: number;
}

export interface LeastSquares {
  values: number[];
  /** Half of the sum of the squares there. */
  cost: number;
  /** How often the model was asked. */
  asked: number;
}

/** Solves A x = b for a small symmetric positive definite A, by Cholesky; null where it is not. */
export function solvePositive(A: readonly (readonly number[])[], b: readonly number[]): number[] | null {
  const n = b.length;
  const L = A.map(row => [...row]);
  for (let j = 0; j < n; j++) {
    for (let k = 0; k < j; k++) for (let i = j; i < n; i++) L[i][j] -= L[i][k] * L[j][k];
    if (!(L[j][j] > 0)) return null;
    const root = Math.sqrt(L[j][j]);
    for (let i = j; i < n; i++) L[i][j] /= root;
  }
  const x = [...b];
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < i; k++) x[i] -= L[i][k] * x[k];
    x[i] /= L[i][i];
  }
  for (let i = n - 1; i >= 0; i--) {
    for (let k = i + 1; k < n; k++) x[i] -= L[k][i] * x[k];
    x[i] /= L[i][i];
  }
  return x;
}

const halfSquares = (r: readonly number[]) => r.reduce((sum, v) => sum + v * v, 0) / 2;

/**
 * The values within their bounds for which the residuals are least.
 * @param residuals asked for several values at once, if they like
 * @param options.step how far values are moved to see what that does, as a share of their range
 * @param options.rounds at most so many steps
 */
export async function leastSquares(
  parameters: readonly Parameter[],
  residuals: (values: readonly number[]) => Promise<number[]>,
  { step = 0.02, rounds = 12, enough = 1e-3 }: { step?: number; rounds?: number; enough?: number } = {},
): Promise<LeastSquares> {
  const clamp = (values: readonly number[]) =>
    values.map((v, i) => Math.min(parameters[i].most, Math.max(parameters[i].least, v)));
  let asked = 0;
  const ask = (values: readonly number[]) => {
    asked++;
    return residuals(values);
  };
  let values = clamp(parameters.map(p => p.start));
  let r = await ask(values);
  let cost = halfSquares(r);
  let damping = 1e-2;
  /** What each value does to each residual: seen by moving it a little, and carried on for some rounds. */
  let J: number[][] = [];
  let seen = 0;
  const look = async () => {
    // Inwards where a value stands at its upper bound.
    const moves = values.map((v, i) => {
      const by = step * (parameters[i].most - parameters[i].least);
      return v + by <= parameters[i].most ? by : -by;
    });
    const moved = await Promise.all(moves.map((by, i) => ask(values.with(i, values[i] + by))));
    J = moved.map((at, i) => at.map((v, k) => (v - r[k]) / moves[i]));
    seen = 0;
  };
  /** What a step has shown about J, for nothing. Source: Broyden, 1965. */
  const carryOn = (by: readonly number[], change: readonly number[]) => {
    const length = by.reduce((sum, v) => sum + v * v, 0);
    if (length === 0) return;
    const missing = change.map((v, k) => v - by.reduce((sum, b, i) => sum + b * J[i][k], 0));
    J = J.map((column, i) => column.map((v, k) => v + (missing[k] * by[i]) / length));
    seen++;
  };
  /** A step to where the cost is less, or nothing. */
  const tryStep = async (): Promise<{ tried: number[]; there: number[]; costThere: number } | null> => {
    const gradient = J.map(column => column.reduce((sum, v, k) => sum + v * r[k], 0));
    // What pushes against a bound stays there.
    const free = values.flatMap((v, i) => {
      const { least, most } = parameters[i];
      const isHeld = (v <= least && gradient[i] > 0) || (v >= most && gradient[i] < 0);
      return isHeld ? [] : [i];
    });
    if (free.length === 0) return null;
    const normal = free.map(i => free.map(j => J[i].reduce((sum, v, k) => sum + v * J[j][k], 0)));
    const most = seen === 0 ? 1e8 : 1e2;
    while (damping < most) {
      const damped = normal.map((row, i) => row.map((v, j) => (i === j ? v * (1 + damping) + 1e-12 : v)));
      const by = solvePositive(
        damped,
        free.map(i => -gradient[i]),
      );
      if (by) {
        const next = [...values];
        free.forEach((i, k) => (next[i] += by[k]));
        const tried = clamp(next);
        const there = await ask(tried);
        const costThere = halfSquares(there);
        if (costThere < cost) return { tried, there, costThere };
      }
      damping *= 5;
    }
    return null;
  };

  await look();
  for (let round = 0; round < rounds; round++) {
    const better = await tryStep();
    if (!better) {
      // As far as J is known anew there is nothing better.
      if (seen === 0) break;
      damping = 1e-2;
      await look();
      continue;
    }
    const { tried, there, costThere } = better;
    carryOn(
      tried.map((v, i) => v - values[i]),
      there.map((v, k) => v - r[k]),
    );
    const gain = (cost - costThere) / cost;
    [values, r, cost] = [tried, there, costThere];
    damping = Math.max(1e-6, damping / 5);
    if (gain < enough && seen === 1) break;
    if (gain < SLOW || seen >= CARRIED) await look();
  }
  return { values, cost, asked };
}

/** J is seen anew after so many steps, or when one has brought less than this share. */
const CARRIED = 4;
const SLOW = 0.1;

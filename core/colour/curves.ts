const NEAREST = 1e-7;

/**
 * A smooth curve through points that never overshoots them: monotone piecewise cubic interpolation.
 * Source: F. N. Fritsch and R. E. Carlson, "Monotone Piecewise Cubic Interpolation", SIAM J. Numer. Anal. 17,
 * 1980; tangents limited as in its section 4.
 * @param given points [x, y], x strictly rising, at least two
 * @returns y at x; flat beyond the ends
 */
export function curveThrough(given: readonly (readonly [number, number])[]): (x: number) => number {
  // Points nearer to their neighbour than this stand in one place: a slope between them would not be a number.
  const points = given.filter((p, i) => i === 0 || p[0] - given[i - 1][0] > NEAREST);
  const count = points.length;
  if (count === 1) return () => points[0][1];
  const xs = Float64Array.from(points, p => p[0]);
  const ys = Float64Array.from(points, p => p[1]);
  const slopes = new Float64Array(count - 1);
  for (let i = 0; i < count - 1; i++) slopes[i] = (ys[i + 1] - ys[i]) / (xs[i + 1] - xs[i]);
  const tangents = new Float64Array(count);
  tangents[0] = slopes[0];
  tangents[count - 1] = slopes[count - 2];
  for (let i = 1; i < count - 1; i++) {
    tangents[i] = slopes[i - 1] * slopes[i] <= 0 ? 0 : (slopes[i - 1] + slopes[i]) / 2;
  }
  for (let i = 0; i < count - 1; i++) {
    if (slopes[i] === 0) {
      tangents[i] = 0;
      tangents[i + 1] = 0;
      continue;
    }
    const a = tangents[i] / slopes[i];
    const b = tangents[i + 1] / slopes[i];
    const beyond = a * a + b * b;
    if (beyond > 9) {
      const t = 3 / Math.sqrt(beyond);
      tangents[i] = t * a * slopes[i];
      tangents[i + 1] = t * b * slopes[i];
    }
  }
  return x => {
    if (!(x > xs[0])) return ys[0];
    if (x >= xs[count - 1]) return ys[count - 1];
    let low = 0;
    let high = count - 1;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (xs[middle] <= x) low = middle;
      else high = middle;
    }
    const h = xs[high] - xs[low];
    const t = (x - xs[low]) / h;
    const t2 = t * t;
    const t3 = t2 * t;
    return (
      ys[low] * (2 * t3 - 3 * t2 + 1) +
      h * tangents[low] * (t3 - 2 * t2 + t) +
      ys[high] * (3 * t2 - 2 * t3) +
      h * tangents[high] * (t3 - t2)
    );
  };
}

/** Whether a curve is the straight line from black to white, which changes nothing inside 0..1. */
export function isStraight(points: readonly (readonly [number, number])[]): boolean {
  return points.every(([x, y]) => x === y) && points[0][0] === 0 && points.at(-1)![0] === 1;
}

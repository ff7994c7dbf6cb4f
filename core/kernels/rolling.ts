import { gaussian, gaussianTaps } from './gaussian';
import { planeOf, type Plane } from './planes';

/**
 * A base that leaves out everything smaller than a scale, however strong it is, and keeps the edges of what is larger where
 * they are: a Gaussian takes the small away, then bilateral rounds that read likeness in the last result bring the large
 * edges back. Source: Q. Zhang, X. Shen, L. Xu, J. Jia, "Rolling Guidance Filter", ECCV 2014.
 * @param scale the standard deviation of what counts as small, in pixels; the work grows with its square
 * @param range the difference (encoded) at which two places are no longer alike
 * @param rounds after the Gaussian
 */
export function rollingBase(plane: Plane, scale: number, range: number, rounds: number): Plane {
  const { width, height, values } = plane;
  const all = gaussianTaps(scale);
  // Two deviations to each side: what lies further has less than a seventh of the middle's weight, and costs the most.
  const radius = Math.min((all.length - 1) / 2, Math.ceil(2 * scale));
  const taps = all.subarray((all.length - 1) / 2 - radius, (all.length + 1) / 2 + radius);
  let guide = gaussian(plane, scale).values;
  for (let round = 0; round < rounds; round++) {
    const out = planeOf(width, height).values;
    for (let y = 0; y < height; y++) {
      const top = Math.max(0, y - radius);
      const bottom = Math.min(height - 1, y + radius);
      for (let x = 0; x < width; x++) {
        const here = guide[y * width + x];
        const left = Math.max(0, x - radius);
        const right = Math.min(width - 1, x + radius);
        let sum = 0;
        let weights = 0;
        for (let v = top; v <= bottom; v++) {
          const down = taps[v - y + radius];
          for (let u = left, i = v * width + left; u <= right; u++, i++) {
            const off = (guide[i] - here) / range;
            // A Gaussian's likeness by its own series: close to it near, nothing far away.
            const q = 1 + off * off * 0.25;
            const alike = 1 / (q * q * q * q);
            const weight = down * taps[u - x + radius] * alike;
            sum += weight * values[i];
            weights += weight;
          }
        }
        out[y * width + x] = sum / weights;
      }
    }
    guide = out;
  }
  return { width, height, values: guide };
}

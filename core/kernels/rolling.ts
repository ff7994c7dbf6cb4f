import { compiled } from './compiled';
import { gaussian, gaussianTaps } from './gaussian';
import { planeOf, type Plane } from './planes';

const FLOAT = Float32Array.BYTES_PER_ELEMENT;
/** Numbers that are worked on at a time. */
const VECTOR = 8;
/** Further from every number than likeness reaches. */
const FAR = 1e6;

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
  const { kernels, workspace } = compiled();
  const all = gaussianTaps(scale);
  // Two deviations to each side: what lies further has less than a seventh of the middle's weight, and costs the most.
  const radius = Math.min((all.length - 1) / 2, Math.ceil(2 * scale));
  const taps = all.subarray((all.length - 1) / 2 - radius, (all.length + 1) / 2 + radius);
  const stride = width + 2 * radius + VECTOR;
  const count = stride * (height + 2 * radius);
  // Before the room is taken: it takes some for itself.
  const blurred = gaussian(plane, scale);
  const { buffer, at } = workspace((3 * count + taps.length ** 2 + VECTOR) * FLOAT);
  const planes = [0, 1, 2].map(k => new Float32Array(buffer, at + k * count * FLOAT, count));
  const first = stride * radius + radius;
  const rows = (to: Float32Array, from: Float32Array) => {
    for (let y = 0; y < height; y++) to.set(from.subarray(y * width, (y + 1) * width), first + y * stride);
  };
  const [input, ...guides] = planes;
  input.fill(0);
  for (const guide of guides) guide.fill(FAR);
  rows(input, values);
  const tapsAt = at + 3 * count * FLOAT;
  const square = new Float32Array(buffer, tapsAt, taps.length ** 2);
  taps.forEach((down, v) => taps.forEach((along, u) => (square[v * taps.length + u] = down * along)));
  rows(guides[0], blurred.values);
  const addresses = planes.map((_, k) => at + (k * count + first) * FLOAT);
  for (let round = 0; round < rounds; round++) {
    const [from, to] = round % 2 ? [2, 1] : [1, 2];
    // A Gaussian's likeness by its own series, (1 + d² / 4)⁻⁴: close to it near, nothing far away.
    kernels.rollRound(
      addresses[from],
      addresses[0],
      stride,
      width,
      height,
      radius,
      tapsAt,
      0.5 / range,
      addresses[to],
    );
  }
  const out = planeOf(width, height);
  const last = guides[rounds % 2];
  for (let y = 0; y < height; y++) {
    const from = first + y * stride;
    out.values.set(last.subarray(from, from + width), y * width);
  }
  return out;
}

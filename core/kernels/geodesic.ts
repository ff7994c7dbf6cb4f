import { compiled } from './compiled';

/**
 * Distances over a grid along the cheapest way, from cells where it is nothing. Swept over the grid forward and backward until little
 * changes: G. Borgefors, "Distance transformations in digital images", CVGIP 34, 1986; P. Toivanen, "New geodesic distance
 * transforms for gray-scale images", Pattern Recognition Letters 17, 1996.
 */

const FLOAT = Float32Array.BYTES_PER_ELEMENT;
/** Numbers before the first cell of a row, and after the last. */
const SIDE = 4;
/** More than any way costs. */
const FAR = 1e9;

/**
 * @param seeds where it begins: not 0
 * @param features three planes, one after another, each as long as the grid
 * @param rough the change to a neighbour that counts as noise at each cell, squared, more than 0: a change much smaller costs nothing,
 *   one much larger all of itself
 * @param length what one cell of way costs, beside what features change along it
 * @param sweeps how many times forward and backward
 */
export function geodesic(
  seeds: Uint8Array,
  features: readonly Float32Array[],
  rough: Float32Array,
  width: number,
  height: number,
  length: number,
  sweeps = 2,
): Float32Array {
  const { kernels, workspace } = compiled();
  const stride = width + 2 * SIDE;
  const count = stride * (height + 2);
  const { buffer, at } = workspace((5 * count + stride) * FLOAT);
  const first = stride + SIDE;
  const planes = [0, 1, 2, 3, 4].map(k => new Float32Array(buffer, at + k * count * FLOAT, count));
  const [distance, ...guides] = planes;
  distance.fill(FAR);
  for (let y = 0; y < height; y++) {
    const row = first + y * stride;
    for (let x = 0; x < width; x++) if (seeds[y * width + x]) distance[row + x] = 0;
    [...features, rough].forEach((plane, k) =>
      guides[k].set(plane.subarray(y * width, (y + 1) * width), row),
    );
  }
  const [d, f, g, h, r] = planes.map((_, k) => at + (k * count + first) * FLOAT);
  for (let k = 0; k < sweeps; k++) {
    kernels.sweepWay(d, f, g, h, r, stride, width, height, length, at + 5 * count * FLOAT);
  }
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = first + y * stride;
    out.set(distance.subarray(row, row + width), y * width);
  }
  return out;
}

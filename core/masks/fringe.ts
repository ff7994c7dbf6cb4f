import type { Geometry, Rectangle } from '../frame/geometry';
import { distances } from '../kernels/distance';
import { boxMean, planeOf, readPlane, type Plane } from '../kernels/planes';
import { wideGaussian } from '../kernels/gaussian';

/**
 * Against the light or dark line that is left around a thing when it is toned: a pixel at its edge is a share α of the thing and the
 * rest what lies behind, I = αF + (1 - α)B. What a step T makes of the mixture is neither; what is wanted is αT(F) + (1 - α)B, which
 * is I + α(T(F) - F). F is taken from a little inside the edge (the compositing of T. Porter, T. Duff, "Compositing Digital Images",
 * SIGGRAPH 1984, with the thing's colours carried outward).
 */
export interface Fringe {
  /** The thing's colours, carried outward; of the whole picture, small. */
  colours: [Plane, Plane, Plane];
  /** How far they count: 1 at the edge, 0 inside. */
  counts: Plane;
}

/** So much does what is covered count for the thing's colours where nothing lies deep enough inside. */
const THIN = 1e-3;

/**
 * @param covered coverage of the whole picture, small
 * @param rgb the same picture as it is beneath the step
 * @param cells how far inside the thing's own colours are found
 */
export function fringeOf(covered: Plane, rgb: Float32Array, cells: number): Fringe {
  const { width, height, values } = covered;
  const count = width * height;
  const reach = Math.max(1, Math.round(cells));
  const others = new Uint8Array(count);
  for (let i = 0; i < count; i++) others[i] = values[i] > 0.5 ? 0 : 1;
  const deep: Plane = { width, height, values: distances(width, height, others) };
  for (let i = 0; i < count; i++) deep.values[i] = deep.values[i] > reach ? 1 : 0;
  const weights = planeOf(width, height);
  for (let i = 0; i < count; i++) {
    const share = values[i] * values[i];
    weights.values[i] = deep.values[i] + THIN * share * share;
  }
  const sum = wideGaussian(weights, reach).values;
  const colours = [0, 1, 2].map(k => {
    const weighed = planeOf(width, height);
    for (let i = 0; i < count; i++) weighed.values[i] = weights.values[i] * rgb[i * 3 + k];
    const spread = wideGaussian(weighed, reach);
    for (let i = 0; i < count; i++) {
      spread.values[i] = sum[i] > 1e-9 ? spread.values[i] / sum[i] : rgb[i * 3 + k];
    }
    return spread;
  }) as Fringe['colours'];
  const counts = boxMean(deep, Math.round(reach / 2));
  for (let i = 0; i < count; i++) counts.values[i] = 1 - counts.values[i];
  return { colours, counts };
}

/** The picture of a part with the thing's colours carried over its edge: what a step is asked of there. */
export function carriedOver(
  { colours, counts }: Fringe,
  rgb: Float32Array,
  part: Rectangle,
  geometry: Geometry,
): Float32Array {
  const count = part.width * part.height;
  const out = rgb.slice();
  const share = new Float32Array(count);
  readPlane(counts, geometry, part, share);
  const plane = new Float32Array(count);
  colours.forEach((colour, k) => {
    readPlane(colour, geometry, part, plane);
    for (let i = 0, p = k; i < count; i++, p += 3) out[p] += share[i] * (plane[i] - out[p]);
  });
  return out;
}

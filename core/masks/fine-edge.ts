import type { Geometry, Rectangle } from '../frame/geometry';
import { channelPlane } from '../kernels/channels';
import { cut } from '../kernels/lay';
import { partByColours } from '../kernels/matting';
import { boundsOf, boxMean, readPlane, type Plane } from '../kernels/planes';
import { fitEdges, onEdges, type Fit } from './edges';
import { grown } from './shaping';

/**
 * A band along the edge of an area found anew in the picture, for what is finer than any outline: hair, petals, reeds, wires. What
 * lies deeper in the area, and further from it, stays; in the band what belongs is told by its colours from what does not, in
 * windows that grow narrower, and how much of each pixel it is lies on a line in the colours, found small and read at full size.
 */

/** How often the band is looked at; the first window's radius in widths of the band, and how much narrower each next is. */
const TIMES = 4;
const WIDE = 2;
const NARROWER = 0.7;
const NARROWEST = 2;
/** The variance (encoded units squared) that counts as flat. */
const FLAT = 3e-4;
/** The share of the band over which what is found goes over into the area as it was. */
const OVER = 0.2;
/** The window in which the edge is read at full size, a fraction of the long edge. */
const READ = 0.002;

/** A band that was found anew, of the whole picture. */
export interface FineEdge {
  /** How much each cell of the small picture belongs. */
  alpha: Plane;
  /** How far what was found counts against the area as it was: 1 in the band, 0 beyond. */
  counts: Plane;
  fit: Fit;
}

/**
 * @param plane coverage of the whole picture, small
 * @param ground the same picture, encoded RGB
 * @param width of the band to each side of the edge, a fraction of the long edge
 * @param stays nothing changes the ground's numbers
 */
export function fineEdge(
  plane: Plane,
  ground: Float32Array,
  longEdge: number,
  width: number,
  stays: boolean,
): FineEdge {
  const whole = { x: 0, y: 0, width: plane.width, height: plane.height };
  const reach = Math.max(1, width * longEdge);
  const cells = Math.round(reach);
  const belongs = { ...plane, values: plane.values.map(v => (v > 0.5 ? 1 : 0)) };
  const deep = grown(belongs, -cells).values;
  const far = grown(belongs, cells).values;
  const counts: Plane = { ...plane, values: far.map((v, i) => v - deep[i]) };
  const alpha: Plane = { ...plane, values: plane.values.slice() };
  const isIn = (i: number) => counts.values[i] > 0;
  const part = boundsOf(plane.width, plane.height, isIn, Math.ceil(2 * WIDE * reach));
  if (part) {
    const channels = [0, 1, 2].map(k =>
      channelPlane(cut(ground, whole, part, 3), k as 0 | 1 | 2, part.width, part.height),
    ) as [Plane, Plane, Plane];
    const values = Float32Array.from(cut(belongs.values, whole, part, 1));
    const within = Uint8Array.from(cut(counts.values, whole, part, 1));
    for (let k = 0, radius = WIDE * reach; k < TIMES; k++, radius *= NARROWER) {
      partByColours(channels, values, within, Math.max(NARROWEST, Math.round(radius)), FLAT);
    }
    for (let y = 0, i = 0; y < part.height; y++) {
      let to = (part.y + y) * plane.width + part.x;
      for (let x = 0; x < part.width; x++, i++, to++) if (within[i]) alpha.values[to] = values[i];
    }
  }
  const over = Math.round(OVER * reach);
  const eased = over ? boxMean({ ...counts, values: narrower(counts, over) }, over) : counts;
  for (let i = 0; i < alpha.values.length; i++) {
    alpha.values[i] = plane.values[i] + eased.values[i] * (alpha.values[i] - plane.values[i]);
  }
  return { alpha, counts: eased, fit: fitEdges(alpha, ground, longEdge, stays, READ) };
}

const narrower = (plane: Plane, cells: number): Float32Array => grown(plane, -cells).values;

/** Draws coverage of a part of the picture to what was found in the band, in place. */
export function onFineEdge(
  { fit, counts }: FineEdge,
  values: Float32Array,
  ground: Float32Array,
  part: Rectangle,
  geometry: Geometry,
): void {
  const found = onEdges(fit, ground, part, geometry);
  const share = new Float32Array(values.length);
  readPlane(counts, geometry, part, share);
  for (let i = 0; i < values.length; i++) values[i] += share[i] * (found[i] - values[i]);
}

import type { Geometry, Rectangle } from '../frame/geometry';
import { channelPlane } from '../kernels/channels';
import { distances } from '../kernels/distance';
import { colourGuide, pairProducts } from '../kernels/guided';
import { cut } from '../kernels/lay';
import { partByColours } from '../kernels/matting';
import { boundsOf, readPlane, type Plane } from '../kernels/planes';
import { fitEdges, onEdges, type Fit } from './edges';

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
  const count = plane.values.length;
  const belongs = new Uint8Array(count);
  const others = new Uint8Array(count);
  for (let i = 0; i < count; i++) others[i] = 1 - (belongs[i] = plane.values[i] > 0.5 ? 1 : 0);
  const within = new Uint8Array(count);
  const counts: Plane = { ...plane, values: new Float32Array(count) };
  for (const side of [belongs, others]) {
    const far = distances(plane.width, plane.height, side);
    for (let i = 0; i < count; i++) {
      if (side[i] || far[i] > reach) continue;
      within[i] = 1;
      counts.values[i] = Math.min(1, (reach + 1 - far[i]) / (1 + OVER * reach));
    }
  }
  const alpha: Plane = { ...plane, values: plane.values.slice() };
  const isIn = (i: number) => within[i] === 1;
  const part = boundsOf(plane.width, plane.height, isIn, Math.ceil(2 * WIDE * reach));
  if (part) {
    const colours = cut(ground, whole, part, 3);
    const channels = [0, 1, 2].map(k => channelPlane(colours, k as 0 | 1 | 2, part.width, part.height)) as [
      Plane,
      Plane,
      Plane,
    ];
    const products = pairProducts(channels);
    const values = new Float32Array(cut(belongs, whole, part, 1));
    const asked = cut(within, whole, part, 1);
    for (let k = 0, radius = WIDE * reach; k < TIMES; k++, radius *= NARROWER) {
      const window = Math.max(NARROWEST, Math.round(radius));
      partByColours(colourGuide(channels, window, products), values, asked, FLAT);
    }
    for (let y = 0, i = 0; y < part.height; y++) {
      let to = (part.y + y) * plane.width + part.x;
      for (let x = 0; x < part.width; x++, i++, to++) {
        alpha.values[to] += counts.values[to] * (values[i] - alpha.values[to]);
      }
    }
  }
  return { alpha, counts, fit: fitEdges(alpha, ground, longEdge, stays, READ) };
}

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

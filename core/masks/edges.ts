import type { Geometry, Rectangle } from '../frame/geometry';
import { channelPlane } from '../kernels/channels';
import { colourGuide, colourGuided, type ColourGuided } from '../kernels/guided';
import { readPlane, type Plane } from '../kernels/planes';

/**
 * Areas drawn to the edges of the photograph: around each place as a straight line in its colours, found on the small picture and
 * read at any size.
 */

export type Fit = ColourGuided;

/** The window as a fraction of the long edge, and the variance that counts as flat. */
const RADIUS = 0.015;
const EPSILON = 0.0002;

/**
 * @param plane coverage of the whole picture, small
 * @param ground the same picture, encoded RGB
 * @param radius of the window, a fraction of the long edge
 */
export function fitEdges(plane: Plane, ground: Float32Array, longEdge: number, radius = RADIUS): Fit {
  const { width, height } = plane;
  const channel = (k: 0 | 1 | 2) => channelPlane(ground, k, width, height);
  const guide = [channel(0), channel(1), channel(2)] as const;
  const window = Math.max(2, Math.round(radius * longEdge));
  return colourGuided(colourGuide(guide, window), [plane], EPSILON)[0];
}

/** Coverage of a part of the picture, 0..1. */
export function onEdges(
  { a, d }: Fit,
  ground: Float32Array,
  part: Rectangle,
  geometry: Geometry,
): Float32Array {
  const count = part.width * part.height;
  const [r, g, b, out] = [...a, d].map(plane => {
    const read = new Float32Array(count);
    readPlane(plane, geometry, part, read);
    return read;
  });
  for (let i = 0, p = 0; i < count; i++, p += 3) {
    const q = r[i] * ground[p] + g[i] * ground[p + 1] + b[i] * ground[p + 2] + out[i];
    out[i] = q < 0 ? 0 : q > 1 ? 1 : q;
  }
  return out;
}

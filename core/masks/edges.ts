import type { Geometry, Rectangle } from '../frame/geometry';
import { channelPlane } from '../kernels/channels';
import { colourGuide, colourGuided, type ColourGuide, type ColourGuided } from '../kernels/guided';
import { cut } from '../kernels/lay';
import { boundsOf, readPlane, type Plane } from '../kernels/planes';

/**
 * Areas drawn to the edges of the photograph: around each place as a straight line in its colours, found on the small picture and
 * read at any size.
 */

export type Fit = ColourGuided;

/** The window as a fraction of the long edge, and the variance that counts as flat. */
const RADIUS = 0.015;
const EPSILON = 0.0002;

/** What is known of a ground that stays as it is, for many areas that are fitted to it. */
const known = new WeakMap<Float32Array, { window: number; guide: ColourGuide }>();

/** More than this share of a picture is fitted as the whole of it is, which is known for all. */
const MUCH = 0.4;

function guideOf(rgb: Float32Array, { width, height }: Rectangle, window: number): ColourGuide {
  const channel = (k: 0 | 1 | 2) => channelPlane(rgb, k, width, height);
  return colourGuide([channel(0), channel(1), channel(2)], window);
}

/** The guide of a whole ground that nothing changes. */
function guideOfWhole(ground: Float32Array, whole: Rectangle, window: number): ColourGuide {
  const kept = known.get(ground);
  if (kept?.window === window) return kept.guide;
  const guide = guideOf(ground, whole, window);
  known.set(ground, { window, guide });
  return guide;
}

/**
 * @param plane coverage of the whole picture, small
 * @param ground the same picture, encoded RGB
 * @param stays nothing changes the ground's numbers: what is known of it is kept
 * @param radius of the window, a fraction of the long edge
 */
export function fitEdges(
  plane: Plane,
  ground: Float32Array,
  longEdge: number,
  stays: boolean,
  radius = RADIUS,
): Fit {
  const { width, height } = plane;
  const whole = { x: 0, y: 0, width, height };
  const nothing = () => ({ width, height, values: new Float32Array(width * height) });
  const fit: Fit = { a: [nothing(), nothing(), nothing()], d: nothing() };
  const window = Math.max(2, Math.round(radius * longEdge));
  // Lines reach two windows beyond what is covered; further away they are nothing.
  let part = boundsOf(width, height, i => plane.values[i] !== 0, 4 * window);
  if (!part) return fit;
  const isMuch = stays && part.width * part.height > MUCH * width * height;
  if (isMuch) part = whole;
  const guide = isMuch
    ? guideOfWhole(ground, whole, window)
    : guideOf(cut(ground, whole, part, 3), part, window);
  const covered = { ...part, values: cut(plane.values, whole, part, 1) };
  const [found] = colourGuided(guide, [covered], EPSILON);
  const paste = (from: Plane, to: Plane) => {
    for (let y = 0; y < part.height; y++) {
      const row = from.values.subarray(y * part.width, (y + 1) * part.width);
      to.values.set(row, (part.y + y) * width + part.x);
    }
  };
  found.a.forEach((from, k) => paste(from, fit.a[k]));
  paste(found.d, fit.d);
  return fit;
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

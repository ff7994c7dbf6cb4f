import { framedSize, geometryOf } from '../../core/frame/geometry';
import type { Treatment } from '../../core/treatment/treatment';
import type { PictureInfo } from '../engine/tiles';
import type { Place } from '../print/tool';

/** Places of the picture in its frame, as places of the photograph: what areas are drawn in. */

/** From the picture in its frame (fractions) to the photograph (fractions). */
export function toPhotograph(picture: PictureInfo, treatment: Treatment): (at: Place) => [number, number] {
  const size = framedSize(picture, treatment.frame);
  const geometry = geometryOf(picture, treatment.frame);
  const out = new Float64Array(2);
  const clamp = (v: number) => Math.min(5, Math.max(-4, v));
  return ({ x, y }) => {
    geometry.placeOf(x * size.width, y * size.height, out);
    return [clamp(out[0]), clamp(out[1])];
  };
}

/** A millionth of a picture is a hundredth of a pixel at 100 megapixels; more would only make strokes long to write. */
const fine = (v: number) => Math.round(v * 1e5) / 1e5;

/** A point of a stroke: a place of the photograph, and how hard the pen is pressed there. */
export function pointOf(place: (at: Place) => [number, number], at: Place): [number, number, number] {
  const [x, y] = place(at);
  return [fine(x), fine(y), fine(at.pressure ?? 1)];
}

/** Points of a stroke closer than this share of the radius are left out. */
const POINTS_APART = 0.15;
const MOST_POINTS = 19_000;

/** Adds a point to those of a stroke, unless it lies too near to the last. */
export function addPoint(
  points: [number, number, number][],
  next: [number, number, number],
  radius: number,
  { width, height }: { width: number; height: number },
): boolean {
  const before = points.at(-1)!;
  const [dx, dy] = [next[0] - before[0], (next[1] - before[1]) * (height / width)];
  if (Math.hypot(dx, dy) < radius * POINTS_APART || points.length >= MOST_POINTS) return false;
  points.push(next);
  return true;
}

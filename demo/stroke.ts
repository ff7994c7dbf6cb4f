import type { Stroke } from '../core/settings/fields';

/** Strokes through places, in fractions of the photograph, as the demo lays them. */

export type Place = [x: number, y: number];

/** @param radius a fraction of the long edge */
export const stroke = (radius: number, ...places: Place[]): Stroke => ({
  points: places.map(([x, y]) => [x, y, 1]),
  radius,
  hardness: 1,
  flow: 1,
  erase: false,
  keepEdges: 0,
});

import type { Lattice } from '../kernels/dabs';
import { gaussian, wideGaussian } from '../kernels/gaussian';
import { boxExtreme, diamondExtreme, type Plane } from '../kernels/planes';
import type { Mask } from './mask';

/** Masks grown or shrunk, and softened at their edge. */

/** How softly a mask's edge falls, as the deviation of a Gaussian in pixels: feather and bleed together. */
export const deviation = (feather: number, bleed: number, longEdge: number): number =>
  (Math.hypot(feather, bleed) / 2) * longEdge;

/** The side of the square, as a share of the growth, that with a diamond makes an octagon, near to a circle. */
const SQUARE = 0.41;

/** Grown by a number of cells; shrunk where it is negative. */
function grown(plane: Plane, cells: number): Plane {
  const reach = Math.round(Math.abs(cells));
  if (reach === 0) return plane;
  const sign = cells > 0 ? -1 : 1;
  const square = Math.round(reach * SQUARE);
  return diamondExtreme(boxExtreme(plane, square, sign), Math.round((reach - square) / 2), sign);
}

/**
 * Coverage on a part of the lattice that reaches far enough around what is wanted.
 * @param grow and sigma in photograph pixels
 */
export function shapedPart(
  values: Float32Array,
  { width, height, cell }: Lattice,
  grow: number,
  sigma: number,
): Float32Array {
  const plane = grown({ width, height, values }, grow / cell);
  return (sigma > 0 ? gaussian(plane, sigma / cell) : plane).values;
}

/** Coverage of the whole small picture, its mask's inversion done already. */
export function shapedWhole(plane: Plane, mask: Mask, bleed: number, longEdge: number): Plane {
  const grow = (mask.invert ? -mask.grow : mask.grow) * longEdge;
  return wideGaussian(grown(plane, grow), deviation(mask.feather, bleed, longEdge));
}

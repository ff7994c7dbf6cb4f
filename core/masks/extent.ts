import type { Geometry, Rectangle } from '../frame/geometry';
import type { Mask, MaskPart } from './schema';
import { byId } from './named';
import { deviation } from './shaping';

/** Where a mask can lie at all, so that only there it is made. */

/** A box in photograph pixels; null is nothing, 'everywhere' has no end. */
export type Extent = { left: number; top: number; right: number; bottom: number } | null | 'everywhere';

function joined(a: Extent, b: Extent): Extent {
  if (a === 'everywhere' || b === 'everywhere') return 'everywhere';
  if (!a || !b) return a ?? b;
  return {
    left: Math.min(a.left, b.left),
    top: Math.min(a.top, b.top),
    right: Math.max(a.right, b.right),
    bottom: Math.max(a.bottom, b.bottom),
  };
}

function partExtent(part: MaskPart, masks: readonly Mask[], geometry: Geometry): Extent {
  const { photograph, longEdge } = geometry;
  if (part.kind === 'mask') return extentOf(byId(masks, part.mask), masks, geometry, 0);
  if (part.kind === 'oval' && !part.outside) {
    const x = part.centre[0] * photograph.width;
    const y = part.centre[1] * photograph.height;
    const reach = Math.max(...part.radii) * longEdge + 1;
    return { left: x - reach, top: y - reach, right: x + reach, bottom: y + reach };
  }
  if (part.kind !== 'brush') return 'everywhere';
  let extent: Extent = null;
  for (const { points, radius, erase } of part.strokes) {
    if (erase) continue;
    const reach = radius * longEdge + 2;
    for (const point of points) {
      const x = point[0] * photograph.width;
      const y = point[1] * photograph.height;
      extent = joined(extent, { left: x - reach, top: y - reach, right: x + reach, bottom: y + reach });
    }
  }
  return extent;
}

/** A box that holds all that a mask covers. */
export function extentOf(mask: Mask, masks: readonly Mask[], geometry: Geometry, bleed: number): Extent {
  if (mask.invert) return 'everywhere';
  let extent: Extent = mask.parts[0]?.op === 'subtract' ? 'everywhere' : null;
  for (const part of mask.parts) {
    if (part.op === 'add') extent = joined(extent, partExtent(part, masks, geometry));
  }
  if (!extent || extent === 'everywhere') return extent;
  const { longEdge } = geometry;
  const more = Math.max(0, mask.grow) * longEdge + 4 * deviation(mask.feather, bleed, longEdge) + 4;
  return {
    left: extent.left - more,
    top: extent.top - more,
    right: extent.right + more,
    bottom: extent.bottom + more,
  };
}

/** The part of a region of the framed picture that a box of the photograph meets; null for none. */
export function meeting(region: Rectangle, extent: Extent, geometry: Geometry): Rectangle | null {
  if (extent === 'everywhere') return region;
  if (!extent) return null;
  let { left, top, right, bottom } = extent;
  if (!geometry.untouched) {
    const at = new Float64Array(2);
    const corners = [
      [left, top],
      [right, top],
      [left, bottom],
      [right, bottom],
    ];
    left = top = Infinity;
    right = bottom = -Infinity;
    for (const [x, y] of corners) {
      geometry.toFramed(x, y, at);
      if (Number.isNaN(at[0])) return region;
      left = Math.min(left, at[0]);
      right = Math.max(right, at[0]);
      top = Math.min(top, at[1]);
      bottom = Math.max(bottom, at[1]);
    }
  }
  const x = Math.max(region.x, Math.floor(left));
  const y = Math.max(region.y, Math.floor(top));
  const width = Math.min(region.x + region.width, Math.ceil(right)) - x;
  const height = Math.min(region.y + region.height, Math.ceil(bottom)) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : null;
}

import type { Geometry, Rectangle } from '../frame/geometry';
import { joined, type Extent } from './define';
import { byId, type Mask } from './mask';
import { kindOfPart } from './parts';
import { deviation } from './shaping';

/** Where a mask can lie at all, so that only there it is made. */

/** A box that holds all that a mask covers. */
export function extentOf(mask: Mask, masks: readonly Mask[], geometry: Geometry, bleed: number): Extent {
  const known = new Map<string, Extent>();
  const of = (id: string): Extent => {
    if (!known.has(id)) known.set(id, extent(byId(masks, id), 0));
    return known.get(id)!;
  };
  const extent = ({ invert, parts, grow, feather }: Mask, bleed: number): Extent => {
    if (invert || parts[0]?.op === 'subtract') return 'everywhere';
    let box: Extent = null;
    for (const part of parts) {
      if (part.op !== 'add') continue;
      const kind = kindOfPart(part);
      const own = kind.reads === 'place' && kind.extent ? kind.extent(part, geometry, of) : 'everywhere';
      box = joined(box, own);
    }
    if (!box || box === 'everywhere') return box;
    const { longEdge } = geometry;
    const more = Math.max(0, grow) * longEdge + 4 * deviation(feather, bleed, longEdge) + 4;
    return {
      left: box.left - more,
      top: box.top - more,
      right: box.right + more,
      bottom: box.bottom + more,
    };
  };
  return extent(mask, bleed);
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

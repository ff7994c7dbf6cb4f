import type { Geometry, Rectangle } from '../frame/geometry';
import type { Stroke } from '../settings/fields';
import { around } from './define';
import { extentOf, meeting } from './extent';
import type { Mask } from './mask';
import { beneathPart, type MaskPart } from './parts';
import { standingOn } from './standing';

/**
 * The rectangle of the framed picture in which a stroke of a mask can change anything: of that mask, and of those that
 * stand on it.
 * @param id of the mask that is painted
 * @param stroke what has been added to it, erasing or not
 * @param bleed how far the steps on these masks soften them at most, a fraction of the long edge
 * @returns null where it changes nothing inside the picture
 */
export function touchedBy(
  stroke: Stroke,
  id: string,
  masks: readonly Mask[],
  geometry: Geometry,
  bleed: number,
): Rectangle | null {
  // As if there were nothing but the stroke, painted: what it takes away lies no wider than what it would add.
  const painted: MaskPart = { kind: 'brush', op: 'add', strokes: [{ ...stroke, erase: false }] };
  const alone = masks.map((mask): Mask => {
    const standing = mask.parts
      .filter(p => beneathPart(p) !== undefined)
      .map(p => ({ ...p, op: 'add' as const }));
    return { ...mask, invert: false, parts: mask.id === id ? [painted] : standing };
  });
  const whole = { x: 0, y: 0, width: geometry.width, height: geometry.height };
  let touched: Rectangle | null = null;
  for (const mask of alone) {
    if (!standingOn(mask, alone).some(each => each.id === id)) continue;
    const part = meeting(whole, extentOf(mask, alone, geometry, bleed), geometry);
    if (part) touched = touched ? around(touched, part) : part;
  }
  return touched;
}

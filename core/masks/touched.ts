import type { Geometry, Rectangle } from '../frame/geometry';
import type { Mask, Stroke } from './schema';
import { extentOf, meeting } from './extent';

/** Whether a mask stands on another, or is it. */
const standsOn = (mask: Mask, id: string, masks: readonly Mask[]): boolean =>
  mask.id === id ||
  mask.parts.some(part => {
    const beneath = part.kind === 'mask' && masks.find(m => m.id === part.mask);
    return beneath && standsOn(beneath, id, masks);
  });

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
  const alone = masks.map((mask): Mask => {
    if (mask.id === id) {
      const parts: Mask['parts'] = [{ kind: 'brush', op: 'add', strokes: [{ ...stroke, erase: false }] }];
      return { ...mask, invert: false, parts };
    }
    const parts = mask.parts.flatMap(p => (p.kind === 'mask' ? [{ ...p, op: 'add' as const }] : []));
    return { ...mask, invert: false, parts };
  });
  const whole = { x: 0, y: 0, width: geometry.width, height: geometry.height };
  let touched: Rectangle | null = null;
  for (const mask of alone) {
    if (!standsOn(mask, id, alone)) continue;
    const part = meeting(whole, extentOf(mask, alone, geometry, bleed), geometry);
    if (!part) continue;
    if (!touched) {
      touched = part;
      continue;
    }
    const x: number = Math.min(touched.x, part.x);
    const y: number = Math.min(touched.y, part.y);
    touched = {
      x,
      y,
      width: Math.max(touched.x + touched.width, part.x + part.width) - x,
      height: Math.max(touched.y + touched.height, part.y + part.height) - y,
    };
  }
  return touched;
}

import { strokeName } from '../masks/stroke-name';
import type { Mask } from '../masks/schema';
import type { Step } from '../treatment/schema';

/** What pixels depend on, as what equal keys are made of. */

/** What makes a step's pixels: its name, id and place on the line do not. */
export const pixelKey = ({ kind, strength, mix, reach, settings }: Step) => ({
  kind,
  strength,
  mix,
  reach,
  settings,
});

/** A mask with all that it stands on. */
export function maskKey(id: string, masks: readonly Mask[]): unknown[] {
  const mask = masks.find(m => m.id === id)!;
  const { invert, feather, grow, refine, parts } = mask;
  const on = parts.flatMap(p => (p.kind === 'mask' ? maskKey(p.mask, masks) : []));
  // Strokes by their names: a painted area may have thousands of points.
  const named = parts.map(p => (p.kind === 'brush' ? { ...p, strokes: p.strokes.map(strokeName) } : p));
  return [{ invert, feather, grow, refine, parts: named }, ...on];
}

import { addRough, changePart } from './areas';
import type { MaskPart } from '../masks/parts';
import type { Mask } from '../masks/mask';
import { strokeName } from '../masks/stroke-name';
import type { Stroke } from '../settings/fields';
import type { Treatment } from './schema';

/**
 * Strokes of several pigments that spread to the edges of what they lie on: each pigment has an area that is found from its strokes,
 * those of the others being what is not meant there. They are linked by their strokes alone: two areas of which each has strokes of
 * the other among those that are not meant. What is drawn on one stays a limit of the others.
 */

type FoundPart = Extract<MaskPart, { kind: 'found' }>;

/** The part that an area is found by, and where it lies among its parts; undefined where it is not found. */
function foundIn({ parts }: Mask): { part: FoundPart; index: number } | undefined {
  const index = parts.findLastIndex(p => p.kind === 'found' && p.op === 'add');
  const part = parts[index];
  return part?.kind === 'found' ? { part, index } : undefined;
}

/** Whether one of some strokes is among others. */
const meet = (a: readonly Stroke[], b: readonly Stroke[]): boolean => {
  const names = new Set(b.map(strokeName));
  return a.some(stroke => names.has(strokeName(stroke)));
};

/** The areas that spread together with one, itself among them; that one alone where it is linked to none. */
export function spreadWith({ masks }: Treatment, id: string): string[] {
  const own = masks.find(m => m.id === id);
  const found = own && foundIn(own)?.part;
  if (!found) return [];
  const linked = masks.filter(mask => {
    const other = mask.id === id ? undefined : foundIn(mask)?.part;
    return other && meet(other.strokesIn, found.strokesOut) && meet(found.strokesIn, other.strokesOut);
  });
  return [id, ...linked.map(m => m.id)];
}

/** What stands against an area that joins others: all that is meant in them, and what is meant in none. */
export function againstAll({ masks }: Treatment, ids: readonly string[]): Stroke[] {
  const all = new Map<string, Stroke>();
  for (const id of ids) {
    const mask = masks.find(m => m.id === id);
    const found = mask && foundIn(mask)?.part;
    for (const stroke of found ? [...found.strokesIn, ...found.strokesOut] : []) {
      all.set(strokeName(stroke), stroke);
    }
  }
  return [...all.values()];
}

/**
 * Adds a stroke to areas that spread together.
 * @param meant the area that it is meant for; null where all is to be left as it is there
 */
export function addToSpread(
  treatment: Treatment,
  ids: readonly string[],
  meant: string | null,
  stroke: Stroke,
): Treatment {
  let made = treatment;
  for (const id of ids) {
    const mask = made.masks.find(m => m.id === id);
    const found = mask && foundIn(mask);
    if (!found) continue;
    const { part, index } = found;
    const which = id === meant ? 'strokesIn' : 'strokesOut';
    made = changePart(made, id, index, { ...part, [which]: [...part[which], stroke] });
  }
  return made;
}

/** Adds a rough stroke of the area finder to an area; to one that spreads with others so that they stay linked. */
export function mend(treatment: Treatment, id: string, stroke: Stroke, isOut: boolean): Treatment {
  const linked = isOut ? [id] : spreadWith(treatment, id);
  return linked.length > 1
    ? addToSpread(treatment, linked, id, stroke)
    : addRough(treatment, id, stroke, isOut);
}

import { addPart, areaOf, changePart } from './areas';
import { goesAround } from '../masks/finding/ring';
import type { MaskPart } from '../masks/parts';
import type { Mask } from '../masks/mask';
import { strokeName } from '../masks/stroke-name';
import type { Stroke } from '../settings/fields';
import type { Treatment } from './treatment';

/**
 * Rough strokes in areas: what they find, and how several areas spread against one another.
 *
 * Where strokes of several pigments spread to the edges of what they lie on, each pigment has an area that is found from its strokes, those
 * of the others being what is not meant there. Areas are linked by their strokes alone: two of which each has strokes of the other among
 * those that are not meant. What is drawn on one stays a limit of the others.
 */

type FoundPart = Extract<MaskPart, { kind: 'found' }>;

/** The part of an area that rough strokes mend, what was found last, and where it lies among its parts; undefined where there is none. */
function foundIn({ parts }: Mask): { part: FoundPart; index: number } | undefined {
  const index = parts.findLastIndex(p => p.kind === 'found' && p.op === 'add');
  const part = parts[index];
  return part?.kind === 'found' ? { part, index } : undefined;
}

/** Whether something has been found in an area, which further rough strokes mend. */
export function hasFound(treatment: Treatment, id: string): boolean {
  const area = areaOf(treatment, id);
  return area !== undefined && foundIn(area) !== undefined;
}

/**
 * Adds a rough stroke to an area: to what was found last in it, else as a part of its own. One that is not meant, where nothing was found
 * yet, goes around what is; if it does not, what it finds is taken away from what there is. The same treatment where there is nothing.
 */
function addRough(treatment: Treatment, id: string, stroke: Stroke, isOut: boolean): Treatment {
  const area = areaOf(treatment, id);
  if (!area) return treatment;
  const found = foundIn(area);
  if (found) return addTo(treatment, id, found, isOut ? 'strokesOut' : 'strokesIn', stroke);
  if (isOut && goesAround(stroke, { width: 1, height: 1 })) {
    return addPart(treatment, id, { kind: 'found', op: 'add', strokesIn: [], strokesOut: [stroke] });
  }
  const index = area.parts.length - 1;
  const part = area.parts[index];
  if (isOut && part?.kind === 'found') return addTo(treatment, id, { part, index }, 'strokesIn', stroke);
  const op = isOut ? 'subtract' : 'add';
  return addPart(treatment, id, { kind: 'found', op, strokesIn: [stroke], strokesOut: [] });
}

const addTo = (
  treatment: Treatment,
  id: string,
  { part, index }: { part: FoundPart; index: number },
  which: 'strokesIn' | 'strokesOut',
  stroke: Stroke,
): Treatment => changePart(treatment, id, index, { ...part, [which]: [...part[which], stroke] });

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
    made = addTo(made, id, found, id === meant ? 'strokesIn' : 'strokesOut', stroke);
  }
  return made;
}

/** Adds a rough stroke to an area; to one that spreads with others so that they stay linked: see `addRough`. */
export function mend(treatment: Treatment, id: string, stroke: Stroke, isOut: boolean): Treatment {
  const linked = isOut ? [id] : spreadWith(treatment, id);
  return linked.length > 1
    ? addToSpread(treatment, linked, id, stroke)
    : addRough(treatment, id, stroke, isOut);
}

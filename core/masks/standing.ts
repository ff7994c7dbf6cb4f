import type { Sought } from './finding/memory';
import { byId, type Mask } from './mask';
import { readsOf, seenBy } from './define';
import { beneathPart, kindOfPart } from './parts';

/** Masks may stand on others; what is asked of all of them is asked of each once, however often it is used. */

/** A mask and all that it stands on, itself or through others, each once. */
export function standingOn(mask: Mask, masks: readonly Mask[]): Mask[] {
  const found = new Set<Mask>();
  const visit = (each: Mask) => {
    if (found.has(each)) return;
    found.add(each);
    for (const part of each.parts) {
      const beneath = beneathPart(part);
      if (beneath !== undefined) visit(byId(masks, beneath));
    }
  };
  visit(mask);
  return [...found];
}

/** Whether a mask reads the picture at all, itself or through one that it stands on; or just its ground. */
export const readsPicture = (mask: Mask, masks: readonly Mask[], what?: 'ground'): boolean =>
  standingOn(mask, masks).some(each =>
    each.parts.some(part => {
      const reads = readsOf(kindOfPart(part), part);
      return what ? reads === what : reads !== 'place';
    }),
  );

/** What parts of it, or of those that it stands on, find in the photograph itself. */
export const soughtIn = (mask: Mask, masks: readonly Mask[]): Sought[] =>
  standingOn(mask, masks).flatMap(each =>
    each.parts.flatMap(part => seenBy(kindOfPart(part), part)?.sought?.(part) ?? []),
  );

/** How far a mask's edge is drawn to the edges of the photograph: the most that it, or one that it stands on, asks. */
export const edgeDraw = (mask: Mask, masks: readonly Mask[]): number =>
  Math.max(...standingOn(mask, masks).map(each => each.refine));

/** How wide a band along the edge is found anew: the most that it, or one that it stands on, asks. */
export const fineWidth = (mask: Mask, masks: readonly Mask[]): number =>
  Math.max(...standingOn(mask, masks).map(each => each.fine));

/** Whether it is softened or grown, itself or through one that it stands on. */
export const isShaped = (mask: Mask, masks: readonly Mask[]): boolean =>
  standingOn(mask, masks).some(each => each.feather > 0 || each.grow !== 0);

/** Masks stand on others at most so deep: deeper, the margins of softened ones add up past any picture. */
const DEEPEST = 8;
/** A mask with all that is beneath it, counted once for each way down to it, is made of at most so many. */
const MOST_BENEATH = 1000;

/** How a mask stands: how many lie beneath one another under it, and how many in all, once for each way down. */
interface Standing {
  deep: number;
  many: number;
}

/** What is wrong with how a mask of a list stands on others, in words; null where nothing is. No ring may be in it. */
export function tooMuchBeneath(mask: Mask, masks: readonly Mask[]): string | null {
  const known = new Map<Mask, Standing>();
  const of = (each: Mask): Standing => {
    const found = known.get(each);
    if (found) return found;
    const ids = new Set(each.parts.map(beneathPart).filter(id => id !== undefined));
    const beneath = [...ids].map(id => of(byId(masks, id)));
    const standing = {
      deep: Math.max(0, ...beneath.map(b => b.deep + 1)),
      many: beneath.reduce((sum, b) => sum + b.many, 1),
    };
    known.set(each, standing);
    return standing;
  };
  const { deep, many } = of(mask);
  if (deep > DEEPEST) return `stands on other masks ${deep} deep; the most is ${DEEPEST}`;
  if (many > MOST_BENEATH) return `stands on more than ${MOST_BENEATH} masks, each way down to them counted`;
  return null;
}

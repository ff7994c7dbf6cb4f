import { byId, type Mask } from './mask';
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
      const { reads } = kindOfPart(part);
      return what ? reads === what : reads !== 'place';
    }),
  );

/** How far a mask's edge is drawn to the edges of the photograph: the most that it, or one that it stands on, asks. */
export const edgeDraw = (mask: Mask, masks: readonly Mask[]): number =>
  Math.max(...standingOn(mask, masks).map(each => each.refine));

/** Whether it is softened or grown, itself or through one that it stands on. */
export const isShaped = (mask: Mask, masks: readonly Mask[]): boolean =>
  standingOn(mask, masks).some(each => each.feather > 0 || each.grow !== 0);

import { tooMuchPainting } from '../masks/painting';
import { strokesOf } from '../masks/part-strokes';
import { MOST_PARTS } from '../masks/schema';
import { tooMuchBeneath } from '../masks/standing';
import { MOST_STROKES } from '../settings/schema';
import { MOST_MASKS, MOST_STEPS, type Treatment } from './treatment';

/**
 * For what a treatment has no room, as an edit may have made it, in words; null where there is room for all. What is over
 * no limit here is over none of those that `parseTreatment` sets to counts.
 */
export function noRoomFor({ steps, masks }: Treatment): string | null {
  if (steps.length > MOST_STEPS) return `more than ${MOST_STEPS} steps`;
  if (masks.length > MOST_MASKS) return `more than ${MOST_MASKS} areas`;
  for (const mask of masks) {
    if (mask.parts.length > MOST_PARTS) return `an area of more than ${MOST_PARTS} parts`;
    const full = mask.parts.some(part =>
      strokesOf(part).some(([, strokes]) => strokes.length > MOST_STROKES),
    );
    if (full) return `more than ${MOST_STROKES} strokes in one part of an area`;
    const problem = tooMuchBeneath(mask, masks);
    if (problem) return `an area that ${problem}`;
  }
  return tooMuchPainting(masks);
}

import { withMargin } from '../../../core/engine/render';
import type { Treatment } from '../../../core/treatment/treatment';
import { atHand } from '../at-hand';
import { levelOf } from '../levels';
import { keptPixels, planner, surveyed } from '../pixels';
import type { PictureInfo } from '../tiles';
import { place, printOf, type Size } from '../view';
import type { Share } from './messages';
import { planned } from './planned';
import { isOf, sinceNow } from './screens';

/**
 * Fetches the pixels that a picture would be shown with first, fitted, and those that its steps look at; then bakes its
 * tables and looks at it, as long as nothing else is wanted.
 */
export async function warm(
  picture: PictureInfo,
  treatment: Treatment,
  viewport: Size,
  margin: number,
  share: Omit<Share, 'work'>,
): Promise<void> {
  const { frame } = treatment;
  const at = place(printOf(picture, frame), viewport, { mode: 'fit' }, margin);
  const { of, parts } = levelOf(picture, frame, at, viewport, 0);
  const plan = planner(treatment, { grey: picture.grey, pixels: 0 });
  const own = parts.filter(isOf(share)).map(part => keptPixels(of, withMargin(plan, part, of.geometry)));
  await Promise.all([...own, plan.surveyed && surveyed(of, treatment)]);
  // Tables are baked by the first worker for all.
  if (share.which !== 0) return;
  const isWanted = sinceNow();
  await atHand(treatment);
  await planned({ picture, treatment }, of, parts, isWanted);
}

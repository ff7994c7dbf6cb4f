import { touchedBy } from '../../../core/masks/touched';
import { addStroke } from '../../../core/treatment/areas';
import { withMargin } from '../../../core/engine/render';
import { atHand } from '../at-hand';
import { common, levelOf, TILE } from '../levels';
import { keptPixels, planner } from '../pixels';
import { place, printOf } from '../view';
import type { Share, Shown, ShowRequest, StrokeRequest } from './messages';
import { keyOf, renderPart, send } from './rendered';
import { asked, isOf, screens } from './screens';

/**
 * Sends a stroke that is under way.
 * @param show sends all that has changed, where the stroke alone does not do
 */
export async function sendStroke(
  id: number,
  { serial, content, base, area, stroke }: StrokeRequest,
  share: Share,
  show: (id: number, request: ShowRequest, share: Share) => Promise<Shown | null>,
): Promise<Shown | null> {
  const screen = screens.get(id);
  if (!screen) return null;
  asked(screen, serial);
  if (base) screen.painted = { request: base, points: 0, key: null };
  if (!screen.painted) throw new Error('no picture to paint on');
  const now = screen.painted;
  const { picture, view, viewport, margin, marking } = now.request;
  const began = performance.now();
  const treatment = addStroke(now.request.treatment, area, stroke);
  await atHand(treatment);
  const at = place(printOf(picture, treatment.frame), viewport, view, margin);
  const { of, parts } = levelOf(picture, treatment.frame, at, viewport, 0);
  const mine = parts.filter(isOf(share));
  const occupied = screen.colours?.of === of.name ? screen.colours.occupied : undefined;
  const planning = { grey: picture.grey, pixels: parts.length * TILE * TILE, draft: true, occupied };
  now.key ??= planner(now.request.treatment, planning).key;
  const plan = planner(treatment, planning);
  const follows = mine.every(part => keyOf(screen, of, part) === now.key);
  const added = { ...stroke, points: stroke.points.slice(Math.max(0, now.points - 1)) };
  if (!follows || plan.surveyed || marking || plan.margin(of.geometry) > 0) {
    const shown = await show(id, { ...now.request, treatment, serial, content, draft: true }, share);
    // Where that was drawn with fewer pixels, the next movement comes here again.
    now.points = stroke.points.length;
    now.key = plan.key;
    return shown;
  }
  const bleed = Math.max(0, ...treatment.steps.map(s => (s.settings as { bleed?: number }).bleed ?? 0));
  const touched = touchedBy(added, area, treatment.masks, of.geometry, bleed);
  let count = 0;
  for (const part of mine) {
    const tile = await keptPixels(of, withMargin(plan, part, of.geometry));
    if (screens.get(id) !== screen) return null;
    const only = common(part, touched);
    const made = renderPart(screen, of, tile, part, plan, [], only);
    count += only.width * only.height;
    send(screen, { content, marking }, of, part, made, only);
  }
  now.points = stroke.points.length;
  now.key = plan.key;
  return { took: performance.now() - began, planned: 0, pixels: count, fine: plan.fine };
}

import type { Rectangle } from '../../../core/frame/geometry';
import { atHand } from '../at-hand';
import { levelOf, type Level } from '../levels';
import { place, printOf, type Placement } from '../view';
import type { Share, ShowRequest } from './messages';
import { forget } from './rendered';
import { asked, isOf, screens, staleness, type Screen } from './screens';

/** What is asked for of a surface: of whom, and where it lies. */
export interface Asked {
  id: number;
  screen: Screen;
  request: ShowRequest;
  at: Placement;
  /** The picture at the size at which it hangs. */
  natural: Level;
  /** Whether this worker makes a tile. */
  isMine: (part: Rectangle) => boolean;
  /** Whether something else is wanted by now. */
  isStale: () => boolean;
}

/** Takes a request up; null where its surface has gone. */
export async function takeUp(id: number, request: ShowRequest, share: Share): Promise<Asked | null> {
  const { picture, treatment, view, viewport, margin, pointer } = request;
  const screen = screens.get(id);
  if (!screen) return null;
  asked(screen, request.serial);
  for (const tile of request.renew ?? []) forget(screen, tile);
  await atHand(treatment);
  const at = place(printOf(picture, treatment.frame), viewport, view, margin);
  const natural = levelOf(picture, treatment.frame, at, viewport, 0, pointer);
  const isStale = staleness(id, screen, request.serial);
  return { id, screen, request, at, natural, isMine: isOf(share), isStale };
}

import type { Treatment } from '../../../core/treatment/treatment';
import type { PictureInfo } from '../../engine/tiles';
import type { TakeSession } from '../../takes/session';
import type { PaintingStore } from '../painting-store';

/** What a tool works on: an area of a take, and how it is looked at. */
export interface AreaAtWork {
  area: string;
  picture: PictureInfo;
  session: TakeSession;
  store: PaintingStore;
  /** A treatment as it is looked at: lit, its area shown. */
  lookedAt: (treatment: Treatment) => Treatment;
}

import type { PictureTool } from '../print/tool';
import type { Side } from './side';

/** What each way of working on the picture would do with a press; null where it does not wait for one. */
export interface Waiting {
  framing: PictureTool | null;
  /** A press on a band of the test strip. */
  strip: PictureTool | null;
  /** A colour is asked for. */
  picking: PictureTool | null;
  tinting: PictureTool;
  /** A region is asked for. */
  region: PictureTool | null;
  painting: PictureTool | null;
  pull: PictureTool | null;
}

/** What stands beside the picture, and what of it is seen. */
export interface Seen {
  side: Side['what'];
  /** The treated picture hangs there whole: no bare one, no strip, no other picture in its place. */
  isTreatedSeen: boolean;
  /** Another picture hangs in its place. */
  isOtherInPlace: boolean;
}

/** What a press on the picture does; null where it moves the picture. */
export function chooseTool(
  waiting: Waiting,
  { side, isTreatedSeen, isOtherInPlace }: Seen,
): PictureTool | null {
  if (side === 'frame') return waiting.framing;
  if (waiting.strip) return waiting.strip;
  if (side === 'tint') return isTreatedSeen ? (waiting.picking ?? waiting.tinting) : null;
  if (side === 'method') return waiting.picking;
  if (side !== 'step' || isOtherInPlace) return null;
  return waiting.picking ?? waiting.region ?? waiting.painting ?? waiting.pull;
}

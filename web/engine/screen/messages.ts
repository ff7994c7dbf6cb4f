import type { Rectangle } from '../../../core/frame/geometry';
import type { Stroke } from '../../../core/settings/fields';
import type { Treatment } from '../../../core/treatment/treatment';
import type { PictureInfo } from '../tiles';
import type { Size, View } from '../view';

/** What the page and a worker tell one another of the large picture. */

/** What the picture on the Bench should show. */
export interface ShowRequest {
  /** Counts the requests: the picture is up to date when the last has been shown. */
  serial: number;
  /** Counts what is to be seen of the picture, wherever it lies: tiles of another are out of date. */
  content: number;
  picture: PictureInfo;
  treatment: Treatment;
  view: View;
  /** Device pixels. */
  viewport: Size;
  margin: number;
  /** The place of the viewport that is looked at, in device pixels: its tiles come first. */
  pointer: { x: number; y: number } | null;
  /** Pixels lost at either end of the scale are painted, or those that have no colour step back. */
  marking: 'lost' | 'coloured' | null;
  /** A first answer is wanted soon; a fine one may follow. */
  draft: boolean;
  /** Tiles that the page has lost, or has in another state than they were sent: they are made and sent anew. */
  renew?: readonly TileState[];
}

/** Which of the tiles a worker does, where several share them; the piece of work has a number. */
export interface Share {
  which: number;
  of: number;
  work: number;
}

/** After its pieces: a piece of work is done. */
export interface Done {
  done: number;
}

export interface Shown {
  /** Milliseconds that planning and rendering took. */
  took: number;
  /** Those before the first tile was rendered: pixels fetched, tables baked, the picture looked at. */
  planned: number;
  /** Pixels rendered anew. */
  pixels: number;
  /** The picture is within the engine's tolerance; false for some drafts. */
  fine: boolean;
  /** Of a fine picture: its tiles as they were sent last. The page has just these, or something went wrong. */
  tiles?: readonly TileState[];
}

/** A tile, and how often its picture has changed. */
export interface TileState {
  of: string;
  x: number;
  y: number;
  version: number;
}

/** A rendered tile, or a part of it that has changed, on its way to the page. */
export interface Piece {
  content: number;
  /** Its level and where it lies in it. */
  of: string;
  edge: number;
  /** Of the level's whole framed picture. */
  size: Size;
  /** Of which state it is: counts how often the tile has changed. */
  version: number;
  part: Rectangle;
  /** What has changed of the part. */
  only: Rectangle;
  /** Outside of what has changed it is right as well. */
  whole: boolean;
  /** Pixels of what has changed, RGBA; null where the page has them. */
  pixels: ArrayBuffer | null;
}

/** A stroke under way. */
export interface StrokeRequest {
  serial: number;
  content: number;
  /** The picture that it is painted on; null where it is that of the last message. */
  base: ShowRequest | null;
  area: string;
  stroke: Stroke;
}

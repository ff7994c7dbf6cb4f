import { framedSize, framedSizeAt } from '../../core/frame/geometry';
import type { Frame } from '../../core/frame/frame';

/** Where a picture lies in a viewport. Everything here is in device pixels. */

export interface Size {
  width: number;
  height: number;
}

/** A picture in its frame: its full size, and the size at which it is rendered for a long edge. */
export interface Print extends Size {
  renderedAt: (longEdge: number) => Size;
}

export const printOf = (photograph: Size, frame: Frame): Print => ({
  ...framedSize(photograph, frame),
  renderedAt: longEdge => framedSizeAt(photograph, frame, longEdge),
});

/** Fit, or a free scale with the picture point (fractions) that lies in the viewport's middle. */
export type View = { mode: 'fit' } | { mode: 'free'; scale: number; x: number; y: number };

/** The picture's rectangle in the viewport, and the long edge at which its pixels are wanted. */
export interface Placement {
  x: number;
  y: number;
  width: number;
  height: number;
  /** Device pixels a picture pixel. */
  scale: number;
  longEdge: number;
}

/** The shortest long edge that the server gives pixels for. */
const SMALLEST = 16;

/** The largest enlargement, in device pixels a picture pixel. */
export const LARGEST = 8;

/** The scale at which the whole picture fits inside the margin; never enlarged. */
export function fitScale(picture: Size, viewport: Size, margin: number): number {
  const room = (side: number) => Math.max(16, side - 2 * margin);
  return Math.min(1, room(viewport.width) / picture.width, room(viewport.height) / picture.height);
}

const clamp = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));

/** Along one axis: centred where the picture is smaller than the viewport, else never leaving a gap. */
function origin(length: number, room: number, centre: number, margin: number): number {
  if (length + 2 * margin <= room) return Math.round((room - length) / 2);
  return Math.round(clamp(room / 2 - centre * length, room - length - margin, margin));
}

/** Lays a picture into a viewport. */
export function place(picture: Print, viewport: Size, view: View, margin: number): Placement {
  const full = Math.max(picture.width, picture.height);
  if (view.mode === 'fit') {
    const longEdge = Math.max(SMALLEST, Math.round(full * fitScale(picture, viewport, margin)));
    const scale = Math.min(1, longEdge / full);
    // As it is rendered, so that each of its pixels is one of the screen's.
    const { width, height } = picture.renderedAt(longEdge);
    const x = Math.round((viewport.width - width) / 2);
    const y = Math.round((viewport.height - height) / 2);
    return { x, y, width, height, scale, longEdge };
  }
  const { scale } = view;
  const width = picture.width * scale;
  const height = picture.height * scale;
  let longEdge = full;
  while (longEdge > SMALLEST && Math.ceil(longEdge / 2) >= full * scale) longEdge = Math.ceil(longEdge / 2);
  return {
    x: origin(width, viewport.width, view.x, margin),
    y: origin(height, viewport.height, view.y, margin),
    width,
    height,
    scale,
    longEdge: Math.max(SMALLEST, longEdge),
  };
}

/** Zooms to a scale, keeping the picture point under a viewport point where it is. */
export function zoomAt(
  picture: Print,
  viewport: Size,
  view: View,
  margin: number,
  scale: number,
  at: { x: number; y: number },
): View {
  const fit = fitScale(picture, viewport, margin);
  const next = Math.min(LARGEST, scale);
  if (next <= fit * 1.001) return { mode: 'fit' };
  const now = place(picture, viewport, view, margin);
  const u = (at.x - now.x) / now.width;
  const v = (at.y - now.y) / now.height;
  return {
    mode: 'free',
    scale: next,
    x: clamp(u + (viewport.width / 2 - at.x) / (picture.width * next), 0, 1),
    y: clamp(v + (viewport.height / 2 - at.y) / (picture.height * next), 0, 1),
  };
}

/** Moves a free view by device pixels; a fitted one stays. */
export function panBy(
  picture: Print,
  viewport: Size,
  view: View,
  margin: number,
  dx: number,
  dy: number,
): View {
  if (view.mode === 'fit') return view;
  const { x, y, width, height } = place(picture, viewport, view, margin);
  // From where the picture really lies, so that dragging against an edge is not stored up.
  const along = (from: number, length: number, room: number, by: number, centre: number) =>
    length + 2 * margin <= room ? centre : clamp((room / 2 - from - by) / length, 0, 1);
  return {
    ...view,
    x: along(x, width, viewport.width, dx, view.x),
    y: along(y, height, viewport.height, dy, view.y),
  };
}

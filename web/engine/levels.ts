import type { Frame } from '../../core/frame/frame';
import { geometryOf, photographEdge, sizeAt, type Geometry, type Rectangle } from '../../core/frame/geometry';
import type { PictureInfo } from './tiles';
import type { Placement, Size } from './view';

/** The sizes at which a picture is rendered, and the tiles of each that are seen. */

/** The side of the tiles that are rendered, in pixels: small enough that one under way does not keep what comes next. */
export const TILE = 256;

/** A photograph in its frame at one size. */
export interface Framed {
  picture: PictureInfo;
  /** The photograph's long edge, in pixels. */
  edge: number;
  geometry: Geometry;
  /** Equal names mean equal pixels. */
  name: string;
}

export function framedAt(picture: PictureInfo, frame: Frame, longEdge: number): Framed {
  const edge = photographEdge(picture, frame, longEdge);
  const geometry = geometryOf(sizeAt(picture, edge), frame);
  const name = `${picture.id} ${edge} ${geometry.untouched ? '' : JSON.stringify(frame)}`;
  return { picture, edge, geometry, name };
}

/** A picture at the size of the screen, or smaller, and which of its tiles are seen. */
export interface Level {
  of: Framed;
  /** Screen pixels for one of its pixels. */
  zoom: number;
  parts: Rectangle[];
}

/**
 * @param halvings how often its size is halved
 * @param from what is seen first: a place of the viewport, else its middle
 */
export function levelOf(
  picture: PictureInfo,
  frame: Frame,
  at: Placement,
  viewport: Size,
  halvings: number,
  from: { x: number; y: number } | null = null,
): Level {
  const of = framedAt(picture, frame, Math.max(16, Math.round(at.longEdge / 2 ** halvings)));
  const { width, height } = of.geometry;
  const zoom = at.width / width;
  const first = (edge: number) => Math.max(0, Math.floor(-edge / zoom / TILE));
  const last = (edge: number, room: number, length: number) =>
    Math.min(Math.ceil(length / TILE) - 1, Math.floor((room - edge) / zoom / TILE));
  const parts: Rectangle[] = [];
  for (let row = first(at.y); row <= last(at.y, viewport.height, height); row++) {
    for (let column = first(at.x); column <= last(at.x, viewport.width, width); column++) {
      const [x, y] = [column * TILE, row * TILE];
      parts.push({ x, y, width: Math.min(TILE, width - x), height: Math.min(TILE, height - y) });
    }
  }
  const middle = from ?? { x: viewport.width / 2, y: viewport.height / 2 };
  const away = ({ x, y, width, height }: Rectangle) =>
    Math.hypot(at.x + (x + width / 2) * zoom - middle.x, at.y + (y + height / 2) * zoom - middle.y);
  return { of, zoom, parts: parts.sort((a, b) => away(a) - away(b)) };
}

/** What a rectangle has in common with another; empty where they do not meet, or where there is no other. */
export function common(part: Rectangle, other: Rectangle | null): Rectangle {
  if (!other) return { ...part, width: 0, height: 0 };
  const x = Math.max(part.x, other.x);
  const y = Math.max(part.y, other.y);
  const width = Math.max(0, Math.min(part.x + part.width, other.x + other.width) - x);
  const height = Math.max(0, Math.min(part.y + part.height, other.y + other.height) - y);
  return { x, y, width, height };
}

export const isEmpty = ({ width, height }: Rectangle): boolean => width <= 0 || height <= 0;

import type { Rectangle } from '../../core/frame/geometry';
import type { Plan } from '../../core/engine/plan';
import { render8, withMargin, type Kept } from '../../core/engine/render';
import type { Tile } from '../../core/frame/framing';
import type { Surveys } from '../../core/engine/run';
import { touchedBy } from '../../core/masks/touched';
import { addStroke } from '../../core/treatment/areas';
import type { Stroke } from '../../core/settings/fields';
import { markColoured, markLost } from '../../core/kernels/clipping';
import type { Treatment } from '../../core/treatment/schema';
import { atHand } from './at-hand';
import { framedAt, keptPixels, planner, surveysOf, type Framed } from './pixels';
import { TILE } from '../../contract/limits';
import type { PictureInfo } from './tiles';
import { place, printOf, type Placement, type Size, type View } from './view';

/** The large picture on the Bench, drawn on a canvas that the worker holds. */

/** What the picture on the Bench should show. */
export interface ShowRequest {
  /** Counts the requests: the picture is up to date when the last has been shown. */
  serial: number;
  picture: PictureInfo;
  treatment: Treatment;
  view: View;
  /** Device pixels. */
  viewport: Size;
  margin: number;
  /** Pixels lost at either end of the scale are painted, or those that have no colour step back. */
  marking: 'lost' | 'coloured' | null;
  /** A first answer is wanted soon; a fine one may follow. */
  draft: boolean;
}

export interface Shown {
  /** Milliseconds that planning and rendering took. */
  took: number;
  /** Pixels rendered anew. */
  pixels: number;
  /** The picture is within the engine's tolerance; false for some drafts. */
  fine: boolean;
}

/** The colour under a point of the picture: encoded sRGB 0..1. */
export type Reading = [number, number, number];

interface Rendered {
  key: string;
  image: ImageData;
  kept: Kept;
  /** The image as something that can be drawn at another size; made when it is needed. */
  canvas?: OffscreenCanvas;
  /** The canvas holds the image as it is now. */
  copied: boolean;
}

/** Rendered tiles kept at most. */
const KEPT = 64;
const rendered = new Map<string, Rendered>();

/** A canvas on the page, what is drawn on it, and what was painted on last. */
interface Screen {
  canvas: OffscreenCanvas;
  context: OffscreenCanvasRenderingContext2D;
  painted: Painted | null;
}
/** The canvases of the page by the numbers of their views. One that is gone is drawn on no more. */
const screens = new Map<number, Screen>();

const contextOf = (of: OffscreenCanvas) => of.getContext('2d', { willReadFrequently: true })!;

const nameOf = (of: Framed, part: Rectangle) => `${of.name} ${part.x} ${part.y}`;

/** Renders a part, or finds it rendered by the same plan; the count is of pixels rendered anew. */
function renderPart(
  of: Framed,
  tile: Tile,
  part: Rectangle,
  plan: Plan,
  surveys: Surveys,
  only?: Rectangle,
): [Rendered, number] {
  const name = nameOf(of, part);
  const known = rendered.get(name);
  if (known?.key === plan.key) return [known, 0];
  const image = known?.image ?? new ImageData(part.width, part.height);
  const kept = known?.kept ?? {};
  const { grey } = of.picture;
  render8(plan, tile, image.data, 4, { grey, geometry: of.geometry, surveys, part, kept, only });
  const made = { key: plan.key, image, kept, canvas: known?.canvas, copied: false };
  rendered.delete(name);
  rendered.set(name, made);
  if (rendered.size > KEPT) rendered.delete(rendered.keys().next().value!);
  return [made, part.width * part.height];
}

/** A rendered tile on a canvas of its own, to be drawn larger or smaller. */
function canvasOf(part: Rendered): OffscreenCanvas {
  part.canvas ??= new OffscreenCanvas(part.image.width, part.image.height);
  if (!part.copied) contextOf(part.canvas).putImageData(part.image, 0, 0);
  part.copied = true;
  return part.canvas;
}

/** Takes the canvas of a view. */
export function attach(id: number, canvas: OffscreenCanvas): void {
  screens.set(id, { canvas, context: contextOf(canvas), painted: null });
}

/** Lets the canvas of a view go: what is still under way for it is not drawn. */
export function detach(id: number): void {
  screens.delete(id);
}

/** A picture at the size of the screen, or smaller, and which of its tiles are seen. */
interface Level {
  of: Framed;
  /** Screen pixels for one of its pixels. */
  zoom: number;
  parts: Rectangle[];
}

/** @param halvings how often its size is halved */
function levelOf(
  picture: PictureInfo,
  treatment: Treatment,
  at: Placement,
  viewport: Size,
  halvings: number,
): Level {
  const of = framedAt(picture, treatment, Math.max(16, Math.round(at.longEdge / 2 ** halvings)));
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
  return { of, zoom, parts };
}

/** A draft is made smaller until it can be expected within this many milliseconds; at most so many halvings. */
const SOON_MS = 22;
const MOST_HALVINGS = 2;
/** Below this long edge a draft would show too little. */
const LEAST_EDGE = 360;
/** A larger one is tried again when it can be expected in this share of that time. */
const EASY = 0.6;

/** What rendering has lately cost, in milliseconds a pixel; at first a guess for code that has not run yet. */
let cost = 0.00012;
/** Halvings of the last draft. */
let halvings = 0;

/** How often a draft is halved: less detail while a control moves is better than a picture that lags behind. */
function halvingsFor(level: Level, plan: Plan): number {
  const unknown = level.parts.filter(part => rendered.get(nameOf(level.of, part))?.key !== plan.key);
  const pixels = unknown.reduce((sum, { width, height }) => sum + width * height, 0);
  if (pixels === 0) return 0;
  const takes = (n: number) => (pixels * cost) / 4 ** n;
  const most = Math.min(MOST_HALVINGS, Math.floor(Math.log2(level.of.edge / LEAST_EDGE)));
  halvings = Math.max(0, Math.min(halvings, most));
  while (halvings < most && takes(halvings) > SOON_MS) halvings++;
  while (halvings > 0 && takes(halvings - 1) < SOON_MS * EASY) halvings--;
  return halvings;
}

/** What a stroke is painted on: what was asked for last, and the pictures' key that it then had. */
interface Painted {
  request: ShowRequest;
  /** The points that are drawn already. */
  points: number;
  key: string | null;
}

/** A stroke under way. */
export interface StrokeRequest {
  serial: number;
  /** The picture that it is painted on; null where it is that of the last message. */
  base: ShowRequest | null;
  area: string;
  stroke: Stroke;
}

/**
 * Draws a stroke that is under way: of tiles that show what it is painted on, only what it has touched since.
 * Resolves when it is drawn.
 */
export async function showStroke(
  id: number,
  { serial, base, area, stroke }: StrokeRequest,
): Promise<Shown | null> {
  const screen = screens.get(id);
  if (!screen) return null;
  if (base) screen.painted = { request: base, points: 0, key: null };
  if (!screen.painted) throw new Error('no picture to paint on');
  const now = screen.painted;
  const { picture, view, viewport, margin, marking } = now.request;
  const began = performance.now();
  const treatment = addStroke(now.request.treatment, area, stroke);
  await atHand(treatment);
  const at = place(printOf(picture, treatment.frame), viewport, view, margin);
  const { of, zoom, parts } = levelOf(picture, treatment, at, viewport, 0);
  const planning = { grey: picture.grey, pixels: parts.length * TILE * TILE, draft: true };
  now.key ??= planner(now.request.treatment, planning).key;
  const plan = planner(treatment, planning);
  const follows = parts.every(part => rendered.get(nameOf(of, part))?.key === now.key);
  const added = { ...stroke, points: stroke.points.slice(Math.max(0, now.points - 1)) };
  if (!follows || plan.surveyed || marking || plan.margin(of.geometry) > 0) {
    const shown = await show(id, { ...now.request, treatment, serial, draft: true });
    // Where that was drawn with fewer pixels, the next movement comes here again.
    now.points = stroke.points.length;
    now.key = plan.key;
    return shown;
  }
  const bleed = Math.max(0, ...treatment.steps.map(s => (s.settings as { bleed?: number }).bleed ?? 0));
  const touched = touchedBy(added, area, treatment.masks, of.geometry, bleed);
  let count = 0;
  for (const part of parts) {
    const tile = await keptPixels(of, withMargin(plan, part, of.geometry));
    if (!screens.has(id)) return null;
    const only = common(part, touched);
    const made = renderPart(of, tile, part, plan, [], only)[0];
    count += only.width * only.height;
    if (only.width > 0 && only.height > 0) draw(screen, made, part, at, zoom, only);
  }
  now.points = stroke.points.length;
  now.key = plan.key;
  return { took: performance.now() - began, pixels: count, fine: plan.fine };
}

/** What a rectangle has in common with another; empty where they do not meet, or where there is no other. */
function common(part: Rectangle, other: Rectangle | null): Rectangle {
  if (!other) return { ...part, width: 0, height: 0 };
  const x = Math.max(part.x, other.x);
  const y = Math.max(part.y, other.y);
  const width = Math.max(0, Math.min(part.x + part.width, other.x + other.width) - x);
  const height = Math.max(0, Math.min(part.y + part.height, other.y + other.height) - y);
  return { x, y, width, height };
}

/** Draws a rendered part, or a rectangle of it, where it lies on the screen. */
function draw(
  { context }: Screen,
  made: Rendered,
  part: Rectangle,
  at: Placement,
  zoom: number,
  only = part,
): void {
  // Whole pixels of the screen, so that no seam shows between tiles.
  const x = Math.round(at.x + part.x * zoom);
  const y = Math.round(at.y + part.y * zoom);
  const right = Math.round(at.x + (part.x + part.width) * zoom);
  const bottom = Math.round(at.y + (part.y + part.height) * zoom);
  if (zoom === 1)
    context.putImageData(made.image, x, y, only.x - part.x, only.y - part.y, only.width, only.height);
  else context.drawImage(canvasOf(made), x, y, right - x, bottom - y);
}

/** Draws what is asked for; resolves when it is drawn, to null where its view has gone meanwhile. */
export async function show(
  id: number,
  { picture, treatment, view, viewport, margin, marking, draft }: ShowRequest,
): Promise<Shown | null> {
  await atHand(treatment);
  const at = place(printOf(picture, treatment.frame), viewport, view, margin);
  const natural = levelOf(picture, treatment, at, viewport, 0);
  const began = performance.now();
  const pixels = natural.parts.length * TILE * TILE;
  const plan = planner(treatment, { grey: picture.grey, pixels, draft });
  const less = draft ? halvingsFor(natural, plan) : 0;
  const { of, zoom, parts } = less ? levelOf(picture, treatment, at, viewport, less) : natural;
  const planned = performance.now() - began;
  const [surveys, ...tiles] = await Promise.all([
    surveysOf(plan, of, treatment),
    ...parts.map(part => keptPixels(of, withMargin(plan, part, of.geometry))),
  ]);

  const screen = screens.get(id);
  if (!screen) return null;
  const { canvas, context } = screen;
  const resumed = performance.now();
  let count = 0;
  const drawn = parts.map((part, i) => {
    const [made, fresh] = renderPart(of, tiles[i], part, plan, surveys);
    count += fresh;
    return { part, made };
  });
  if (count && draft) cost += 0.3 * ((performance.now() - resumed) / count - cost);

  if (canvas.width !== viewport.width) canvas.width = viewport.width;
  if (canvas.height !== viewport.height) canvas.height = viewport.height;
  context.clearRect(0, 0, viewport.width, viewport.height);
  context.imageSmoothingEnabled = zoom < 1 || less > 0;
  context.imageSmoothingQuality = zoom < 1 ? 'high' : 'low';
  for (const { part, made } of drawn) {
    draw(screen, made, part, at, zoom);
  }
  if (marking) {
    const all = context.getImageData(0, 0, viewport.width, viewport.height);
    if (marking === 'lost') markLost(all.data);
    else markColoured(all.data);
    context.putImageData(all, 0, 0);
  }
  if (!draft) fetchAhead(picture, treatment, at, viewport, plan);
  const took = planned + performance.now() - resumed;
  return { took, pixels: count, fine: plan.fine && less === 0 };
}

/** Fetches what a smaller draft would need, so that the first movement of a control does not wait for it. */
function fetchAhead(
  picture: PictureInfo,
  treatment: Treatment,
  at: Placement,
  viewport: Size,
  plan: Plan,
): void {
  const { of, parts } = levelOf(picture, treatment, at, viewport, Math.max(1, halvings));
  for (const part of parts) void keptPixels(of, withMargin(plan, part, of.geometry)).catch(() => undefined);
}

/** What is drawn at a point of the viewport. */
export function read(id: number, x: number, y: number): Reading | null {
  const screen = screens.get(id);
  if (!screen) return null;
  const { canvas, context } = screen;
  if (x < 0 || y < 0 || x >= canvas.width || y >= canvas.height) return null;
  const [r, g, b, a] = context.getImageData(x, y, 1, 1).data;
  return a ? [r / 255, g / 255, b / 255] : null;
}

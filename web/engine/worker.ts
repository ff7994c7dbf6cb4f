import { expose } from 'comlink';
import { mostChroma } from '../../core/colour/gamut';
import { createPlanner, type Plan } from '../../core/engine/plan';
import { render8, type KeptGreys, type Tile } from '../../core/engine/render';
import type { Treatment } from '../../core/treatment/schema';
import { TILE, TileSource, sizeAt, type PictureInfo } from './tiles';
import { place, type Size, type View } from './view';

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
  kept: KeptGreys;
  /** The image as something that can be drawn at another size; made when it is needed. */
  canvas?: OffscreenCanvas;
}

const source = new TileSource();
const planner = createPlanner();

/** Rendered tiles kept at most. */
const KEPT = 64;
const rendered = new Map<string, Rendered>();

let canvas: OffscreenCanvas | undefined;
let context: OffscreenCanvasRenderingContext2D | null = null;

const contextOf = (of: OffscreenCanvas) => of.getContext('2d', { willReadFrequently: true })!;

/** Renders a tile, or finds it rendered by the same plan; the count is of pixels rendered anew. */
function renderTile(tile: Tile, place: string, plan: Plan, grey: boolean): [Rendered, number] {
  const known = rendered.get(place);
  if (known?.key === plan.key) return [known, 0];
  const image = known?.image ?? new ImageData(tile.width, tile.height);
  const kept = known?.kept ?? {};
  render8(plan, tile, image.data, 4, { grey, kept });
  const made = { key: plan.key, image, kept };
  rendered.delete(place);
  rendered.set(place, made);
  if (rendered.size > KEPT) rendered.delete(rendered.keys().next().value!);
  return [made, tile.width * tile.height];
}

/** A rendered tile on a canvas of its own, to be drawn larger or smaller. */
function canvasOf(part: Rendered): OffscreenCanvas {
  if (!part.canvas) {
    part.canvas = new OffscreenCanvas(part.image.width, part.image.height);
    contextOf(part.canvas).putImageData(part.image, 0, 0);
  }
  return part.canvas;
}

const engine = {
  /** Takes the canvas that everything is drawn on. */
  attach(target: OffscreenCanvas): void {
    canvas = target;
    context = contextOf(target);
  },

  /** Draws what is asked for; resolves when it is drawn. */
  async show({ picture, treatment, view, viewport, margin, draft }: ShowRequest): Promise<Shown> {
    if (!canvas || !context) throw new Error('no canvas');
    const at = place(picture, viewport, view, margin);
    const size = sizeAt(picture, at.longEdge);
    const zoom = at.width / size.width;

    const first = (edge: number) => Math.max(0, Math.floor(-edge / zoom / TILE));
    const last = (edge: number, room: number, length: number) =>
      Math.min(Math.ceil(length / TILE) - 1, Math.floor((room - edge) / zoom / TILE));
    const wanted: { column: number; row: number }[] = [];
    for (let row = first(at.y); row <= last(at.y, viewport.height, size.height); row++) {
      for (let column = first(at.x); column <= last(at.x, viewport.width, size.width); column++) {
        wanted.push({ column, row });
      }
    }
    const tiles = await Promise.all(wanted.map(w => source.tile(picture, at.longEdge, w.column, w.row)));

    const began = performance.now();
    const pixels = wanted.length * TILE * TILE;
    const plan = planner(treatment, { grey: picture.grey, pixels, draft });
    let count = 0;
    const parts = tiles.map((tile, i) => {
      const where = `${picture.id} ${at.longEdge} ${wanted[i].column} ${wanted[i].row}`;
      const [part, fresh] = renderTile(tile, where, plan, picture.grey);
      count += fresh;
      return { tile, part };
    });

    if (canvas.width !== viewport.width) canvas.width = viewport.width;
    if (canvas.height !== viewport.height) canvas.height = viewport.height;
    context.clearRect(0, 0, viewport.width, viewport.height);
    context.imageSmoothingEnabled = zoom < 1;
    context.imageSmoothingQuality = 'high';
    for (const { tile, part } of parts) {
      const x = at.x + tile.x * zoom;
      const y = at.y + tile.y * zoom;
      if (zoom === 1) context.putImageData(part.image, x, y);
      else context.drawImage(canvasOf(part), x, y, tile.width * zoom, tile.height * zoom);
    }
    return { took: performance.now() - began, pixels: count, fine: plan.fine };
  },

  /** What is drawn at a point of the viewport. */
  read(x: number, y: number): Reading | null {
    if (!context || !canvas || x < 0 || y < 0 || x >= canvas.width || y >= canvas.height) return null;
    const [r, g, b, a] = context.getImageData(x, y, 1, 1).data;
    return a ? [r / 255, g / 255, b / 255] : null;
  },

  /** A small picture of a treatment, cut to fill width by height. */
  async picture(
    picture: PictureInfo,
    treatment: Treatment,
    width: number,
    height: number,
  ): Promise<ImageBitmap> {
    const cover = Math.max(width / picture.width, height / picture.height);
    const longEdge = Math.max(16, Math.min(TILE, Math.ceil(Math.max(picture.width, picture.height) * cover)));
    const tile = await source.tile(picture, longEdge, 0, 0);
    const plan = planner(treatment, { grey: picture.grey, pixels: tile.width * tile.height });
    const image = new ImageData(tile.width, tile.height);
    render8(plan, tile, image.data, 4, { grey: picture.grey });
    const x = Math.max(0, Math.floor((tile.width - width) / 2));
    const y = Math.max(0, Math.floor((tile.height - height) / 2));
    return createImageBitmap(image, x, y, Math.min(width, tile.width), Math.min(height, tile.height));
  },
};

export type Engine = typeof engine;
expose(engine);

// Tables that the first picture would otherwise wait for.
mostChroma(0.5, 0);

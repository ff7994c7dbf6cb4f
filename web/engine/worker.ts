import { expose } from 'comlink';
import { mostChroma } from '../../core/colour/gamut';
import { asPhotographed } from '../../core/engine/crop';
import { framed } from '../../core/engine/framing';
import {
  framedSize,
  geometryOf,
  photographEdge,
  sizeAt,
  sourceOf,
  type Geometry,
  type Rectangle,
} from '../../core/engine/geometry';
import { autoLight } from '../../core/analysis/auto-light';
import { autoResponse } from '../../core/analysis/auto-response';
import { adviceOn, type Advice } from '../../core/analysis/advice';
import { colourAbout } from '../../core/analysis/pull';
import { toneHistogram } from '../../core/analysis/histogram';
import { lostShares, markColoured, markLost } from '../../core/kernels/clipping';
import { createPlanner, type Plan } from '../../core/engine/plan';
import { render8, withMargin, type Kept, type Tile } from '../../core/engine/render';
import type { Surveys } from '../../core/engine/run';
import { writeGreyPng } from '../../core/masks/grey-png';
import { showingArea } from '../../core/treatment/areas';
import { createSurveyor, surveyEdge } from '../../core/engine/survey';
import type { Treatment } from '../../core/treatment/schema';
import { TILE, TileSource, type PictureInfo } from './tiles';
import { place, printOf, type Size, type View } from './view';

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

/** The tones of a picture: how many pixels in each even step, and the shares that are lost. */
export interface Histogram {
  counts: number[];
  black: number;
  white: number;
}

interface Rendered {
  key: string;
  image: ImageData;
  kept: Kept;
  /** The image as something that can be drawn at another size; made when it is needed. */
  canvas?: OffscreenCanvas;
}

const source = new TileSource();
const planner = createPlanner();

/** Rendered tiles kept at most. */
const KEPT = 64;
const rendered = new Map<string, Rendered>();

/** A photograph in its frame at one size. */
interface Framed {
  picture: PictureInfo;
  /** The photograph's long edge, in pixels. */
  edge: number;
  geometry: Geometry;
  /** Equal names mean equal pixels. */
  name: string;
}

function framedAt(picture: PictureInfo, treatment: Treatment, longEdge: number): Framed {
  const { frame } = treatment;
  const edge = photographEdge(picture, frame, longEdge);
  const geometry = geometryOf(sizeAt(picture, edge), frame);
  const name = `${picture.id} ${edge} ${geometry.untouched ? '' : JSON.stringify(frame)}`;
  return { picture, edge, geometry, name };
}

/** Pixels of a part of the framed picture. */
async function pixelsOf({ picture, edge, geometry }: Framed, part: Rectangle): Promise<Tile> {
  return framed(await source.rectangle(picture, edge, sourceOf(geometry, part)), geometry, part);
}

/** Input tiles kept at most. */
const INPUTS = 96;
const inputs = new Map<string, Promise<Tile>>();

/** The same, kept: a control that moves asks for the same parts again and again. */
function keptPixels(of: Framed, part: Rectangle): Promise<Tile> {
  const key = `${of.name} ${part.x} ${part.y} ${part.width} ${part.height}`;
  const known = inputs.get(key) ?? pixelsOf(of, part);
  inputs.delete(key);
  inputs.set(key, known);
  known.catch(() => inputs.delete(key));
  if (inputs.size > INPUTS) inputs.delete(inputs.keys().next().value!);
  return known;
}

/** Surveyors kept at most: of the large picture, and of small ones. */
const SURVEYORS = 4;
const surveyors = new Map<string, Promise<(plan: Plan) => Surveys>>();

/** What a plan's passes find in the whole picture; nothing where they do not look. */
async function surveysOf(plan: Plan, of: Framed, treatment: Treatment): Promise<Surveys> {
  if (!plan.surveyed) return [];
  const edge = surveyEdge(of.edge);
  const geometry = geometryOf(sizeAt(of.picture, edge), treatment.frame);
  const whole = { picture: of.picture, edge, geometry, name: `${of.name} survey ${edge}` };
  let surveyor = surveyors.get(whole.name);
  if (!surveyor) {
    const all = { x: 0, y: 0, width: geometry.width, height: geometry.height };
    surveyor = pixelsOf(whole, all).then(tile => createSurveyor(tile.codes, geometry));
    surveyor.catch(() => surveyors.delete(whole.name));
  }
  surveyors.delete(whole.name);
  surveyors.set(whole.name, surveyor);
  if (surveyors.size > SURVEYORS) surveyors.delete(surveyors.keys().next().value!);
  return (await surveyor)(plan);
}

let canvas: OffscreenCanvas | undefined;
let context: OffscreenCanvasRenderingContext2D | null = null;

const contextOf = (of: OffscreenCanvas) => of.getContext('2d', { willReadFrequently: true })!;

/** Renders a part, or finds it rendered by the same plan; the count is of pixels rendered anew. */
function renderPart(
  of: Framed,
  tile: Tile,
  part: Rectangle,
  plan: Plan,
  surveys: Surveys,
): [Rendered, number] {
  const place = `${of.name} ${part.x} ${part.y}`;
  const known = rendered.get(place);
  if (known?.key === plan.key) return [known, 0];
  const image = known?.image ?? new ImageData(part.width, part.height);
  const kept = known?.kept ?? {};
  const { grey } = of.picture;
  render8(plan, tile, image.data, 4, { grey, geometry: of.geometry, surveys, part, kept });
  const made = { key: plan.key, image, kept };
  rendered.delete(place);
  rendered.set(place, made);
  if (rendered.size > KEPT) rendered.delete(rendered.keys().next().value!);
  return [made, part.width * part.height];
}

/** A rendered tile on a canvas of its own, to be drawn larger or smaller. */
function canvasOf(part: Rendered): OffscreenCanvas {
  if (!part.canvas) {
    part.canvas = new OffscreenCanvas(part.image.width, part.image.height);
    contextOf(part.canvas).putImageData(part.image, 0, 0);
  }
  return part.canvas;
}

/** A small picture of a treatment, whole. */
async function smallImage(picture: PictureInfo, treatment: Treatment, longEdge: number): Promise<ImageData> {
  const of = framedAt(picture, treatment, Math.max(16, Math.min(TILE, longEdge)));
  const { geometry } = of;
  const tile = await keptPixels(of, { x: 0, y: 0, width: geometry.width, height: geometry.height });
  const { grey } = picture;
  const plan = planner(treatment, { grey, pixels: tile.width * tile.height });
  const surveys = await surveysOf(plan, of, treatment);
  const image = new ImageData(tile.width, tile.height);
  render8(plan, tile, image.data, 4, { grey, geometry, surveys });
  return image;
}

/** The longest edge of an area that is written as a picture. */
const LARGEST_AREA = 4096;

/** Edge of the small pictures that the automatics look at. */
const LOOKED_AT = 320;

/** The same as codes of three numbers a pixel. */
async function smallCodes(picture: PictureInfo, treatment: Treatment): Promise<Uint8Array> {
  const { data } = await smallImage(picture, treatment, LOOKED_AT);
  const codes = new Uint8Array((data.length / 4) * 3);
  for (let i = 0, o = 0; i < data.length; i += 4) {
    codes[o++] = data[i];
    codes[o++] = data[i + 1];
    codes[o++] = data[i + 2];
  }
  return codes;
}

const engine = {
  /** Takes the canvas that everything is drawn on. */
  attach(target: OffscreenCanvas): void {
    canvas = target;
    context = contextOf(target);
  },

  /** Draws what is asked for; resolves when it is drawn. */
  async show({ picture, treatment, view, viewport, margin, marking, draft }: ShowRequest): Promise<Shown> {
    if (!canvas || !context) throw new Error('no canvas');
    const at = place(printOf(picture, treatment.frame), viewport, view, margin);
    const of = framedAt(picture, treatment, at.longEdge);
    const { geometry } = of;
    const zoom = at.width / geometry.width;

    const first = (edge: number) => Math.max(0, Math.floor(-edge / zoom / TILE));
    const last = (edge: number, room: number, length: number) =>
      Math.min(Math.ceil(length / TILE) - 1, Math.floor((room - edge) / zoom / TILE));
    const parts: Rectangle[] = [];
    for (let row = first(at.y); row <= last(at.y, viewport.height, geometry.height); row++) {
      for (let column = first(at.x); column <= last(at.x, viewport.width, geometry.width); column++) {
        const x = column * TILE;
        const y = row * TILE;
        parts.push({
          x,
          y,
          width: Math.min(TILE, geometry.width - x),
          height: Math.min(TILE, geometry.height - y),
        });
      }
    }
    const began = performance.now();
    const pixels = parts.length * TILE * TILE;
    const plan = planner(treatment, { grey: picture.grey, pixels, draft });
    const planned = performance.now() - began;
    const [surveys, ...tiles] = await Promise.all([
      surveysOf(plan, of, treatment),
      ...parts.map(part => keptPixels(of, withMargin(plan, part, geometry))),
    ]);

    const resumed = performance.now();
    let count = 0;
    const drawn = parts.map((part, i) => {
      const [made, fresh] = renderPart(of, tiles[i], part, plan, surveys);
      count += fresh;
      return { part, made };
    });

    if (canvas.width !== viewport.width) canvas.width = viewport.width;
    if (canvas.height !== viewport.height) canvas.height = viewport.height;
    context.clearRect(0, 0, viewport.width, viewport.height);
    context.imageSmoothingEnabled = zoom < 1;
    context.imageSmoothingQuality = 'high';
    for (const { part, made } of drawn) {
      const x = at.x + part.x * zoom;
      const y = at.y + part.y * zoom;
      if (zoom === 1) context.putImageData(made.image, x, y);
      else context.drawImage(canvasOf(made), x, y, part.width * zoom, part.height * zoom);
    }
    if (marking) {
      const all = context.getImageData(0, 0, viewport.width, viewport.height);
      if (marking === 'lost') markLost(all.data);
      else markColoured(all.data);
      context.putImageData(all, 0, 0);
    }
    return { took: planned + performance.now() - resumed, pixels: count, fine: plan.fine };
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
    const size = framedSize(picture, treatment.frame);
    const cover = Math.max(width / size.width, height / size.height);
    const longEdge = Math.ceil(Math.max(size.width, size.height) * cover);
    const image = await smallImage(picture, treatment, longEdge);
    const x = Math.max(0, Math.floor((image.width - width) / 2));
    const y = Math.max(0, Math.floor((image.height - height) / 2));
    return createImageBitmap(image, x, y, Math.min(width, image.width), Math.min(height, image.height));
  },

  /** How many pixels have each of 64 tones in a treatment of a picture. */
  async tones(picture: PictureInfo, treatment: Treatment): Promise<number[]> {
    return toneHistogram((await smallImage(picture, treatment, LOOKED_AT)).data, 4, 64);
  },

  /** The tones of a treatment, and what is lost at the ends. */
  async histogram(picture: PictureInfo, treatment: Treatment): Promise<Histogram> {
    const { data } = await smallImage(picture, treatment, LOOKED_AT);
    return { counts: toneHistogram(data, 4, 64), ...lostShares(data) };
  },

  /** The colour of a treatment at a place (fractions of the framed picture), about a few pixels: encoded, 0..1. */
  async colourAt(picture: PictureInfo, treatment: Treatment, x: number, y: number): Promise<Reading> {
    const image = await smallImage(picture, treatment, TILE);
    const left = Math.min(Math.max(0, Math.floor(x * image.width) - 2), Math.max(0, image.width - 5));
    const top = Math.min(Math.max(0, Math.floor(y * image.height) - 2), Math.max(0, image.height - 5));
    const side = (from: number, length: number) => Math.min(5, length - from);
    const [width, height] = [side(left, image.width), side(top, image.height)];
    const about = new Uint8ClampedArray(width * height * 4);
    for (let row = 0; row < height; row++) {
      const from = ((top + row) * image.width + left) * 4;
      about.set(image.data.subarray(from, from + width * 4), row * width * 4);
    }
    return colourAbout(about, 4);
  },

  /** A part of the picture at 1:1 about a place (fractions of the framed picture). */
  async loupe(
    picture: PictureInfo,
    treatment: Treatment,
    x: number,
    y: number,
    width: number,
    height: number,
  ): Promise<ImageBitmap> {
    const size = framedSize(picture, treatment.frame);
    const of = framedAt(picture, treatment, Math.max(size.width, size.height));
    const { geometry } = of;
    const from = (place: number, room: number, length: number) =>
      Math.round(Math.min(Math.max(0, place * length - room / 2), Math.max(0, length - room)));
    const part = {
      x: from(x, width, geometry.width),
      y: from(y, height, geometry.height),
      width: Math.min(width, geometry.width),
      height: Math.min(height, geometry.height),
    };
    const { grey } = picture;
    const plan = planner(treatment, { grey, pixels: part.width * part.height });
    const [surveys, tile] = await Promise.all([
      surveysOf(plan, of, treatment),
      pixelsOf(of, withMargin(plan, part, geometry)),
    ]);
    const image = new ImageData(part.width, part.height);
    render8(plan, tile, image.data, 4, { grey, geometry, surveys, part });
    return createImageBitmap(image);
  },

  /**
   * An area of a treatment alone, over the whole photograph without its frame, as a grey PNG of 8 bits: white where it
   * covers, at the photograph's size up to a long edge of 4096.
   */
  async areaPng(picture: PictureInfo, treatment: Treatment, area: string): Promise<Uint8Array> {
    const shown = showingArea({ ...treatment, frame: asPhotographed }, area, 'grey', '#ffffff');
    const of = framedAt(picture, shown, Math.min(LARGEST_AREA, Math.max(picture.width, picture.height)));
    const { width, height } = of.geometry;
    const { grey } = picture;
    const plan = planner(shown, { grey, pixels: width * height });
    const surveys = await surveysOf(plan, of, shown);
    const values = new Uint8Array(width * height);
    for (let y = 0; y < height; y += TILE) {
      for (let x = 0; x < width; x += TILE) {
        const part = { x, y, width: Math.min(TILE, width - x), height: Math.min(TILE, height - y) };
        const tile = await pixelsOf(of, withMargin(plan, part, of.geometry));
        const image = new ImageData(part.width, part.height);
        render8(plan, tile, image.data, 4, { grey, geometry: of.geometry, surveys, part });
        for (let row = 0; row < part.height; row++) {
          const from = row * part.width;
          const to = (y + row) * width + x;
          for (let i = 0; i < part.width; i++) values[to + i] = image.data[(from + i) * 4];
        }
      }
    }
    return writeGreyPng(values, width, height);
  },

  /** What the picture says about a step. */
  async advice(picture: PictureInfo, treatment: Treatment, stepId: string): Promise<Advice[]> {
    const at = treatment.steps.findIndex(s => s.id === stepId);
    if (at < 0) return [];
    const upTo = (count: number) =>
      smallImage(picture, { ...treatment, strength: 1, steps: treatment.steps.slice(0, count) }, LOOKED_AT);
    const [before, after] = [await upTo(at), await upTo(at + 1)];
    return adviceOn(treatment.steps[at], before.data, after.data, 4);
  },

  /** The response to hue families that keeps apart in grey what colour keeps apart, beneath a mono step. */
  async autoResponse(picture: PictureInfo, beneath: Treatment) {
    return autoResponse(await smallCodes(picture, beneath));
  },

  /** A first setting of light from the picture's tones, beneath a light step. */
  async autoLight(picture: PictureInfo, beneath: Treatment) {
    return autoLight(await smallCodes(picture, beneath));
  },
};

export type Engine = typeof engine;
expose(engine);

// Tables that the first picture would otherwise wait for.
mostChroma(0.5, 0);

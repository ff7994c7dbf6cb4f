import { adviceOn, isSpokenOf, judgedNatural, type Advice, type Seen } from '../../core/analysis/advice';
import { naturalPart } from './full';
import { areaTones, type AreaTones } from '../../core/analysis/area-tones';
import { firstMoves, type FirstMove } from '../../core/analysis/first-moves';
import { movesBetween, type Moves } from '../../core/analysis/moved';
import { readPicture, type PictureReading, type Pixels } from '../../core/analysis/reading';
import { readFacts, type Facts } from '../../core/methods/facts';
import { toneHistogram } from '../../core/analysis/histogram';
import { toneDrift, type ToneBin } from '../../core/analysis/tone-drift';
import { colourAbout } from '../../core/steps/pull';
import { stepKind, type Kind } from '../../core/steps';
import type { Found } from '../../core/steps/define';
import { framedSize } from '../../core/frame/geometry';
import { render16, render8 } from '../../core/engine/render';
import { createSurveyor, type Surveyor } from '../../core/engine/survey';
import type { Tile } from '../../core/frame/framing';
import { inTwo } from '../../core/treatment/in-two';
import { lostShares } from '../../core/kernels/clipping';
import { beneathStep, withStep } from '../../core/treatment/beneath';
import { showingArea } from '../../core/treatment/areas';
import type { Treatment } from '../../core/treatment/treatment';
import { atHand } from './at-hand';
import { framedAt, type Framed } from './levels';
import { keptPixels, planner, surveysOf } from './pixels';
import type { Reading } from './surface';
import { TILE } from '../../contract/limits';
import type { PictureInfo } from './tiles';

/** Small pictures of treatments, and what is read from them. */

/** The tones of a picture: how many pixels in each even step, and the shares that are lost. */
export interface Histogram {
  counts: number[];
  black: number;
  white: number;
}

/**
 * A small picture of a treatment, whole.
 * @param draft its tables are coarse, which a picture as small as a stamp does not show
 */
async function smallImage(
  picture: PictureInfo,
  treatment: Treatment,
  longEdge: number,
  draft = false,
): Promise<ImageData> {
  await atHand(treatment);
  const of = framedAt(picture, treatment.frame, Math.max(16, Math.min(TILE, longEdge)));
  const { geometry } = of;
  const tile = await keptPixels(of, { x: 0, y: 0, width: geometry.width, height: geometry.height });
  const { grey } = picture;
  const plan = planner(treatment, { grey, pixels: tile.width * tile.height, draft });
  const surveys = await surveysOf(plan, of, treatment);
  const image = new ImageData(tile.width, tile.height);
  render8(plan, tile, image.data, 4, { grey, geometry, surveys });
  return image;
}

/** Small pictures after the first steps of treatments, kept: many treatments go on from the same. */
interface After {
  tile: Tile;
  grey: boolean;
  look: Surveyor;
}
const after = new Map<string, Promise<After>>();
const MOST_AFTER = 4;

async function afterFirst(of: Framed, first: Treatment): Promise<After> {
  const { geometry, picture } = of;
  const tile = await keptPixels(of, { x: 0, y: 0, width: geometry.width, height: geometry.height });
  const plan = planner(first, { grey: picture.grey, pixels: tile.width * tile.height, draft: true });
  const surveys = await surveysOf(plan, of, first);
  const codes = new Uint16Array(tile.width * tile.height * 3);
  render16(plan, tile, codes, { grey: picture.grey, geometry, surveys });
  let grey = true;
  for (let i = 0; grey && i < codes.length; i += 3)
    grey = codes[i] === codes[i + 1] && codes[i] === codes[i + 2];
  return { tile: { ...tile, codes }, grey, look: createSurveyor(codes, geometry) };
}

/** A small picture as coarse as a draft, from what its first steps give, which is kept. */
async function smallFrom(
  picture: PictureInfo,
  { first, rest }: { first: Treatment; rest: Treatment },
  longEdge: number,
): Promise<ImageData> {
  await atHand(first);
  await atHand(rest);
  const of = framedAt(picture, rest.frame, Math.max(16, Math.min(TILE, longEdge)));
  const key = JSON.stringify([of.name, first]);
  const made = after.get(key) ?? afterFirst(of, first);
  made.catch(() => after.delete(key));
  after.delete(key);
  after.set(key, made);
  if (after.size > MOST_AFTER) after.delete(after.keys().next().value!);
  const { tile, grey, look } = await made;
  const plan = planner(rest, { grey, pixels: tile.width * tile.height, draft: true });
  const image = new ImageData(tile.width, tile.height);
  const surveys = plan.surveyed ? look(plan) : [];
  render8(plan, tile, image.data, 4, { grey, geometry: of.geometry, surveys });
  return image;
}

/** Edge of the small pictures that the automatics look at. */
const LOOKED_AT = 320;

/** The same as codes of three numbers a pixel. */
async function smallPixels(picture: PictureInfo, treatment: Treatment): Promise<Pixels> {
  const { data, width, height } = await smallImage(picture, treatment, LOOKED_AT);
  const codes = new Uint8Array((data.length / 4) * 3);
  for (let i = 0, o = 0; i < data.length; i += 4) {
    codes[o++] = data[i];
    codes[o++] = data[i + 1];
    codes[o++] = data[i + 2];
  }
  return { codes, width, height };
}

/** What there is to be read from a treatment of a picture, and what methods take from it. */
export async function reading(
  picture: PictureInfo,
  treatment: Treatment,
): Promise<{ reading: PictureReading; facts: Facts }> {
  const seen = await smallPixels(picture, treatment);
  const bare = treatment.steps.length
    ? await smallPixels(picture, { ...treatment, steps: [], groups: [] })
    : seen;
  const { geometry } = framedAt(picture, treatment.frame, Math.max(seen.width, seen.height));
  return readFacts(seen, bare, geometry);
}

/** What a picture is as it is seen: its tones, and the colours that it shows now. */
export async function seenAs(picture: PictureInfo, treatment: Treatment): Promise<PictureReading> {
  const seen = await smallPixels(picture, treatment);
  return readPicture(seen, seen);
}

/** How the tones of a picture move from one treatment to another. */
export async function moves(picture: PictureInfo, before: Treatment, after: Treatment): Promise<Moves> {
  const [was, is] = [await smallPixels(picture, before), await smallPixels(picture, after)];
  return movesBetween(was.codes, is.codes);
}

/** What to begin with on a bare photograph, each set for it. */
export const beginnings = async (picture: PictureInfo, bare: Treatment): Promise<FirstMove[]> =>
  firstMoves(bare, await smallPixels(picture, bare));

/** A picture of fewer pixels is looked at, not judged. */
const STAMP = 20_000;

/**
 * A small picture of a treatment, cut to fill width by height.
 * @param shared how many of its first steps other pictures that are asked for have as well
 */
export async function picture(
  picture: PictureInfo,
  treatment: Treatment,
  width: number,
  height: number,
  shared = 0,
): Promise<ImageBitmap> {
  const size = framedSize(picture, treatment.frame);
  const cover = Math.max(width / size.width, height / size.height);
  const longEdge = Math.ceil(Math.max(size.width, size.height) * cover);
  const isStamp = width * height < STAMP;
  const parts = isStamp ? inTwo(treatment, shared) : null;
  const image = parts
    ? await smallFrom(picture, parts, longEdge)
    : await smallImage(picture, treatment, longEdge, isStamp);
  const x = Math.max(0, Math.floor((image.width - width) / 2));
  const y = Math.max(0, Math.floor((image.height - height) / 2));
  return createImageBitmap(image, x, y, Math.min(width, image.width), Math.min(height, image.height));
}

/** How many pixels have each of 64 tones in a treatment of a picture. */
export async function tones(picture: PictureInfo, treatment: Treatment): Promise<number[]> {
  return toneHistogram((await smallImage(picture, treatment, LOOKED_AT)).data, 4, 64);
}

/** What the area of a step holds: the tones beneath the step, and the photograph's own colour; null where it covers nothing. */
export async function areaLook(
  picture: PictureInfo,
  treatment: Treatment,
  stepId: string,
): Promise<AreaTones | null> {
  const step = treatment.steps.find(s => s.id === stepId);
  if (!step?.mask) return null;
  const of = (made: Treatment) => smallImage(picture, made, LOOKED_AT);
  const [cover, beneath, bare] = await Promise.all([
    of(showingArea(treatment, step.mask, 'grey', '#ffffff')),
    of(beneathStep(treatment, stepId)),
    of({ ...treatment, steps: [] }),
  ]);
  return areaTones(cover.data, beneath.data, bare.data, picture.grey);
}

/** The tones of a treatment, and what is lost at the ends. */
export async function histogram(picture: PictureInfo, treatment: Treatment): Promise<Histogram> {
  const { data } = await smallImage(picture, treatment, LOOKED_AT);
  return { counts: toneHistogram(data, 4, 64), ...lostShares(data) };
}

/** A part of the framed picture, in fractions of it. */
export interface Region {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** What is charted of a picture: its tones, in all and by channel, and its colours from dark to light. */
export interface Charted {
  luma: number[];
  channels: [number[], number[], number[]];
  drift: ToneBin[];
}

/** Even steps from black to white in charts of tones, and of colours. */
const CHART_BINS = 64;
const DRIFT_BINS = 20;

/** The charts of a treatment, of all of it or of a region. */
export async function charts(
  picture: PictureInfo,
  treatment: Treatment,
  region: Region | null,
): Promise<Charted> {
  // A region is looked at as large as it can be.
  const image = await smallImage(picture, treatment, region ? TILE : LOOKED_AT);
  const data = region ? cutTo(image, region) : image.data;
  const channel = (k: 0 | 1 | 2) => toneHistogram(data, 4, CHART_BINS, k);
  return {
    luma: toneHistogram(data, 4, CHART_BINS),
    channels: [channel(0), channel(1), channel(2)],
    drift: toneDrift(data, 4, DRIFT_BINS),
  };
}

/** The pixels of a region, one at least. */
function cutTo({ data, width, height }: ImageData, region: Region): Uint8ClampedArray {
  const left = Math.min(width - 1, Math.max(0, Math.floor(region.x * width)));
  const top = Math.min(height - 1, Math.max(0, Math.floor(region.y * height)));
  const right = Math.min(width, Math.max(left + 1, Math.ceil((region.x + region.width) * width)));
  const bottom = Math.min(height, Math.max(top + 1, Math.ceil((region.y + region.height) * height)));
  const out = new Uint8ClampedArray((right - left) * (bottom - top) * 4);
  for (let y = top; y < bottom; y++) {
    out.set(data.subarray((y * width + left) * 4, (y * width + right) * 4), (y - top) * (right - left) * 4);
  }
  return out;
}

/** The colour of a treatment at a place (fractions of the framed picture), about a few pixels: encoded, 0..1. */
export async function colourAt(
  picture: PictureInfo,
  treatment: Treatment,
  x: number,
  y: number,
): Promise<Reading> {
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
}

/** Places (fractions) at which a step is judged at its natural size, and the side of each in pixels. */
const PATCHES = [
  [0.3, 0.3],
  [0.7, 0.3],
  [0.5, 0.5],
  [0.3, 0.7],
  [0.7, 0.7],
] as const;
const PATCH = 96;

/** What the picture says about a step. */
export async function advice(picture: PictureInfo, treatment: Treatment, stepId: string): Promise<Advice[]> {
  const at = treatment.steps.findIndex(s => s.id === stepId);
  if (at < 0 || !isSpokenOf(treatment.steps[at], treatment)) return [];
  const beneath = beneathStep(treatment, stepId);
  const laid = withStep(treatment, treatment.steps[at]);
  const seen = async (shown: (of: Treatment) => Promise<ImageData>): Promise<Seen> => {
    const [before, after] = [await shown(beneath), await shown(laid)];
    return { before: before.data, after: after.data, stride: 4 };
  };
  const small = await seen(of => smallImage(picture, of, LOOKED_AT));
  const natural: Seen[] = [];
  if (judgedNatural(treatment.steps[at])) {
    for (const [x, y] of PATCHES) {
      natural.push(await seen(of => naturalPart(picture, of, x, y, PATCH, PATCH)));
    }
  }
  return adviceOn(treatment, stepId, small, natural);
}

/** What a step of a kind finds by itself in the picture beneath it: settings to be changed. */
export async function automatic(
  picture: PictureInfo,
  beneath: Treatment,
  kind: Kind,
): Promise<Found<object>> {
  const offer = stepKind(kind)?.automatic;
  if (!offer) throw new RangeError(`${kind} finds nothing by itself`);
  return offer.find((await smallPixels(picture, beneath)).codes);
}

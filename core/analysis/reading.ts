import { FAMILIES, familyNames, hueSixths, type Family } from '../colour/hues';
import { luma, toHex } from '../colour/srgb';
import type { Geometry } from '../frame/geometry';
import { placeOf, type Place } from './place';
import { blobOf, type Blob } from './blob';

/** What there is to be said of a picture: how its tones lie, what is solid black, what has a colour, how fine its contrast is. */

export const bands = ['darks', 'middles', 'lights'] as const;
export type Band = (typeof bands)[number];
/** Luma codes of 255 below which a band ends. */
const ENDS: Record<Band, number> = { darks: 85, middles: 160, lights: 256 };

/** The band that a luma, of 255, lies in. */
export const bandOf = (tone: number): Band =>
  tone < ENDS.darks ? 'darks' : tone < ENDS.middles ? 'middles' : 'lights';

export interface BandRead {
  /** Of the picture, 0..1. */
  share: number;
  place: Place | null;
}

/** A family of hues that is noticed in the photograph. */
export interface Thing {
  family: Family;
  /** Of the picture, 0..1. */
  share: number;
  /** Its mean hue in degrees, as HSL has it. */
  hue: number;
  colour: string;
  /** Its largest less its smallest channel in the mean, 0..1. */
  vivid: number;
  place: Place | null;
  /** Where most of it lies together, on the photograph; null where it is nearly everywhere. */
  blob: Blob | null;
}

export interface PictureReading {
  /** The photograph has no colour. */
  grey: boolean;
  tones: Record<Band, BandRead>;
  /** The shares of solid black and of pure white. */
  black: number;
  white: number;
  /** Luma, 0..1, at the first hundredth of the pixels, at half and at the last hundredth. */
  low: number;
  middle: number;
  high: number;
  /** How far tones lie apart (the standard deviation of luma, 0..1) within an eighth, a thirtieth and a hundredth of the long edge. */
  contrast: { coarse: number; medium: number; fine: number };
  /** What has a colour in the bare photograph, the most noticed first. */
  things: Thing[];
}

/** Luma codes up to which a pixel is solid black, and from which it is pure white. */
const SOLID = 3;
const PURE = 252;

/** A pixel whose channels are nearer to one another has no colour to be named. */
export const COLOURED = 0.12;
/** A colour on less of the picture than this is not what the picture is of. */
const LEAST_SHARE = 0.004;
/** Of a thing that is tinted: how vivid it must be, and how near to that a pixel is to belong to it. */
const LEAST_VIVID = 0.16;
export const NEAR = 0.6;
/** In the darks colour is noise. */
const DARKEST = 0.15;

const away = (a: number, b: number) => Math.abs(((a - b + 540) % 360) - 180);

/** 8-bit RGB codes, three a pixel, in rows, of a small picture. */
export interface Pixels {
  codes: Uint8Array;
  width: number;
  height: number;
}

/** Codes of 255 by which channels of a grey may differ, as after compression, and the share of pixels that may differ by more. */
const NEUTRAL = 5;
const STRAY = 0.001;

/** Whether a picture has no colour: also one that is stored in three channels. */
export function isGrey({ codes }: Pick<Pixels, 'codes'>): boolean {
  let coloured = 0;
  for (let i = 0; i < codes.length; i += 3) {
    const [r, g, b] = [codes[i], codes[i + 1], codes[i + 2]];
    if (Math.max(r, g, b) - Math.min(r, g, b) > NEUTRAL) coloured++;
  }
  return coloured * 3 <= STRAY * codes.length;
}

/** The hue of each pixel in degrees; −1 where it has none to be named. And how vivid it is. */
function huesOf({ codes, width, height }: Pixels): { hues: Float32Array; spans: Float32Array } {
  const hues = new Float32Array(width * height).fill(-1);
  const spans = new Float32Array(width * height);
  for (let i = 0, p = 0; p < hues.length; i += 3, p++) {
    const [r, g, b] = [codes[i] / 255, codes[i + 1] / 255, codes[i + 2] / 255];
    const most = Math.max(r, g, b);
    const span = most - Math.min(r, g, b);
    spans[p] = span;
    if (span >= COLOURED && most >= DARKEST) hues[p] = hueSixths(r, g, b, most, span) * 60;
  }
  return { hues, spans };
}

const nearestFamily = (hue: number) =>
  familyNames.reduce((best, name) => (away(hue, FAMILIES[name]) < away(hue, FAMILIES[best]) ? name : best));

/**
 * The colours that are noticed in a picture, the most noticed first, where its pixels are weighed by how vivid they are: vivid things
 * come before large dull ones. None where it has none.
 * @param geometry how the pixels lie on the photograph
 */
export function coloursOf(pixels: Pixels, geometry?: Geometry): Thing[] {
  const { codes, width, height } = pixels;
  const { hues, spans } = huesOf(pixels);
  const sums = familyNames.map(() => ({ weight: 0, span: 0, count: 0, r: 0, g: 0, b: 0, x: 0, y: 0 }));
  for (let p = 0; p < hues.length; p++) {
    if (hues[p] < 0) continue;
    const sum = sums[familyNames.indexOf(nearestFamily(hues[p]))];
    const weight = spans[p];
    sum.weight += weight;
    sum.span += spans[p] * weight;
    sum.count++;
    sum.r += (codes[p * 3] / 255) * weight;
    sum.g += (codes[p * 3 + 1] / 255) * weight;
    sum.b += (codes[p * 3 + 2] / 255) * weight;
    sum.x += Math.cos((hues[p] * Math.PI) / 180) * weight;
    sum.y += Math.sin((hues[p] * Math.PI) / 180) * weight;
  }
  const vividOf = ({ span, weight }: { span: number; weight: number }) => span / weight;
  const noticed = (sum: (typeof sums)[number]) => vividOf(sum) ** 2 * Math.sqrt(sum.count);
  return sums
    .map((sum, i) => ({ sum, family: familyNames[i] }))
    .filter(({ sum }) => sum.count > LEAST_SHARE * hues.length && vividOf(sum) > LEAST_VIVID)
    .toSorted((a, b) => noticed(b.sum) - noticed(a.sum))
    .map(({ sum, family }): Thing => {
      const hue = (Math.round((Math.atan2(sum.y, sum.x) * 180) / Math.PI) + 360) % 360;
      const vivid = vividOf(sum);
      const belongs = (p: number) =>
        hues[p] >= 0 && away(hues[p], hue) < 25 && spans[p] > NEAR * vivid ? spans[p] : 0;
      return {
        family,
        share: sum.count / hues.length,
        hue,
        colour: toHex(sum.r / sum.weight, sum.g / sum.weight, sum.b / sum.weight),
        vivid,
        place: placeOf(belongs, width, height),
        blob: blobOf(belongs, width, height, geometry),
      };
    });
}

/** The standard deviation of luma from its mean over squares of a side, 0..1. */
function apartWithin(lumas: Float32Array, width: number, height: number, side: number): number {
  let [sum, count] = [0, 0];
  for (let top = 0; top + side <= height; top += side) {
    for (let left = 0; left + side <= width; left += side) {
      let [mean, squares] = [0, 0];
      for (let y = top; y < top + side; y++) {
        for (let x = left; x < left + side; x++) {
          const v = lumas[y * width + x];
          mean += v;
          squares += v * v;
        }
      }
      mean /= side * side;
      sum += Math.max(0, squares / (side * side) - mean * mean);
      count++;
    }
  }
  return count ? Math.sqrt(sum / count) / 255 : 0;
}

/**
 * Reads a picture.
 * @param seen the picture as it is now
 * @param bare the photograph before any step, of the same size
 * @param geometry how the pixels lie on the photograph
 */
export function readPicture(seen: Pixels, bare: Pixels, geometry?: Geometry): PictureReading {
  const grey = isGrey(bare);
  const { codes, width, height } = seen;
  const count = width * height;
  const lumas = new Float32Array(count);
  for (let i = 0, p = 0; p < count; i += 3, p++) lumas[p] = luma(codes[i], codes[i + 1], codes[i + 2]);
  const sorted = lumas.toSorted();
  const at = (share: number) => sorted[Math.min(count - 1, Math.floor(share * count))] / 255;
  const share = (test: (v: number) => boolean) => lumas.reduce((n, v) => n + (test(v) ? 1 : 0), 0) / count;
  const long = Math.max(width, height);
  const side = (part: number) => Math.max(2, Math.min(width, height, Math.round(long / part)));
  const tones = {} as Record<Band, BandRead>;
  for (const band of bands) {
    tones[band] = {
      share: share(v => bandOf(v) === band),
      place: placeOf(p => (bandOf(lumas[p]) === band ? 1 : 0), width, height),
    };
  }
  return {
    grey,
    tones,
    black: share(v => v <= SOLID),
    white: share(v => v >= PURE),
    low: at(0.01),
    middle: at(0.5),
    high: at(0.99),
    contrast: {
      coarse: apartWithin(lumas, width, height, side(8)),
      medium: apartWithin(lumas, width, height, side(30)),
      fine: apartWithin(lumas, width, height, side(100)),
    },
    things: grey ? [] : coloursOf(bare, geometry),
  };
}

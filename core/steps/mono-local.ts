import { rgbToOklab } from '../colour/oklab';
import { LUMINANCE } from '../colour/srgb';
import { toEncoded, toLinear } from '../colour/transfer';
import { guided, type Guided } from '../kernels/guided';
import { boxMean, planeOf, readPlane, type Plane } from '../kernels/planes';
import type { Field, Region } from './define';

/**
 * A conversion that keeps apart colours of equal luminance. To each pixel's luminance (as the OKLab lightness of that grey)
 * it adds how far its colour stands from the mean colour of the picture, and from that of its window, each along the
 * direction in which the colours there differ most while their lightness does not: the first principal axis of their
 * chroma differences. The side of an axis that is lighter already becomes lighter still, so that no two colours come
 * nearer; where that says nothing, warm is light.
 */

interface LocalSettings {
  /** Of the window, as a fraction of the long edge. */
  radius: number;
  /** 0..1 */
  amount: number;
  /** How much of the colour's finest detail (its noise included) takes part, 0..1. */
  grain: number;
}

interface Survey {
  /** The whole picture's mean colour and axis. */
  whole: { a: number; b: number; x: number; y: number };
  meanA: Plane;
  meanB: Plane;
  axisA: Plane;
  axisB: Plane;
  smoothA: Guided;
  smoothB: Guided;
}

/** Lightness difference (OKLab) at which a colour difference counts half for the direction. */
const SAME_LIGHTNESS = 0.03;
/** The whole picture's say in each window's direction. */
const STEADY = 0.15;
/** Lightness added for a chroma difference of one, at amount 1: from the whole picture's colour, from the window's. */
const GAIN_WHOLE = 1.5;
const GAIN_WINDOW = 1.2;
/** Chroma contrast above this is gathered in softly. */
const LIMIT = 0.8;
/** What grain 1 multiplies the finest detail of colour by. */
const GRAIN = 2;
/** Pairs of pixels that the whole picture's axis is found from. */
const PAIRS = 20_000;
/** A covariance of lightness and chroma, as a share of the chroma's own, that says which side is the light one. */
const TELLING = 0.05;
/** Edge-keeping smoothing of the chroma: window as a fraction of the long edge, variance that counts as flat. */
const SMOOTH_RADIUS = 0.003;
const SMOOTH_EPSILON = 0.0004;

/** Y of an encoded colour, not below none. */
const luminanceOf = (c: ArrayLike<number>): number =>
  Math.max(0, LUMINANCE[0] * toLinear(c[0]) + LUMINANCE[1] * toLinear(c[1]) + LUMINANCE[2] * toLinear(c[2]));

/** The first principal axis of a symmetric 2 by 2 matrix, as a unit vector along (+a) or whichever side it falls. */
function principal(aa: number, ab: number, bb: number): [number, number] {
  const angle = 0.5 * Math.atan2(2 * ab, aa - bb);
  return [Math.cos(angle), Math.sin(angle)];
}

/** The lightness of a pixel's luminance, and its colour, as planes. */
function lightnessAndColour({ rgb, width, height }: Region): [lightness: Plane, a: Plane, b: Plane] {
  const planes: [Plane, Plane, Plane] = [
    planeOf(width, height),
    planeOf(width, height),
    planeOf(width, height),
  ];
  const c = new Float64Array(3);
  for (let i = 0; i < width * height; i++) {
    for (let k = 0; k < 3; k++) c[k] = rgb[i * 3 + k];
    planes[0].values[i] = Math.cbrt(luminanceOf(c));
    rgbToOklab(c);
    planes[1].values[i] = c[1];
    planes[2].values[i] = c[2];
  }
  return planes;
}

/** How much two lightnesses are one. */
const sameness = (dL: number): number => 1 / (1 + (dL / SAME_LIGHTNESS) ** 2);

/** The mean colour and the axis of the whole picture, from pairs of its pixels: the same ones every time. */
function wholeAxis(lightness: Plane, a: Plane, b: Plane): Survey['whole'] {
  const count = a.values.length;
  let seed = 29;
  const next = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return Math.floor((seed / 2 ** 32) * count);
  };
  const sums = { aa: 0, ab: 0, bb: 0, a: 0, b: 0, aL: 0, bL: 0 };
  for (let n = 0; n < PAIRS; n++) {
    const i = next();
    const j = next();
    const da = a.values[i] - a.values[j];
    const db = b.values[i] - b.values[j];
    const dL = lightness.values[i] - lightness.values[j];
    const weight = sameness(dL);
    sums.aa += weight * da * da;
    sums.ab += weight * da * db;
    sums.bb += weight * db * db;
    sums.a += a.values[i];
    sums.b += b.values[i];
    // What is much alike in lightness says the most of which of two is to be the lighter.
    sums.aL += weight * da * dL;
    sums.bL += weight * db * dL;
  }
  let [x, y] = principal(sums.aa, sums.ab, sums.bb);
  const lean = sums.aL * x + sums.bL * y;
  const telling = Math.abs(lean) > 1e-3 * (sums.aa + sums.bb) + 1e-9;
  if (telling ? lean < 0 : 0.4 * x + y < 0) [x, y] = [-x, -y];
  return { a: sums.a / PAIRS, b: sums.b / PAIRS, x, y };
}

/** A lightness moved by a contrast; towards white and black it comes to rest, nearly all of it is kept before. */
function movedLightness(lightness: number, by: number): number {
  const room = by > 0 ? 1 - lightness : lightness;
  if (by === 0 || room <= 0) return lightness;
  const share = (by / room) ** 2;
  return lightness + by / Math.sqrt(Math.sqrt(1 + share * share));
}

export function localContrastMono({ radius, amount, grain }: LocalSettings): Field {
  return {
    surveyKey: `local ${radius}`,
    survey: (region): Survey => {
      const { width, height, scale } = region;
      const [lightness, a, b] = lightnessAndColour(region);
      const whole = wholeAxis(lightness, a, b);
      const window = Math.max(1, Math.round(radius * scale.longEdge));
      const meanL = boxMean(lightness, window);
      const meanA = boxMean(a, window);
      const meanB = boxMean(b, window);
      const aa = planeOf(width, height);
      const ab = planeOf(width, height);
      const bb = planeOf(width, height);
      const aL = planeOf(width, height);
      const bL = planeOf(width, height);
      let all = 0;
      const count = a.values.length;
      for (let i = 0; i < count; i++) {
        const da = a.values[i] - meanA.values[i];
        const db = b.values[i] - meanB.values[i];
        const dL = lightness.values[i] - meanL.values[i];
        const weight = sameness(dL);
        aa.values[i] = weight * da * da;
        ab.values[i] = weight * da * db;
        bb.values[i] = weight * db * db;
        aL.values[i] = da * dL;
        bL.values[i] = db * dL;
        all += (aa.values[i] + bb.values[i]) / count;
      }
      const [mAa, mAb, mBb, mAL, mBL] = [aa, ab, bb, aL, bL].map(p => boxMean(p, window).values);
      const rough = { a: planeOf(width, height), b: planeOf(width, height) };
      const { x, y } = whole;
      const steady = STEADY * all;
      for (let i = 0; i < count; i++) {
        const [u, v] = principal(mAa[i] + steady * x * x, mAb[i] + steady * x * y, mBb[i] + steady * y * y);
        const lean = mAL[i] * u + mBL[i] * v;
        const enough = TELLING * (mAa[i] + mBb[i]) + 1e-7;
        const asWhole = u * x + v * y < 0 ? -1 : 1;
        // Which side is the light one: that of the window where it says so, else that of the whole.
        const side = (lean + asWhole * enough) / (Math.abs(lean) + enough);
        rough.a.values[i] = u * side;
        rough.b.values[i] = v * side;
      }
      const smooth = Math.max(1, Math.round(SMOOTH_RADIUS * scale.longEdge));
      return {
        whole,
        meanA,
        meanB,
        axisA: boxMean(rough.a, window),
        axisB: boxMean(rough.b, window),
        smoothA: guided(a, a, smooth, SMOOTH_EPSILON),
        smoothB: guided(b, b, smooth, SMOOTH_EPSILON),
      };
    },
    keepsGrey: true,
    own: (region, survey, out) => {
      const s = survey as Survey;
      const { whole } = s;
      const read = (plane: Plane) => {
        const values = new Float32Array(region.width * region.height);
        readPlane(plane, region.scale, region, values);
        return values;
      };
      const meanA = read(s.meanA);
      const meanB = read(s.meanB);
      const axisA = read(s.axisA);
      const axisB = read(s.axisB);
      const slopeA = read(s.smoothA.a);
      const restA = read(s.smoothA.b);
      const slopeB = read(s.smoothB.a);
      const restB = read(s.smoothB.b);
      const { rgb } = region;
      const c = new Float64Array(3);
      const soft = (along: number) => along / (1 + Math.abs(along) / LIMIT);
      for (let i = 0, p = 0; p < out.length; i++, p += 3) {
        for (let k = 0; k < 3; k++) c[k] = rgb[p + k];
        const lightness = Math.cbrt(luminanceOf(c));
        rgbToOklab(c);
        const evenA = slopeA[i] * c[1] + restA[i];
        const evenB = slopeB[i] * c[2] + restB[i];
        const a = evenA + GRAIN * grain * (c[1] - evenA);
        const b = evenB + GRAIN * grain * (c[2] - evenB);
        const fromWhole = soft(whole.x * (a - whole.a) + whole.y * (b - whole.b));
        const fromWindow = soft(axisA[i] * (a - meanA[i]) + axisB[i] * (b - meanB[i]));
        const by = amount * (GAIN_WHOLE * fromWhole + GAIN_WINDOW * fromWindow);
        const grey = toEncoded(movedLightness(lightness, by) ** 3);
        out[p] = grey;
        out[p + 1] = grey;
        out[p + 2] = grey;
      }
    },
  };
}

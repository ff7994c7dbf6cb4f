import { rgbToOklab } from '../colour/oklab';
import { toEncoded } from '../colour/transfer';
import { guided, type Guided } from '../kernels/guided';
import { boxMean, planeOf, readPlane, type Plane } from '../kernels/planes';
import type { Field } from './define';

/**
 * A conversion that keeps apart colours of equal luminance: to each pixel's OKLab lightness it adds how far its
 * colour stands from the mean colour around it, along the direction in which the colours there differ most
 * while their lightness does not. The direction is the first principal axis of the chroma differences in
 * the window, steadied by that of the whole picture, which also gives it its sign.
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
/** Lightness added for a chroma difference of one, at amount 1. */
const GAIN = 1.8;
/** Chroma contrast above this is gathered in softly. */
const LIMIT = 0.25;
/** Edge-keeping smoothing of the chroma: window as a fraction of the long edge, variance that counts as flat. */
const SMOOTH_RADIUS = 0.003;
const SMOOTH_EPSILON = 0.0004;

/** The first principal axis of a symmetric 2 by 2 matrix, as a unit vector along (+a) or whichever side it falls. */
function principal(aa: number, ab: number, bb: number): [number, number] {
  const angle = 0.5 * Math.atan2(2 * ab, aa - bb);
  return [Math.cos(angle), Math.sin(angle)];
}

export function localContrastMono({ radius, amount, grain }: LocalSettings): Field {
  return {
    survey: ({ rgb, width, height, scale }): Survey => {
      const lightness = planeOf(width, height);
      const a = planeOf(width, height);
      const b = planeOf(width, height);
      const c = new Float64Array(3);
      for (let i = 0; i < a.values.length; i++) {
        for (let k = 0; k < 3; k++) c[k] = rgb[i * 3 + k];
        rgbToOklab(c);
        lightness.values[i] = c[0];
        a.values[i] = c[1];
        b.values[i] = c[2];
      }
      const window = Math.max(1, Math.round(radius * scale.longEdge));
      const meanL = boxMean(lightness, window);
      const meanA = boxMean(a, window);
      const meanB = boxMean(b, window);
      const aa = planeOf(width, height);
      const ab = planeOf(width, height);
      const bb = planeOf(width, height);
      let allAa = 0;
      let allAb = 0;
      let allBb = 0;
      let withA = 0;
      let withB = 0;
      for (let i = 0; i < a.values.length; i++) {
        const da = a.values[i] - meanA.values[i];
        const db = b.values[i] - meanB.values[i];
        const dL = lightness.values[i] - meanL.values[i];
        const weight = 1 / (1 + (dL / SAME_LIGHTNESS) ** 2);
        aa.values[i] = weight * da * da;
        ab.values[i] = weight * da * db;
        bb.values[i] = weight * db * db;
        allAa += aa.values[i];
        allAb += ab.values[i];
        allBb += bb.values[i];
        withA += da * dL;
        withB += db * dL;
      }
      const count = a.values.length;
      let [x, y] = principal(allAa, allAb, allBb);
      // The side that is already lighter becomes lighter still; where that says nothing, warm is light.
      const lean = withA * x + withB * y;
      const telling = Math.abs(lean) > 1e-3 * (allAa + allBb) + 1e-9;
      if (telling ? lean < 0 : 0.4 * x + y < 0) [x, y] = [-x, -y];
      const windows = [aa, ab, bb].map(p => boxMean(p, window));
      const rough = { a: planeOf(width, height), b: planeOf(width, height) };
      for (let i = 0; i < count; i++) {
        let [u, v] = principal(
          windows[0].values[i] + (STEADY * allAa) / count,
          windows[1].values[i] + (STEADY * allAb) / count,
          windows[2].values[i] + (STEADY * allBb) / count,
        );
        if (u * x + v * y < 0) [u, v] = [-u, -v];
        rough.a.values[i] = u;
        rough.b.values[i] = v;
      }
      const smooth = Math.max(1, Math.round(SMOOTH_RADIUS * scale.longEdge));
      return {
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
      for (let i = 0, p = 0; p < out.length; i++, p += 3) {
        for (let k = 0; k < 3; k++) c[k] = rgb[p + k];
        rgbToOklab(c);
        const evenA = slopeA[i] * c[1] + restA[i];
        const evenB = slopeB[i] * c[2] + restB[i];
        const a = evenA + grain * (c[1] - evenA) - meanA[i];
        const b = evenB + grain * (c[2] - evenB) - meanB[i];
        const along = axisA[i] * a + axisB[i] * b;
        const contrast = along / (1 + Math.abs(along) / LIMIT);
        const L = Math.min(1, Math.max(0, c[0] + GAIN * amount * contrast));
        const grey = amount === 0 || contrast === 0 ? toEncoded(c[0] ** 3) : toEncoded(L ** 3);
        out[p] = grey;
        out[p + 1] = grey;
        out[p + 2] = grey;
      }
    },
  };
}

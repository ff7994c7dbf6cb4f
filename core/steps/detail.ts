import { clearHaze, reweigh } from '../kernels/base-layers';
import { leastPlane, lumaPlane } from '../kernels/channels';
import { guided, type Guided } from '../kernels/guided';
import { linesOf, type Lines } from '../kernels/lines';
import { boxExtreme, halvePlane, type Plane } from '../kernels/planes';
import { rollingBase } from '../kernels/rolling';
import type { Field, Region } from './define';

/**
 * Local contrast at three scales over edge-keeping bases, and haze. The bases come from a survey of the whole
 * picture, small, so that they cost the same at any size and no tile needs its neighbours.
 */

export interface DetailAmounts {
  coarse: number;
  medium: number;
  fine: number;
  haze: number;
}

/** Fine detail: of the guided filter's window (a fraction of the long edge), and the variance that still counts as texture. */
const FINE = { radius: 0.0025, epsilon: 0.0022 };
/** What counts as small at the wider scales: a standard deviation as a fraction of the long edge. */
const WIDER = { medium: 0.0075, coarse: 0.03 } as const;
/** The small picture is halved until a scale is at most so many pixels: the base has nothing finer in it. */
const SCALE_PIXELS = { medium: 3, coarse: 4 } as const;
/** The difference (encoded) at which two places are no longer one thing. */
const ALIKE = 0.09;
const ROUNDS = 4;
/** Window (pixels of the halved picture) and variance of the lines that carry a base to full size along its edges. */
const CARRY_RADIUS = 1;
const CARRY_EPSILON = 0.0002;

/** How much a detail is multiplied by at 1, less one; at -1 it is gone. */
const GAIN = { fine: 1.6, medium: 1.5, coarse: 1.4 } as const;

/** Sources for haze: K. He, J. Sun, X. Tang, "Single Image Haze Removal Using Dark Channel Prior", CVPR 2009. */
const DARK_RADIUS = 0.007;
const REFINE_RADIUS = 0.04;
const REFINE_EPSILON = 0.001;
/** The share of haze that is taken away at 1, so that distance stays. */
const KEEP_DISTANCE = 0.85;

interface DetailSurvey {
  /** The fine base over luma, the medium over the fine, the coarse over the medium. */
  layers?: Lines[];
  haze?: { through: Guided; veil: number };
}

const pixels = (fraction: number, longEdge: number) => Math.max(1, Math.round(fraction * longEdge));

/** The light of the haze: the luma of the pixels whose dark channel is among the highest thousandth. */
function veilOf(dark: Plane, luma: Plane): number {
  const order = Array.from(dark.values.keys()).sort((i, j) => dark.values[j] - dark.values[i]);
  const count = Math.max(1, Math.floor(order.length / 1000));
  let sum = 0;
  for (let i = 0; i < count; i++) sum += luma.values[order[i]];
  return Math.min(1, Math.max(0.2, sum / count));
}

function surveyHaze(whole: Region, luma: Plane): DetailSurvey['haze'] {
  const { width, height, rgb, scale } = whole;
  const dark = boxExtreme(leastPlane(rgb, width, height), pixels(DARK_RADIUS, scale.longEdge), 1);
  const veil = veilOf(dark, luma);
  for (let i = 0; i < dark.values.length; i++) {
    dark.values[i] = KEEP_DISTANCE * Math.min(1, Math.max(0, dark.values[i] / veil));
  }
  return { through: guided(luma, dark, pixels(REFINE_RADIUS, scale.longEdge), REFINE_EPSILON), veil };
}

/** What a guided base makes of a plane of its own size. */
function through({ a, b }: Guided, plane: Plane): Plane {
  const values = plane.values.map((v, i) => a.values[i] * v + b.values[i]);
  return { ...plane, values };
}

/**
 * The base without what is smaller than a scale, as lines over the base before it: found in a small picture of that, read
 * at full size, where they follow its edges.
 */
function widerBase(before: Plane, longEdge: number, of: keyof typeof WIDER): { lines: Guided; base: Plane } {
  const scale = WIDER[of];
  let input = before;
  let edge = longEdge;
  while (scale * edge > SCALE_PIXELS[of]) {
    input = halvePlane(input);
    edge /= 2;
  }
  const base = rollingBase(input, Math.max(0.6, scale * edge), ALIKE, ROUNDS);
  return { lines: guided(input, base, CARRY_RADIUS, CARRY_EPSILON), base };
}

/** Three bases, each without what is finer than its scale. */
function layersOf(luma: Plane, scale: Region['scale']): Lines[] {
  const fine = guided(luma, luma, pixels(FINE.radius, scale.longEdge), FINE.epsilon);
  const medium = widerBase(through(fine, luma), scale.longEdge, 'medium');
  const shrunk = (scale.longEdge * medium.base.width) / luma.width;
  const coarse = widerBase(medium.base, shrunk, 'coarse');
  return [fine, medium.lines, coarse.lines].map(({ a, b }) => linesOf([a, b]));
}

/** The detail field of some amounts; null where all are 0. */
export function detailField(amounts: DetailAmounts): Field | null {
  const { coarse, medium, fine, haze } = amounts;
  const layered = coarse !== 0 || medium !== 0 || fine !== 0;
  if (!layered && haze === 0) return null;
  const gain = (name: keyof typeof GAIN) => amounts[name] * (amounts[name] > 0 ? GAIN[name] : 1);
  return {
    keepsGrey: true,
    surveyKey: `detail ${layered} ${haze !== 0}`,
    survey: (whole): DetailSurvey => {
      const { width, height, rgb, scale } = whole;
      const luma = lumaPlane(rgb, width, height);
      const found: DetailSurvey = {};
      if (layered) found.layers = layersOf(luma, scale);
      if (haze !== 0) found.haze = surveyHaze(whole, luma);
      return found;
    },
    own: (region, survey, out) => {
      const { layers, haze: h } = survey as DetailSurvey;
      const { scale } = region;
      if (layers) {
        reweigh(region, layers, scale, [gain('fine'), gain('medium'), gain('coarse')], out);
      } else out.set(region.rgb.subarray(0, out.length));
      if (h) clearHaze(out, region, [h.through.a, h.through.b], scale, haze, h.veil);
    },
  };
}

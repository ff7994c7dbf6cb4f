import { clearHaze, reweigh } from '../kernels/base-layers';
import { leastPlane, lumaPlane } from '../kernels/channels';
import { guided, type Guided } from '../kernels/guided';
import { boxExtreme, type Plane } from '../kernels/planes';
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

/** Window radii as fractions of the long edge, and the variance that still counts as texture. */
const SCALES = {
  fine: { radius: 0.0025, epsilon: 0.0012 },
  medium: { radius: 0.012, epsilon: 0.0014 },
  coarse: { radius: 0.05, epsilon: 0.002 },
} as const;

/** How much a detail is multiplied by at 1, less one; at -1 it is gone. */
const GAIN = { fine: 1.6, medium: 1.8, coarse: 1.6 } as const;

/** Sources for haze: K. He, J. Sun, X. Tang, "Single Image Haze Removal Using Dark Channel Prior", CVPR 2009. */
const DARK_RADIUS = 0.007;
const REFINE_RADIUS = 0.04;
const REFINE_EPSILON = 0.001;
/** The share of haze that is taken away at 1, so that distance stays. */
const KEEP_DISTANCE = 0.85;

interface DetailSurvey {
  fine?: Guided;
  medium?: Guided;
  coarse?: Guided;
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
      if (layered) {
        for (const name of ['fine', 'medium', 'coarse'] as const) {
          const { radius, epsilon } = SCALES[name];
          found[name] = guided(luma, luma, pixels(radius, scale.longEdge), epsilon);
        }
      }
      if (haze !== 0) found.haze = surveyHaze(whole, luma);
      return found;
    },
    own: (region, survey, out) => {
      const { fine: f, medium: m, coarse: c, haze: h } = survey as DetailSurvey;
      const { scale } = region;
      if (f && m && c) {
        const planes = [f.a, f.b, m.a, m.b, c.a, c.b];
        reweigh(region, planes, scale, [gain('fine'), gain('medium'), gain('coarse')], out);
      } else out.set(region.rgb.subarray(0, out.length));
      if (h) clearHaze(out, region, [h.through.a, h.through.b], scale, haze, h.veil);
    },
  };
}

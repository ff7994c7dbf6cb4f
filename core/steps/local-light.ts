import { luma } from '../colour/srgb';
import { darkShare, lightShare, middleShare } from '../colour/tones';
import { toEncoded, toLinear } from '../colour/transfer';
import { defineStep, type Point } from './define';
import { detailField } from './detail';
import { amount, choice, exposure } from '../settings/fields';

const shares = {
  all: () => 1,
  shadows: darkShare,
  midtones: middleShare,
  highlights: lightShare,
} as const;

interface PointSettings {
  exposure: number;
  contrast: number;
  saturation: number;
  range: keyof typeof shares;
}

/** Exposure in linear light, contrast about mid grey (slope 2^contrast), saturation about luma, by tonal range. */
function lit(s: PointSettings): Point {
  if (s.exposure === 0 && s.contrast === 0 && s.saturation === 0) return () => undefined;
  const share = shares[s.range];
  return c => {
    const part = share(Math.min(1, Math.max(0, luma(c[0], c[1], c[2]))));
    if (part === 0) return;
    const gain = 2 ** (s.exposure * part);
    const slope = 2 ** (s.contrast * part);
    for (let i = 0; i < 3; i++) {
      const v = s.exposure === 0 ? c[i] : toEncoded(toLinear(c[i]) * gain);
      c[i] = 0.5 + (v - 0.5) * slope;
    }
    if (s.saturation === 0) return;
    const grey = luma(c[0], c[1], c[2]);
    for (let i = 0; i < 3; i++) c[i] = grey + (1 + s.saturation * part) * (c[i] - grey);
  };
}

/**
 * Light in an area: dodging and burning by exposure, contrast, saturation and local contrast, in one tonal range
 * or all. Local contrast looks at neighbours; without it every colour is changed by itself.
 */
export const localLight = defineStep({
  kind: 'local-light',
  stage: 'colour',
  face: 'area',
  startsOnArea: true,
  fields: {
    exposure: exposure(-4, 4),
    contrast: amount(),
    coarse: amount(),
    medium: amount(),
    saturation: amount(),
    range: choice(['all', 'shadows', 'midtones', 'highlights'], 'all'),
  },
  point: lit,
  field: s => {
    const detail = detailField({ coarse: s.coarse, medium: s.medium, fine: 0, haze: 0 });
    if (!detail) return null;
    const point = lit(s);
    const share = shares[s.range];
    return {
      keepsGrey: true,
      survey: detail.survey,
      surveyKey: detail.surveyKey,
      own: (region, survey, out, placed) => {
        detail.own(region, survey, out, placed);
        const { rgb } = region;
        const c = new Float64Array(3);
        for (let i = 0; i < out.length; i += 3) {
          const tone = luma(rgb[i], rgb[i + 1], rgb[i + 2]);
          const part = share(Math.min(1, Math.max(0, tone)));
          for (let k = 0; k < 3; k++) c[k] = rgb[i + k] + part * (out[i + k] - rgb[i + k]);
          point(c);
          for (let k = 0; k < 3; k++) out[i + k] = c[k];
        }
      },
    };
  },
});

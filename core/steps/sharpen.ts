import { lumaPlane } from '../kernels/channels';
import { wideGaussian } from '../kernels/gaussian';
import type { Plane } from '../kernels/planes';
import { sharpenBy, sharpenFrom } from '../kernels/unsharp';
import { defineStep } from './define';
import { fraction, length, plain } from '../settings/fields';

/** From this radius on the blurred picture is read from the small survey instead of made at full size. */
const WIDE = 0.0025;

/**
 * Unsharp masking on lightness: luma less its own blur (a Gaussian whose deviation is the radius), times the
 * amount, added to the three channels alike. Detail below the threshold is eased to none, so that grain is not
 * sharpened.
 */
export const sharpen = defineStep({
  kind: 'sharpen',
  stage: 'finish',
  face: 'edges',
  seenNatural: true,
  fields: { amount: plain(0, 5), radius: length(0.01, 0.0004), threshold: fraction() },
  point: () => () => undefined,
  field: s => {
    if (s.amount === 0) return null;
    const wide = s.radius >= WIDE;
    const sigma = (longEdge: number) => s.radius * longEdge;
    return {
      keepsGrey: true,
      margin: ({ longEdge }) => (wide ? 0 : Math.ceil(3 * sigma(longEdge)) + 1),
      survey: wide
        ? ({ rgb, width, height, scale }) =>
            wideGaussian(lumaPlane(rgb, width, height), sigma(scale.longEdge))
        : undefined,
      own: (region, survey, out) => {
        if (wide) sharpenFrom(region, survey as Plane, region.scale, s, out);
        else sharpenBy(region, sigma(region.scale.longEdge), s, out);
      },
    };
  },
});

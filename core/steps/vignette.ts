import { shade, shadeWeights } from '../kernels/shade';
import { defineStep } from './define';
import { amount, fraction, group } from '../settings/fields';

/** Stops by which the corners darken (or lighten) at amount 1. */
const STOPS = 2.5;

interface VignetteSettings {
  size: number;
  roundness: number;
  feather: number;
  centre: { x: number; y: number };
}

/**
 * The superellipse of a vignette in a frame of a size (pixels): its half axes are the frame's own, drawn towards
 * equal ones for a circle, times `reach`.
 */
export function vignetteShape(
  { size, roundness, feather, centre }: VignetteSettings,
  { width, height }: { width: number; height: number },
) {
  const middle = (width + height) / 4;
  const toCircle = (half: number) => half + Math.max(0, roundness) * (middle - half);
  const reach = 0.25 + 1.25 * size;
  return {
    centreX: centre.x * width,
    centreY: centre.y * height,
    halfX: toCircle(width / 2) * reach,
    halfY: toCircle(height / 2) * reach,
    power: roundness < 0 ? 2 * 4 ** -roundness : 2,
    softness: 0.02 + 0.98 * feather,
    reach,
  };
}

/**
 * Edges darkened or lightened along a superellipse |x|ⁿ + |y|ⁿ = 1 around the centre: a rectangle at roundness
 * -1 (n = 8), the frame's own ellipse at 0 (n = 2), a circle at 1. Size is how far out it begins, feather
 * how softly. It follows the crop. Darkening is in linear light and can spare the highlights.
 */
export const vignette = defineStep({
  kind: 'vignette',
  stage: 'finish',
  fields: {
    amount: amount(),
    size: fraction(0.6),
    roundness: amount(),
    feather: fraction(0.6),
    centre: group({ x: fraction(0.5), y: fraction(0.5) }),
    spareHighlights: fraction(),
  },
  point: () => () => undefined,
  field: s => {
    if (s.amount === 0) return null;
    const { size, roundness, feather, centre } = s;
    return {
      keepsGrey: true,
      inPlace: true,
      placedKey: JSON.stringify([size, roundness, feather, centre]),
      placed: region => shadeWeights(region, vignetteShape(s, region.scale)),
      own: (region, _survey, out, weights) => {
        shade(region.rgb, out, weights, s.amount * STOPS, s.spareHighlights);
      },
    };
  },
});
